import type { Chains } from './chains.js';
import type { Components } from './components.js';
import { isAction, type Graph } from './graph.js';
import { LIMITS } from '../limits.js';
import { shortestRoundOf, type GraphPath } from './paths.js';

/** A stretch of a heaviest path: hops one after another, or a cycle that it runs into. */
export interface ChainPart {
  /** Actions in it. Those of all parts add up to the length of the chain. */
  hops: number;
  cycle: boolean;
  /** Number of the path's node, counted from its start, at which the stretch begins. */
  from: number;
}

/** The stretches of a heaviest path, in order; none without a hop. Cost: the path. */
export function chainParts(g: Graph, c: Components, chains: Chains, path: GraphPath): ChainPart[] {
  const parts: ChainPart[] = [];
  const nodes = [path.start, ...path.edges.map((e) => g.head[e])];
  let before = -1;
  let cycle: ChainPart | null = null;
  nodes.forEach((n, from) => {
    const k = c.of[n];
    if (k !== before && cycle) {
      // What a heaviest path has before it and not behind it.
      cycle.hops -= chains.length[n];
      cycle = null;
    }
    if (chains.hasCycle[n] === 1) {
      if (k !== before) parts.push((cycle = { hops: chains.length[n], cycle: true, from }));
    } else if (isAction(g, n)) {
      const last = parts[parts.length - 1];
      if (last && !last.cycle) last.hops++;
      else parts.push({ hops: 1, cycle: false, from });
    }
    before = k;
  });
  return parts.filter((p) => p.hops > 0);
}

/** `7 hops`, or `2 hops, then a cycle of 3, then 1 hop`. */
export function chainText(parts: readonly Pick<ChainPart, 'hops' | 'cycle'>[]): string {
  if (parts.length === 0) return '0 hops';
  return parts
    .map(({ hops, cycle }) => (cycle ? `a cycle of ${hops}` : `${hops} ${hops === 1 ? 'hop' : 'hops'}`))
    .join(', then ');
}

/**
 * A shortest way from a node of a cycle back to itself; null where it is not found among so many nodes that lie nearest. Cost:
 * these, and their edges.
 */
export function shortestRound(g: Graph, c: Components, node: number): GraphPath | null {
  let left: number = LIMITS.audit.nodesOfRound;
  return shortestRoundOf(g, node, (n) => c.of[n] === c.of[node] && (n === node || left-- > 0));
}
