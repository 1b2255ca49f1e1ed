import type { Chains } from './chains.js';
import { membersOf, type Components } from './components.js';
import { isAction, type Graph } from './graph.js';
import { shortestPath, type GraphPath } from './paths.js';

/** A stretch of a heaviest path: hops one after another, or a cycle that it runs into. */
export interface ChainPart {
  /** Actions in it. Those of all parts add up to the length of the chain. */
  hops: number;
  cycle: boolean;
  /** Number of the path's node, counted from its start, at which the stretch begins. */
  from: number;
}

/** The stretches of a heaviest path, in order; none without a hop. Cost: the path and the cycles that it meets. */
export function chainParts(g: Graph, c: Components, chains: Chains, path: GraphPath): ChainPart[] {
  const parts: ChainPart[] = [];
  const nodes = [path.start, ...path.edges.map((e) => g.head[e])];
  let before = -1;
  nodes.forEach((n, from) => {
    const k = c.of[n];
    if (chains.hasCycle[n] === 1) {
      if (k !== before) parts.push({ hops: actionsIn(g, c, k), cycle: true, from });
    } else if (isAction(g, n)) {
      const last = parts[parts.length - 1];
      if (last && !last.cycle) last.hops++;
      else parts.push({ hops: 1, cycle: false, from });
    }
    before = k;
  });
  return parts.filter((p) => p.hops > 0);
}
function actionsIn(g: Graph, c: Components, k: number): number {
  let n = 0;
  for (const node of membersOf(c, k)) if (isAction(g, node)) n++;
  return n;
}

/** `7 hops`, or `2 hops, then a cycle of 3, then 1 hop`. */
export function chainText(parts: readonly Pick<ChainPart, 'hops' | 'cycle'>[]): string {
  if (parts.length === 0) return '0 hops';
  return parts
    .map(({ hops, cycle }) => (cycle ? `a cycle of ${hops}` : `${hops} ${hops === 1 ? 'hop' : 'hops'}`))
    .join(', then ');
}

/** A shortest way from a node of a cycle back to itself. Cost: its edges times what they meet in its component. */
export function shortestRound(g: Graph, c: Components, node: number): GraphPath | null {
  let best: GraphPath | null = null;
  for (let e = g.first[node]; e < g.end[node]; e++) {
    if (c.of[g.head[e]] !== c.of[node]) continue;
    const back = shortestPath(g, g.head[e], node, (n) => c.of[n] === c.of[node]);
    if (!back || (best && back.edges.length + 1 >= best.edges.length)) continue;
    best = { start: node, edges: [e, ...back.edges], tails: [node, ...back.tails] };
    if (best.edges.length <= 2) break;
  }
  return best;
}
