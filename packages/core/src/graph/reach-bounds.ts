import { membersOf, type Components } from './components.js';
import type { Graph } from './graph.js';

/**
 * For each node at least the number of actions reached from its component, counting what is reached on two ways twice;
 * capped just past the limit. `order` is ascending in rank. Cost: nodes + edges.
 */
export function reachBounds(g: Graph, c: Components, order: Int32Array, limit: number): Float64Array {
  const bounds = new Float64Array(c.of.length);
  const alone = [0];
  for (const k of order) {
    alone[0] = k;
    bound(g, c, bounds, c.groups.get(k) ?? alone, limit);
  }
  return bounds;
}

/** Works one component out again from those that it leads to; true if that changed it. */
export function reviseReachBound(
  g: Graph,
  c: Components,
  bounds: Float64Array,
  component: number,
  limit: number,
): boolean {
  return bound(g, c, bounds, membersOf(c, component), limit);
}

function bound(
  { first, end, head, action }: Graph,
  { of }: Components,
  bounds: Float64Array,
  members: Int32Array | readonly number[],
  limit: number,
): boolean {
  const k = of[members[0]];
  let sum = 0;
  for (let m = 0; m < members.length; m++) {
    const n = members[m];
    sum += action[n] & 1;
    for (let e = first[n]; e < end[n] && sum <= limit; e++) if (of[head[e]] !== k) sum += bounds[head[e]];
  }
  const capped = Math.min(sum, limit + 1);
  let isNew = false;
  for (let m = 0; m < members.length; m++) {
    if (bounds[members[m]] === capped) continue;
    bounds[members[m]] = capped;
    isNew = true;
  }
  return isNew;
}
