import type { Components } from './components.js';
import { isAction, type Graph } from './graph.js';
import { reviseUpwards } from './revise.js';

/**
 * For each component at least the number of actions reached from it, counting what is reached on two ways twice; capped
 * just past the limit. Cost: nodes + edges.
 */
export function reachBounds(g: Graph, c: Components, limit: number): Float64Array {
  const bounds = new Float64Array(c.count);
  for (let k = 0; k < c.count; k++) bound(g, c, bounds, k, limit);
  return bounds;
}

/** The bounds after edges at some tails came or went while the components stayed; null if that is too far-reaching. */
export function reviseReachBounds(
  g: Graph,
  c: Components,
  old: Float64Array,
  tails: Int32Array,
  limit: number,
): Float64Array | null {
  const bounds = old.slice();
  return reviseUpwards(g, c, tails, (k) => bound(g, c, bounds, k, limit)) ? bounds : null;
}

function bound(g: Graph, c: Components, bounds: Float64Array, k: number, limit: number): boolean {
  const { of, starts, members } = c;
  const { first, head } = g;
  let sum = 0;
  for (let m = starts[k]; m < starts[k + 1]; m++) {
    const n = members[m];
    if (isAction(g, n)) sum++;
    for (let e = first[n]; e < first[n + 1] && sum <= limit; e++) {
      const to = of[head[e]];
      if (to !== k) sum += bounds[to];
    }
  }
  const capped = Math.min(sum, limit + 1);
  const changed = bounds[k] !== capped;
  bounds[k] = capped;
  return changed;
}
