import { edgeDelay, type Graph } from './graph.js';

/** A path as edges, each with its tail; `start` is its first node even when there is no edge. */
export interface GraphPath {
  start: number;
  edges: number[];
  tails: number[];
}

/** Seconds along a path, summed in whole microseconds so that sums compare exactly. */
export function latency(g: Graph, path: GraphPath): number {
  let us = 0;
  path.edges.forEach((e, i) => (us += Math.round(edgeDelay(g, e, path.tails[i]) * 1e6)));
  return us / 1e6;
}

/**
 * A path with the fewest edges among the nodes that `inside` allows; null if there is none, no edges if the ends are
 * one. Breadth first; cost: what it meets.
 */
export function shortestPath(
  g: Graph,
  from: number,
  to: number,
  inside: (node: number) => boolean,
  minClass = 0,
): GraphPath | null {
  if (from === to) return { start: from, edges: [], tails: [] };
  const cameBy = new Map<number, { edge: number; tail: number }>();
  const queue = [from];
  for (let i = 0; i < queue.length; i++) {
    const n = queue[i];
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const next = g.head[e];
      if ((g.meta[e] & 3) < minClass || next === from || cameBy.has(next) || !inside(next)) continue;
      cameBy.set(next, { edge: e, tail: n });
      if (next === to) return unwind(cameBy, from, to);
      queue.push(next);
    }
  }
  return null;
}

function unwind(cameBy: Map<number, { edge: number; tail: number }>, from: number, to: number): GraphPath {
  const path: GraphPath = { start: from, edges: [], tails: [] };
  for (let at = to; at !== from;) {
    const { edge, tail } = cameBy.get(at)!;
    path.edges.push(edge);
    path.tails.push(tail);
    at = tail;
  }
  path.edges.reverse();
  path.tails.reverse();
  return path;
}
