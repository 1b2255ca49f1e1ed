import { cyclicComponents, stronglyConnected, type Components } from './components.js';
import { CONDITIONAL, DELAYED, INSTANT, LIMITED, type Graph } from './graph.js';
import { shortestPath, type GraphPath } from './paths.js';
import { IntList } from '../util/int-list.js';

/** A component at one level that holds edges of the level's own class. */
export interface CycleGroup {
  /** The level's own class; the level holds this class and all stronger ones. */
  cls: number;
  nodes: Int32Array;
  /** Edges of the own class with both ends inside, and their tails. */
  edges: Int32Array;
  tails: Int32Array;
}

/**
 * Relay cycles: for each of the levels instant, + delayed, + conditional, + limited, the strongly connected components
 * that hold an edge of the level's own class with both ends inside. What is acyclic in the whole graph is acyclic at
 * every level, so the levels look only at nodes of cyclic components. Cost: linear at each of the four levels.
 */
export function cycleGroups(g: Graph, whole: Components): CycleGroup[] {
  const cyclic = cyclicComponents(g, whole);
  const inCycles = new IntList();
  for (let n = 0; n < g.nodes; n++) if (cyclic[whole.of[n]] === 1) inCycles.push(n);
  const nodes = inCycles.toArray();
  if (nodes.length === 0) return [];
  const groups: CycleGroup[] = [];
  for (const cls of [INSTANT, DELAYED, CONDITIONAL, LIMITED]) {
    const c = stronglyConnected(g, cls, nodes);
    groups.push(...groupsOfLevel(g, c, nodes, cls));
  }
  return groups;
}

function groupsOfLevel(g: Graph, c: Components, nodes: Int32Array, cls: number): CycleGroup[] {
  const edges = new Map<number, { edges: IntList; tails: IntList }>();
  for (const n of nodes) {
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      if ((g.meta[e] & 3) !== cls || c.of[g.head[e]] !== c.of[n]) continue;
      let own = edges.get(c.of[n]);
      if (!own) edges.set(c.of[n], (own = { edges: new IntList(), tails: new IntList() }));
      own.edges.push(e);
      own.tails.push(n);
    }
  }
  const { starts, members } = c;
  return [...edges].map(([k, own]) => ({
    cls,
    nodes: members.slice(starts[k], starts[k + 1]),
    edges: own.edges.toArray(),
    tails: own.tails.toArray(),
  }));
}

/** Edges looked at times nodes: beyond it only the first edges are tried, and the cycle shown is short, not shortest. */
const SEARCH_BUDGET = 2_000_000;

/** A shortest cycle of the group through an edge of its own class, beginning with that edge. */
export function shortestCycle(g: Graph, group: CycleGroup): GraphPath {
  const inside = new Set(group.nodes);
  const tries = Math.max(1, Math.min(group.edges.length, Math.floor(SEARCH_BUDGET / group.nodes.length)));
  let best: GraphPath | null = null;
  for (let i = 0; i < tries; i++) {
    const edge = group.edges[i];
    const tail = group.tails[i];
    const back = shortestPath(g, g.head[edge], tail, (n) => inside.has(n), group.cls);
    if (!back || (best && back.edges.length + 1 >= best.edges.length)) continue;
    best = { start: tail, edges: [edge, ...back.edges], tails: [tail, ...back.tails] };
    if (best.edges.length <= 2) break;
  }
  return best!;
}
