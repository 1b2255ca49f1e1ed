import { stronglyConnected } from '../graph/components.js';
import { edgeDelay, type Graph } from '../graph/graph.js';
import { leastFirst } from '../util/least-first.js';
import { longestLevels, shortestLevels, type Part } from './levels.js';
import { IntList } from '../util/int-list.js';

/** Nodes that a ripple holds at the most. */
export const MOST_NODES = 400_000;

/** In which direction a ripple runs: to what follows, or to what could have brought it about. */
export type Direction = 'forward' | 'backward';

/** Edges grouped by the node that a walk comes from; turned round for the way back. */
export interface Adjacency {
  readonly first: Int32Array;
  readonly end: Int32Array;
  /** The node that the walk comes to. */
  readonly to: Int32Array;
  /** The graph's number of each edge; null where it is the same. */
  readonly edge: Int32Array | null;
}

/** The graph's own edges, or all turned round. Cost of the latter: nodes + edges. */
export function adjacency(g: Graph, direction: Direction): Adjacency {
  if (direction === 'forward') return { first: g.first, end: g.end, to: g.head, edge: null };
  const starts = new Int32Array(g.nodes + 1);
  for (let n = 0; n < g.nodes; n++) for (let e = g.first[n]; e < g.end[n]; e++) starts[g.head[e] + 1]++;
  for (let n = 0; n < g.nodes; n++) starts[n + 1] += starts[n];
  const end = starts.slice(0, g.nodes);
  const to = new Int32Array(g.edges);
  const edge = new Int32Array(g.edges);
  for (let n = 0; n < g.nodes; n++) {
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const at = end[g.head[e]]++;
      to[at] = n;
      edge[at] = e;
    }
  }
  return { first: starts, end, to, edge };
}

/** What a walk from some nodes comes to. All arrays have an entry for each node reached, in the order of the walk. */
export interface Reached extends Part {
  /** Local number of each node of the graph; -1 for one that is not reached. */
  readonly local: Int32Array;
  /** Twice the hops of the shortest way there, one more for a channel. */
  readonly level: Int32Array;
  /** The same by the longest way; a cycle counts each of its actions once. */
  readonly longest: Int32Array;
  /** Strongly connected component. */
  readonly component: Int32Array;
  /** Microseconds of the quickest way there. */
  readonly time: Float64Array;
  /** Whether the walk ended before it was done. */
  readonly cut: boolean;
}

/**
 * Walks from `starts` and says for each node how far it is: in hops by the shortest way and by the longest (as the audit
 * counts chains), in time by the quickest. Explicit stacks. Cost: linear in what is reached, but for the times, which take a heap.
 */
export function walk(g: Graph, a: Adjacency, starts: readonly number[], most: number): Reached {
  const local = new Int32Array(g.nodes).fill(-1);
  const order = new IntList();
  const meet = (n: number): void => {
    if (local[n] >= 0) return;
    local[n] = order.length;
    order.push(n);
  };
  starts.forEach(meet);
  let cut = false;
  for (let i = 0; i < order.length; i++) {
    const n = order.get(i);
    if (order.length > most) cut = true;
    for (let e = a.first[n]; e < a.end[n] && !cut; e++) meet(a.to[e]);
  }
  const nodes = order.toArray();
  const first = new Int32Array(nodes.length + 1);
  const to = new IntList();
  const edge = new IntList();
  nodes.forEach((n, i) => {
    for (let e = a.first[n]; e < a.end[n]; e++) {
      if (local[a.to[e]] < 0) continue;
      to.push(local[a.to[e]]);
      edge.push(a.edge ? a.edge[e] : e);
    }
    first[i + 1] = to.length;
  });
  const part = { nodes, local, first, to: to.toArray(), edge: edge.toArray(), cut };
  const meta = new Uint8Array(part.edge.length);
  const c = stronglyConnected({ nodes: nodes.length, first, end: first.subarray(1), head: part.to, meta });
  return {
    ...part,
    component: c.of,
    level: shortestLevels(g, part, starts.length),
    longest: longestLevels(g, part, c, starts.length),
    time: times(g, part, starts.length),
  };
}

/** Quickest ways by delays in whole microseconds (Dijkstra, 1959, with a binary heap). */
function times(g: Graph, { nodes, first, to, edge }: Part, starts: number): Float64Array {
  const time = new Float64Array(nodes.length).fill(Infinity);
  const queue = leastFirst();
  for (let i = 0; i < starts; i++) {
    time[i] = 0;
    queue.push([0, i]);
  }
  for (let least = queue.pop(); least !== undefined; least = queue.pop()) {
    const [t, i] = least;
    if (t > time[i]) continue;
    for (let e = first[i]; e < first[i + 1]; e++) {
      const delay = Math.round(edgeDelay(g, edge[e], tailNode(g, edge[e], nodes[i], nodes[to[e]])) * 1e6);
      const next = to[e];
      if (t + delay < time[next]) {
        time[next] = t + delay;
        queue.push([time[next], next]);
      }
    }
  }
  return time;
}

/** Of the two ends of a walked edge the one that is its tail in the graph. */
export function tailNode(g: Graph, edge: number, from: number, to: number): number {
  return edge >= g.first[from] && edge < g.end[from] ? from : to;
}
