import { bindingOfEdge, PUBLISH, type Graph } from '../../graph/graph.js';
import { canonicalJson } from '../../project/canonical.js';
import type { Binding } from '../../project/types.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { eachDelivery } from '../deliveries.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';

export const duplicateBinding = defineRule<'twice'>({
  meta: {
    name: 'duplicate-binding',
    severity: 'warning',
    group: 'correctness',
    what: 'Two bindings deliver the same event to the same action in the same way.',
    why: 'Everything happens twice, and a toggle cancels itself.',
    cure: 'Remove one of them, or mute it in that placement.',
  },
  messages: { twice: '{later} does again what {first} does: {what}' },
  check(ctx, report) {
    const { g, x } = ctx;
    const same = new Sameness();
    const pairUp = (items: Item[], what: (item: Item) => string): void => {
      const first = new Map<string, Item>();
      for (const item of items) {
        const earlier = first.get(item.same);
        if (!earlier) first.set(item.same, item);
        else if (earlier.binding !== item.binding) {
          const [a, b] = [bindingRef(x, earlier.binding), bindingRef(x, item.binding)];
          report({
            subject: { bindings: [a, b] },
            occurrences: [x.ownerOf(item.binding)],
            message: 'twice',
            data: { later: b.binding, first: a.binding, what: what(item) },
            evidence: () => ({ kind: 'bindings', bindings: [a, b] }),
          });
        }
      }
    };
    const repeats = new Repeats(g);
    const repeated = (n: number): boolean => g.first[n + 1] - g.first[n] > 1 && repeats.any(n);
    const question: EventQuestion = { name: 'duplicate-binding', test: repeated };
    ctx.eachSuspect(question, (n) => {
      pairUp(publications(g, n, same), () => 'publishing the same');
      pairUp(deliveries(ctx, n, same), () => 'the same action');
    });
    for (let n = g.channelBase; n < g.nodes; n++) {
      if (repeated(n)) pairUp(hearings(g, n, same), () => 'on the same channel');
    }
  },
});

/** Whether anything is delivered or published twice at all, which is rare; only then it is compared how. */
class Repeats {
  private readonly mark: Int32Array;
  private stamp = 0;
  constructor(private readonly g: Graph) {
    this.mark = new Int32Array(g.nodes);
  }
  any(from: number): boolean {
    const { g } = this;
    const stamp = ++this.stamp;
    for (let e = g.first[from]; e < g.first[from + 1]; e++) {
      if (this.again(g.head[e], stamp)) return true;
      if (g.meta[e] >> 2 !== PUBLISH) continue;
      const channel = g.head[e];
      for (let h = g.first[channel]; h < g.first[channel + 1]; h++)
        if (this.again(g.head[h], stamp)) return true;
    }
    return false;
  }
  private again(node: number, stamp: number): boolean {
    if (this.mark[node] === stamp) return true;
    this.mark[node] = stamp;
    return false;
  }
}

interface Item {
  /** Number of the expanded binding; items are in running order. */
  binding: number;
  /** Equal for what is the same delivery. */
  same: string;
}

/** Arguments and delay of a binding as a text; most bindings have neither. */
class Sameness {
  private readonly known = new Map<Binding, string>();
  of(binding: Binding): string {
    let text = this.known.get(binding);
    if (text === undefined) {
      const args = binding.args && Object.keys(binding.args).length > 0 ? canonicalJson(binding.args) : '';
      text = `${Math.round((binding.delay ?? 0) * 1e6)}${args}`;
      this.known.set(binding, text);
    }
    return text;
  }
}

function inRunningOrder(items: Item[]): Item[] {
  const seen = new Set<string>();
  return items
    .filter(({ binding, same }) => !seen.has(`${binding}/${same}`) && seen.add(`${binding}/${same}`))
    .sort((a, b) => a.binding - b.binding);
}

/**
 * What hears on one channel node. An event that does nothing but publish there delivers just this; for every other
 * event all of its deliveries are compared, since the first that a hearing equals may be a direct one.
 */
function hearings(g: Graph, channel: number, same: Sameness): Item[] {
  const items: Item[] = [];
  if (!hasPlainPublisher(g, channel)) return items;
  for (let e = g.first[channel]; e < g.first[channel + 1]; e++) {
    const { binding } = bindingOfEdge(g, e)!;
    items.push({ binding: g.ref[e], same: `${g.head[e]}/${same.of(binding)}` });
  }
  return inRunningOrder(items);
}
const plainPublishers = new WeakMap<Graph, Uint8Array>();
/** Whether some event does nothing but publish to that channel node. */
function hasPlainPublisher(g: Graph, channel: number): boolean {
  let known = plainPublishers.get(g);
  if (!known) {
    known = new Uint8Array(g.nodes);
    for (let n = 0; n < g.channelBase; n++) {
      const e = g.first[n];
      if (g.first[n + 1] - e === 1 && g.meta[e] >> 2 === PUBLISH) known[g.head[e]] = 1;
    }
    plainPublishers.set(g, known);
  }
  return known[channel] === 1;
}

function publications(g: Graph, event: number, same: Sameness): Item[] {
  const items: Item[] = [];
  for (let e = g.first[event]; e < g.first[event + 1]; e++) {
    if (g.meta[e] >> 2 !== PUBLISH) continue;
    items.push({ binding: g.ref[e], same: `${g.head[e]}/${same.of(bindingOfEdge(g, e)!.binding)}` });
  }
  return inRunningOrder(items);
}

/** All deliveries of an event. */
function deliveries({ g }: AuditContext, event: number, same: Sameness): Item[] {
  const items: Item[] = [];
  eachDelivery(g, event, ({ action, edge }) => {
    const { binding } = bindingOfEdge(g, edge)!;
    items.push({ binding: g.ref[edge], same: `${action}/${same.of(binding)}` });
  });
  return inRunningOrder(items);
}
