import type { AnalysisInputs } from './inputs.js';

/** Events that share a value, such as a length of chain. */
export interface Bucket {
  value: number;
  count: number;
  /** Some of them. */
  events: { at: string; name: string }[];
}
export interface Figures {
  /** Outside events that bring something about, by the hops of their longest chain. */
  chains: Bucket[];
  /** Bound events, by how many distinct actions they reach directly. */
  fanOuts: Bucket[];
}
const MOST_NAMED = 40;

/** How chains and fan-outs are distributed, ascending. Cost: the events. */
export function figuresOf(inputs: AnalysisInputs): Figures {
  const { g, x, facts } = inputs;
  const { chains, fanOut, outside } = facts;
  const lengths = new Map<number, Bucket>();
  for (let n = 0; n < g.nodes; n++) {
    if (outside[n] === 1 && chains.length[n] > 0) put(lengths, chains.length[n], n);
  }
  const spreads = new Map<number, Bucket>();
  for (let n = 0; n < g.nodes; n++) {
    if (fanOut[n] > 0) put(spreads, fanOut[n], n);
  }
  const sorted = (m: Map<number, Bucket>): Bucket[] => [...m.values()].sort((a, b) => a.value - b.value);
  return { chains: sorted(lengths), fanOuts: sorted(spreads) };

  function put(buckets: Map<number, Bucket>, value: number, node: number): void {
    let bucket = buckets.get(value);
    if (!bucket) buckets.set(value, (bucket = { value, count: 0, events: [] }));
    bucket.count++;
    if (bucket.events.length >= MOST_NAMED) return;
    const i = g.instanceOf[node];
    bucket.events.push({ at: x.address(i), name: x.assetOf(i).events[node - x.nodeBase[i]].name });
  }
}
