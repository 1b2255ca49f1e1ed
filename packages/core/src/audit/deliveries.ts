import { BIND, PUBLISH, type Graph } from '../graph/graph.js';
import type { Evidence } from './finding.js';
import { pathEvidence } from './names.js';

/** One way from an event to an action: directly, or published to a channel and heard there. */
export interface Delivery {
  action: number;
  /** The bind or hear edge that ends at the action, and its tail. */
  edge: number;
  tail: number;
  /** The publish edge before it; −1 if the binding is direct. */
  published: number;
}

/** Calls `take` for every delivery of an event, in running order; the object is used again. Cost: the deliveries. */
export function eachDelivery(g: Graph, event: number, take: (d: Delivery) => void): void {
  const d: Delivery = { action: 0, edge: 0, tail: 0, published: -1 };
  for (let e = g.first[event]; e < g.end[event]; e++) {
    const kind = g.meta[e] >> 2;
    const head = g.head[e];
    if (kind === BIND) {
      d.action = head;
      d.edge = e;
      d.tail = event;
      d.published = -1;
      take(d);
    } else if (kind === PUBLISH) {
      for (let h = g.first[head]; h < g.end[head]; h++) {
        d.action = g.head[h];
        d.edge = h;
        d.tail = head;
        d.published = e;
        take(d);
      }
    }
  }
}

export function deliveryEvidence(g: Graph, event: number, d: Delivery): Evidence {
  const edges = d.published < 0 ? [d.edge] : [d.published, d.edge];
  const tails = d.published < 0 ? [event] : [event, d.tail];
  return pathEvidence(g, { start: event, edges, tails }, false);
}
