import { membersOf, type Components } from './components.js';
import type { Graph } from './graph.js';
import type { GraphPath } from './paths.js';

/** The shortest ways to one node from all others of its component. */
export interface WaysTo {
  /**
   * Goes on with a path from a node of the component to the one: of the shortest ways the one whose edges stand first at their
   * tails, as a search from the node finds it. Cost: the edges at the nodes that it comes by.
   */
  lead(from: number, path: GraphPath): void;
}

/** Breadth first against the edges. Cost: the component and its edges, once; each way then costs its own nodes. */
export function waysTo(g: Graph, c: Components, target: number): WaysTo {
  const { first, end, head } = g;
  const hops = hopsTo(g, c, target);
  return {
    lead(from, path) {
      let at = from;
      for (let left = hops.get(from)!; left > 0; left--) {
        for (let e = first[at]; e < end[at]; e++) {
          if (hops.get(head[e]) !== left - 1) continue;
          path.edges.push(e);
          path.tails.push(at);
          at = head[e];
          break;
        }
      }
    },
  };
}

/** How many edges each node of a component is away from one of them. */
function hopsTo(g: Graph, c: Components, target: number): Map<number, number> {
  const k = c.of[target];
  const before = new Map<number, number[]>();
  for (const n of membersOf(c, k)) {
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const to = g.head[e];
      if (c.of[to] !== k) continue;
      const tails = before.get(to);
      if (tails) tails.push(n);
      else before.set(to, [n]);
    }
  }
  const hops = new Map([[target, 0]]);
  // A map gives out what is put in while it is gone through.
  for (const [n, count] of hops) {
    for (const tail of before.get(n) ?? []) if (!hops.has(tail)) hops.set(tail, count + 1);
  }
  return hops;
}
