import type { Components } from './components.js';
import { tailOf, type Graph } from './graph.js';

/** Beyond so many hops upwards working everything out anew is cheaper. */
const MAX_HOPS = 24;

/**
 * Works out components again whose edges changed and, as long as that changes them, those that lead to them. `revise`
 * says whether a component changed. Cost: a pass over the edges for each hop. False if it gave up.
 */
export function reviseUpwards(
  g: Graph,
  { of, starts, members }: Components,
  tails: Int32Array,
  revise: (component: number) => boolean,
): boolean {
  const { head, nodes } = g;
  let front = new Set<number>();
  for (const n of tails) front.add(of[n]);
  for (let hop = 0; hop < MAX_HOPS; hop++) {
    const changed = [...front].sort((a, b) => a - b).filter(revise);
    if (changed.length === 0) return true;
    const marked = new Uint8Array(nodes);
    for (const k of changed) for (let m = starts[k]; m < starts[k + 1]; m++) marked[members[m]] = 1;
    front = new Set();
    for (let e = 0; e < head.length; e++) {
      if (marked[head[e]] === 0) continue;
      const from = of[tailOf(g, e)];
      if (from !== of[head[e]]) front.add(from);
    }
  }
  return false;
}
