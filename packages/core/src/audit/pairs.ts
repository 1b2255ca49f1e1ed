import type { Graph } from '../graph/graph.js';
import { LIMITS } from '../limits.js';

/**
 * How many pairs of its deliveries one event may have reported: a few for each of its edges, so that all events together
 * have no more than grows with the graph; and never more than a rule may report.
 */
export function mostPairs(g: Graph, event: number): number {
  return Math.min(LIMITS.audit.pairs, LIMITS.audit.pairsOfEvent + 8 * (g.end[event] - g.first[event]));
}
/** How many pairs may be compared for so many that are reported. */
export function triesFor(pairs: number): number {
  return 50 * pairs;
}
