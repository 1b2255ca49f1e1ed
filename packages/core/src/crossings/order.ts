import type { Crossings } from './crossings.js';

export type CrossingOrder = 'document' | 'name' | 'weight' | 'clusters';
export const CROSSING_ORDERS: readonly CrossingOrder[] = ['document', 'name', 'weight', 'clusters'];

/** The groups of a matrix in an order, as their numbers. */
export function orderGroups({ groups, cells }: Crossings, order: CrossingOrder): number[] {
  const all = groups.map((_, i) => i);
  if (order === 'document') return all;
  if (order === 'name')
    return all.sort((a, b) => (groups[a] < groups[b] ? -1 : groups[a] > groups[b] ? 1 : 0));
  const weight = new Float64Array(groups.length);
  for (const { from, to, deliveries } of cells) {
    weight[from] += deliveries;
    if (to !== from) weight[to] += deliveries;
  }
  if (order === 'weight') return all.sort((a, b) => weight[b] - weight[a] || a - b);
  return clustered(groups.length, cells, weight);
}

/**
 * Brings what talks to each other together, so that tangles stand near the diagonal: the reverse ordering of Cuthill and
 * McKee ("Reducing the bandwidth of sparse symmetric matrices", 1969) over the pairs in either direction, component by
 * component, the heaviest component first, each begun at its lightest group. Cost: pairs, sorted for each group.
 */
function clustered(n: number, cells: Crossings['cells'], weight: Float64Array): number[] {
  const beside: Set<number>[] = Array.from({ length: n }, () => new Set());
  for (const { from, to } of cells) {
    if (from === to) continue;
    beside[from].add(to);
    beside[to].add(from);
  }
  const done = new Uint8Array(n);
  const components: { order: number[]; weight: number }[] = [];
  const starts = Array.from({ length: n }, (_, i) => i).sort(
    (a, b) => beside[a].size - beside[b].size || weight[a] - weight[b] || a - b,
  );
  for (const start of starts) {
    if (done[start] === 1) continue;
    const order = [start];
    done[start] = 1;
    let sum = 0;
    for (let i = 0; i < order.length; i++) {
      sum += weight[order[i]];
      const next = [...beside[order[i]]].filter((b) => done[b] === 0);
      next.sort((a, b) => beside[a].size - beside[b].size || a - b);
      for (const b of next) {
        done[b] = 1;
        order.push(b);
      }
    }
    components.push({ order: order.reverse(), weight: sum });
  }
  components.sort((a, b) => b.weight - a.weight);
  return components.flatMap((c) => c.order);
}
