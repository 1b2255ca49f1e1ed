import { chainParts, chainText } from '../graph/chain-parts.js';
import { heaviestPath, type Chains } from '../graph/chains.js';
import type { Components } from '../graph/components.js';
import { edgeDelay, isAction, type Graph } from '../graph/graph.js';
import { latency } from '../graph/paths.js';

/** What is known of the whole graph, by which the heaviest chain is found. */
export interface Ways {
  components: Components;
  chains: Chains;
}

/** An entry that the heaviest chain comes to. */
export interface HeaviestStep {
  key: string;
  /** The hops of the chain that end in it, the first and the last; both 0 for the start and for a channel before a hop. */
  hops: readonly [number, number];
  /** Seconds from the step before. */
  after: number;
}

/** The heaviest chain from a start, as the audit finds it. */
export interface Heaviest {
  /** Entries in order; one that the chain comes to twice stands twice. */
  steps: HeaviestStep[];
  /** The length that the audit counts: a cycle counts each of its actions. */
  hops: number;
  /** `7 hops`, or `2 hops, then a cycle of 3`. */
  text: string;
  /** The sum of the delays along it. */
  seconds: number;
}

/** The heaviest of the chains that begin at `starts`; `keyOf` gives a node's entry, null where none is drawn. Cost: what it meets. */
export function heaviestOf(
  g: Graph,
  { components: c, chains }: Ways,
  starts: readonly number[],
  keyOf: (node: number) => string | null,
): Heaviest {
  const weight = (n: number): number => chains.length[n];
  const start = starts.reduce((best, n) => (weight(n) > weight(best) ? n : best), starts[0]);
  const path = heaviestPath(g, c, chains, start);
  const steps: HeaviestStep[] = [];
  let hop = 0;
  let us = 0;
  const come = (node: number): void => {
    if (isAction(g, node) && node !== start) hop++;
    const key = keyOf(node);
    if (key === null) return;
    const last = steps[steps.length - 1];
    const own = isAction(g, node) ? hop : 0;
    if (last?.key === key) {
      steps[steps.length - 1] = { ...last, hops: [last.hops[0], own], after: last.after + us / 1e6 };
    } else steps.push({ key, hops: [own, own], after: us / 1e6 });
    us = 0;
  };
  come(start);
  path.edges.forEach((e, i) => {
    us += Math.round(edgeDelay(g, e, path.tails[i]) * 1e6);
    come(g.head[e]);
  });
  return {
    steps,
    hops: weight(start),
    text: chainText(chainParts(g, c, chains, path)),
    seconds: latency(g, path),
  };
}
