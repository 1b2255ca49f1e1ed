import type { Rect } from './viewport.js';

export interface LabelWish {
  id: string;
  text: string;
  /** Middle of the thing's mark, and its radius. Pixels. */
  x: number;
  y: number;
  radius: number;
  /** Higher ones are placed first. */
  rank: number;
}
export interface PlacedLabel {
  x: number;
  y: number;
  anchor: 'start' | 'end' | 'middle';
}

/** Width of a character of the label's face. */
const CHAR = 7.1;
const HEIGHT = 13;
/** Side of a cell of the grid in which overlaps are looked for. */
const CELL = 64;

/**
 * Places labels beside their marks (right, left, below, above) where they hit neither a mark nor another label and are not cut
 * by the edge of the pane; one that finds no room is left out. Cost: nearly linear, by a grid.
 */
export function placeLabels(
  wishes: readonly LabelWish[],
  pane: { width: number; height: number } = { width: Infinity, height: Infinity },
): Map<string, PlacedLabel> {
  const taken = new Grid();
  for (const w of wishes) {
    taken.add({ x: w.x - w.radius, y: w.y - w.radius, width: 2 * w.radius, height: 2 * w.radius }, w.id);
  }
  const placed = new Map<string, PlacedLabel>();
  for (const w of [...wishes].sort((a, b) => b.rank - a.rank)) {
    const width = w.text.length * CHAR;
    // What is outside may have its name there, for when the plan is pushed.
    const isSeen = w.x >= 0 && w.x <= pane.width && w.y >= 0 && w.y <= pane.height;
    for (const [label, box] of choices(w, width)) {
      if ((isSeen && !isWithin(box, pane)) || taken.hits(box, w.id)) continue;
      taken.add(box, w.id);
      placed.set(w.id, label);
      break;
    }
  }
  return placed;
}

function isWithin(box: Rect, { width, height }: { width: number; height: number }): boolean {
  return box.x >= 0 && box.y >= 0 && box.x + box.width <= width && box.y + box.height <= height;
}

function choices(w: LabelWish, width: number): [PlacedLabel, Rect][] {
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
  private readonly cells = new Map<string, { box: Rect; id: string }[]>();

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
  private eachCell(box: Rect, take: (key: string) => boolean): boolean {
    for (let i = Math.floor(box.x / CELL); i <= Math.floor((box.x + box.width) / CELL); i++) {
      for (let j = Math.floor(box.y / CELL); j <= Math.floor((box.y + box.height) / CELL); j++) {
        if (take(`${i}/${j}`)) return true;
      }
    }
    return false;
  }
}
function overlap(a: Rect, b: Rect): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
