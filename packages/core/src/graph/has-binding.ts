import { BIND, HEAR, PUBLISH, type Graph } from './graph.js';
import type { Incoming } from './incoming.js';

/**
 * For each event 1 if a bind or publish edge leaves it, for each action 1 if a bind or hear edge enters it; 0 for a
 * channel node. Linear in nodes and edges.
 */
export function hasBindingNodes(g: Graph): Uint8Array {
  const { nodes, first, end, head, meta } = g;
  const has = new Uint8Array(first.length);
  for (let n = 0; n < nodes; n++) {
    if (isSender(g, n)) has[n] = 1;
    for (let e = first[n]; e < end[n]; e++) {
      const kind = meta[e] >> 2;
      if (kind === BIND || kind === HEAR) has[head[e]] = 1;
    }
  }
  return has;
}

/** Whether one event or action has a binding. All that leads to an action comes from bindings. */
export function nodeHasBinding(g: Graph, incoming: Incoming, node: number): boolean {
  return g.action[node] === 1 ? incoming.degree(node) > 0 : isSender(g, node);
}

/** All edges of one tail are of bindings, or none is. */
function isSender({ first, end, meta }: Graph, node: number): boolean {
  if (first[node] === end[node]) return false;
  const kind = meta[first[node]] >> 2;
  return kind === BIND || kind === PUBLISH;
}
