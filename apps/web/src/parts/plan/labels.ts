import { cellKey } from './cell-key.js';
import type { Rect } from './viewport.js';

export interface LabelWish {
  id: string;
  text: string;
  /** Names of the same kind fold: one stands for those near it that find no room. */
  kind?: string;
  /** Middle of the thing's mark, and its radius. Pixels. */
  x: number;
  y: number;
  radius: number;
  /** Higher ones are placed first. */
  rank: number;
  /** Rather over what else is drawn than left out. */
  isNeeded?: boolean;
}
export interface PlacedLabel {
  x: number;
  y: number;
  anchor: 'start' | 'end' | 'middle';
  /** So many things of the same kind, close by, whose own names find no room. */
  more: number;
}

/** Width of a character of the label's face. */
const CHAR = 7.1;
const HEIGHT = 13;
/** Side of a cell of the grid in which overlaps are looked for. */
const CELL = 64;
/** Names fold over this distance at the most, in pixels. */
const FOLD = 90;

/**
 * Places labels beside their marks (right, left, below, above) where they hit neither a mark nor another label and are not cut
 * by the edge of the pane. One that finds no room is counted at the nearest name of its kind ("bell-3 +2"), or left out if
 * none is near or the count has no room either. Nor do they hit what else is drawn, but for the names that are needed. Cost:
 * nearly linear, by a grid.
 */
export function placeLabels(
  wishes: readonly LabelWish[],
  pane: { width: number; height: number } = { width: Infinity, height: Infinity },
  drawn: readonly Round[] = [],
): Map<string, PlacedLabel> {
  const taken = new Grid();
  const others = new Grid();
  for (const w of wishes) taken.add(around(w), w.id);
  for (const dot of drawn) others.add(around(dot), '');
  const placed = new Map<string, PlacedLabel>();
  const place = (w: LabelWish, more: number): boolean => {
    const text = more === 0 ? w.text : `${w.text} +${more}`;
    // What is outside may have its name there, for when the plan is pushed.
    const isSeen = w.x >= 0 && w.x <= pane.width && w.y >= 0 && w.y <= pane.height;
    let found: Choice | undefined;
    for (const choice of choices(w, text.length * CHAR)) {
      const [, box] = choice;
      if ((isSeen && !isWithin(box, pane)) || taken.hits(box, w.id)) continue;
      const isFree = !others.hits(box, w.id);
      if (isFree || (w.isNeeded && !found)) found = choice;
      if (isFree) break;
    }
    if (!found) return false;
    taken.add(found[1], w.id);
    placed.set(w.id, { ...found[0], more });
    return true;
  };
  const left: LabelWish[] = [];
  for (const w of [...wishes].sort((a, b) => b.rank - a.rank)) if (!place(w, 0)) left.push(w);
  const folded = foldedAt(
    wishes.filter((w) => placed.has(w.id)),
    left,
  );
  for (const [w, more] of folded) place(w, more);
  return placed;
}

/** How many of the names that are left each named thing stands for: the nearest of the same kind takes it. */
function foldedAt(named: readonly LabelWish[], left: readonly LabelWish[]): Map<LabelWish, number> {
  const cellOf = (w: LabelWish, dx: number, dy: number): string =>
    `${w.kind}/${Math.floor(w.x / FOLD) + dx}/${Math.floor(w.y / FOLD) + dy}`;
  const cells = new Map<string, LabelWish[]>();
  for (const w of named) {
    if (w.kind === undefined) continue;
    const key = cellOf(w, 0, 0);
    const cell = cells.get(key);
    if (cell) cell.push(w);
    else cells.set(key, [w]);
  }
  const counts = new Map<LabelWish, number>();
  for (const w of left) {
    if (w.kind === undefined) continue;
    let [nearest, distance]: [LabelWish | null, number] = [null, FOLD];
    for (const dx of [-1, 0, 1]) {
      for (const dy of [-1, 0, 1]) {
        for (const near of cells.get(cellOf(w, dx, dy)) ?? []) {
          const d = Math.hypot(near.x - w.x, near.y - w.y);
          if (d < distance) [nearest, distance] = [near, d];
        }
      }
    }
    if (nearest) counts.set(nearest, (counts.get(nearest) ?? 0) + 1);
  }
  return counts;
}

interface Round {
  x: number;
  y: number;
  radius: number;
}
function around({ x, y, radius }: Round): Rect {
  return { x: x - radius, y: y - radius, width: 2 * radius, height: 2 * radius };
}
function isWithin(box: Rect, { width, height }: { width: number; height: number }): boolean {
  return box.x >= 0 && box.y >= 0 && box.x + box.width <= width && box.y + box.height <= height;
}

type Choice = [Omit<PlacedLabel, 'more'>, Rect];
function choices(w: LabelWish, width: number): Choice[] {
  const gap = w.radius + 4;
  const base = w.y + 4;
  const below = w.y + gap + HEIGHT - 3;
  const above = w.y - gap - 2;
  return [
    [
      { x: w.x + gap, y: base, anchor: 'start' },
      { x: w.x + gap, y: base - HEIGHT + 3, width, height: HEIGHT },
    ],
    [
      { x: w.x - gap, y: base, anchor: 'end' },
      { x: w.x - gap - width, y: base - HEIGHT + 3, width, height: HEIGHT },
    ],
    [
      { x: w.x, y: below, anchor: 'middle' },
      { x: w.x - width / 2, y: below - HEIGHT + 3, width, height: HEIGHT },
    ],
    [
      { x: w.x, y: above, anchor: 'middle' },
      { x: w.x - width / 2, y: above - HEIGHT + 3, width, height: HEIGHT },
    ],
  ];
}

class Grid {
  private readonly cells = new Map<number, { box: Rect; id: string }[]>();

  add(box: Rect, id: string): void {
    this.eachCell(box, (key) => {
      const cell = this.cells.get(key);
      if (cell) cell.push({ box, id });
      else this.cells.set(key, [{ box, id }]);
      return false;
    });
  }
  hits(box: Rect, own: string): boolean {
    return this.eachCell(
      box,
      (key) => this.cells.get(key)?.some((c) => c.id !== own && overlap(c.box, box)) ?? false,
    );
  }
  private eachCell(box: Rect, take: (key: number) => boolean): boolean {
    for (let i = Math.floor(box.x / CELL); i <= Math.floor((box.x + box.width) / CELL); i++) {
      for (let j = Math.floor(box.y / CELL); j <= Math.floor((box.y + box.height) / CELL); j++) {
        if (take(cellKey(i, j))) return true;
      }
    }
    return false;
  }
}
function overlap(a: Rect, b: Rect): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
