import {
  componentsOf,
  isCyclic,
  membersOf,
  stronglyConnected,
  type Links,
  type NumberedComponents,
} from './components.js';
import { compareNodes, CONDITIONAL, DELAYED, INSTANT, LIMITED, type Graph } from './graph.js';
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
 * Relay cycles among the nodes of one strongly connected component: for each of the levels instant, + delayed,
 * + conditional, + limited, the components that hold an edge of the level's own class with both ends inside. What is
 * acyclic in the whole graph is acyclic at every level. Cost: linear at each of the four levels.
 */
export function cycleGroups(g: Graph, component: Int32Array | readonly number[]): CycleGroup[] {
  const part = subgraph(
    g,
    Int32Array.from(component).sort((a, b) => compareNodes(g, a, b)),
  );
  return [INSTANT, DELAYED, CONDITIONAL, LIMITED].flatMap((cls) =>
    groupsOfLevel(part, stronglyConnected(part, cls), cls),
  );
}

/** The nodes of a graph's components that have a cycle, in the order of the least node of each. Cost: nodes + edges. */
export function cyclicParts(g: Graph): (Int32Array | readonly number[])[] {
  const { components } = componentsOf(g);
  const parts: (Int32Array | readonly number[])[] = [];
  const seen = new Set<number>();
  for (let n = 0; n < g.nodes; n++) {
    const component = components.of[n];
    if (seen.has(component) || !isCyclic(g, components, component)) continue;
    seen.add(component);
    parts.push(membersOf(components, component));
  }
  return parts;
}

/** Some nodes of a graph with the edges among them, in numbers of its own and with those of the whole. */
interface Subgraph extends Links {
  nodeOf: Int32Array;
  edgeOf: Int32Array;
}

function subgraph(g: Graph, nodeOf: Int32Array): Subgraph {
  const local = new Map<number, number>();
  nodeOf.forEach((n, i) => local.set(n, i));
  const first = new Int32Array(nodeOf.length + 1);
  const head = new IntList();
  const edgeOf = new IntList();
  nodeOf.forEach((n, i) => {
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const to = local.get(g.head[e]);
      if (to === undefined) continue;
      head.push(to);
      edgeOf.push(e);
    }
    first[i + 1] = head.length;
  });
  const edges = edgeOf.toArray();
  const meta = Uint8Array.from(edges, (e) => g.meta[e]);
  return {
    nodes: nodeOf.length,
    first,
    end: first.subarray(1),
    head: head.toArray(),
    meta,
    nodeOf,
    edgeOf: edges,
  };
}

function groupsOfLevel(part: Subgraph, c: NumberedComponents, cls: number): CycleGroup[] {
  const edges = new Map<number, { edges: IntList; tails: IntList }>();
  for (let n = 0; n < part.nodes; n++) {
    for (let e = part.first[n]; e < part.end[n]; e++) {
      if ((part.meta[e] & 3) !== cls || c.of[part.head[e]] !== c.of[n]) continue;
      let own = edges.get(c.of[n]);
      if (!own) edges.set(c.of[n], (own = { edges: new IntList(), tails: new IntList() }));
      own.edges.push(part.edgeOf[e]);
      own.tails.push(part.nodeOf[n]);
    }
  }
  return [...edges].map(([k, own]) => ({
    cls,
    nodes: c.members
      .slice(c.starts[k], c.starts[k + 1])
      .sort()
      .map((n) => part.nodeOf[n]),
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
