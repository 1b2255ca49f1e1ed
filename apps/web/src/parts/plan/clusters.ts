import { cellKey } from './cell-key.js';
import type { Thing } from './thing.js';

/** Things that stand too near to one another to be told apart. */
export interface Cluster {
  /** The same while the plan is not moved, whoever leaves it. */
  key: number;
  /** Middle of its dot, as near to the middle of them as it can be without touching the next dot. Pixels. */
  x: number;
  y: number;
  radius: number;
  things: Thing[];
}
export interface Clustered {
  /** What is drawn by itself, in the order given: what changes its place in a drawing is laid out anew, and all before it. */
  alone: Thing[];
  clusters: Cluster[];
}
/** So few things are drawn each by itself, however near they stand. */
const FEW = 150;

/**
 * Gathers things that would be drawn over one another, by a grid whose cells are as large as a mark. What `stands` says stays by
 * itself. Linear in the things.
 */
export function clustered(
  things: readonly Thing[],
  place: (t: Thing) => readonly [number, number],
  radius: number,
  stands: (t: Thing) => boolean,
): Clustered {
  if (things.length <= FEW) return { alone: [...things], clusters: [] };
  const cell = 2 * radius + 6;
  const cells = new Map<number, { things: Thing[]; x: number; y: number; column: number; row: number }>();
  const together = new Set<Thing>();
  for (const t of things) {
    if (stands(t)) continue;
    const [x, y] = place(t);
    const [column, row] = [Math.floor(x / cell), Math.floor(y / cell)];
    const key = cellKey(column, row);
    const own = cells.get(key);
    if (!own) cells.set(key, { things: [t], x, y, column, row });
    else {
      own.things.push(t);
      own.x += x;
      own.y += y;
    }
  }
  const clusters: Cluster[] = [];
  for (const [key, { things: own, x, y, column, row }] of cells) {
    if (own.length === 1) continue;
    for (const t of own) together.add(t);
    const r = Math.min(cell / 2 - 0.5, 8 + Math.log2(own.length));
    const within = (middle: number, at: number): number =>
      Math.min((at + 1) * cell - r, Math.max(at * cell + r, middle));
    clusters.push({
      key,
      x: within(x / own.length, column),
      y: within(y / own.length, row),
      radius: r,
      things: own,
    });
  }
  return { alone: things.filter((t) => !together.has(t)), clusters };
}
/** `12 Lamp, 3 Bell and 4 more`. */
export function clusterText({ things }: Cluster): string {
  const counts = new Map<string, number>();
  for (const { asset } of things) counts.set(asset, (counts.get(asset) ?? 0) + 1);
  const sorted = [...counts].sort((a, b) => b[1] - a[1]);
  const named = sorted.slice(0, 3).map(([asset, n]) => `${n} ${asset}`);
  const left = sorted.slice(3).reduce((n, [, count]) => n + count, 0);
  return `${named.join(', ')}${left > 0 ? ` and ${left} more` : ''}`;
}
