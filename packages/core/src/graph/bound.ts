import { BIND, HEAR, PUBLISH, type Graph } from './graph.js';
import type { GraphDelta } from './patch.js';

/**
 * For each event 1 if a bind or publish edge leaves it, for each action 1 if a bind or hear edge enters it; 0 for a
 * channel node. Linear in nodes and edges.
 */
export function boundNodes(g: Graph): Uint8Array {
  const { nodes, head, meta } = g;
  const bound = new Uint8Array(nodes);
  for (let e = 0; e < head.length; e++) {
    const kind = meta[e] >> 2;
    if (kind === BIND || kind === HEAR) bound[head[e]] = 1;
  }
  for (let n = 0; n < nodes; n++) if (sends(g, n)) bound[n] = 1;
  return bound;
}

/** The same after edges came or went. Cost: a copy, and a pass over the edges if any went. */
export function reviseBound(old: Uint8Array, { graph: g, removed, added, tails }: GraphDelta): Uint8Array {
  const { head, meta } = g;
  const bound = old.slice();
  if (removed.heads.length > 0) {
    const doubted = new Uint8Array(g.nodes);
    for (const n of removed.heads) {
      if (n >= g.channelBase) continue;
      doubted[n] = 1;
      bound[n] = 0;
    }
    for (let e = 0; e < head.length; e++) {
      if (doubted[head[e]] === 0) continue;
      const kind = meta[e] >> 2;
      if (kind === BIND || kind === HEAR) bound[head[e]] = 1;
    }
  }
  for (const n of added.heads) if (n < g.channelBase) bound[n] = 1;
  for (const n of tails) bound[n] = sends(g, n) ? 1 : 0;
  return bound;
}

/** All edges of one tail are of bindings, or none is. */
function sends({ first, meta }: Graph, node: number): boolean {
  if (first[node] === first[node + 1]) return false;
  const kind = meta[first[node]] >> 2;
  return kind === BIND || kind === PUBLISH;
}
