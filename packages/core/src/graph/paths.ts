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
  return search(g, from, to, inside, minClass);
}

/** The same from a node back to itself, by one edge at least. Cost: what it meets. */
export function shortestRoundOf(g: Graph, node: number, inside: (node: number) => boolean): GraphPath | null {
  return search(g, node, node, inside, 0);
}

function search(
  g: Graph,
  from: number,
  to: number,
  inside: (node: number) => boolean,
  minClass: number,
): GraphPath | null {
  const cameBy = new Map<number, { edge: number; tail: number }>();
  const queue = [from];
  for (let i = 0; i < queue.length; i++) {
    const n = queue[i];
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const next = g.head[e];
      if ((g.meta[e] & 3) < minClass) continue;
      if (next === to) return inside(to) ? unwind(cameBy, from, e, n) : null;
      if (next === from || cameBy.has(next) || !inside(next)) continue;
      cameBy.set(next, { edge: e, tail: n });
      queue.push(next);
    }
  }
  return null;
}

function unwind(
  cameBy: Map<number, { edge: number; tail: number }>,
  from: number,
  edge: number,
  tail: number,
): GraphPath {
  const path: GraphPath = { start: from, edges: [edge], tails: [tail] };
  for (let at = tail; at !== from;) {
    const before = cameBy.get(at)!;
    path.edges.push(before.edge);
    path.tails.push(before.tail);
    at = before.tail;
  }
  path.edges.reverse();
  path.tails.reverse();
  return path;
}
