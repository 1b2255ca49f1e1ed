import { leastFirst } from '../util/least-first.js';
import { membersOf, type Components } from './components.js';
import type { Incoming } from './incoming.js';

/**
 * Works components out again and, as long as that changes them, those that lead to them, each once: whatever a component
 * leads to comes before it. `revise` says whether a component changed. Cost: the components that are worked out, and what
 * leads to those that change.
 */
export function reviseUpwards(
  c: Components,
  incoming: Incoming,
  begin: Iterable<number>,
  revise: (component: number) => boolean,
): void {
  const { of, rank } = c;
  const queue = leastFirst();
  const waiting = new Set<number>();
  const put = (component: number): void => {
    if (waiting.has(component)) return;
    waiting.add(component);
    queue.push([rank[component], component]);
  };
  for (const component of begin) put(component);
  for (let next = queue.pop(); next !== undefined; next = queue.pop()) {
    const [, k] = next;
    waiting.delete(k);
    if (!revise(k)) continue;
    for (const n of membersOf(c, k)) {
      for (let i = 0; i < incoming.degree(n); i++) {
        const from = of[incoming.tail(n, i)];
        if (from !== k) put(from);
      }
    }
  }
}
