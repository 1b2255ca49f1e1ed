import { spreadOf, type Ripple, type RippleEntry, type RippleLayout } from '@oquel/core';

/** A part of the picture, in its own pixels. */
export interface Region {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
/** Ribbons that are drawn at once; the thinnest are left out beyond it. */
const MOST_RIBBONS = 900;
/** Room to the left of the first column. */
export const LEFT = 20;

/** Entries and links that a region shows, as numbers. Linear in both. */
export function onScreen(
  { entries, links }: Ripple,
  { x, y, w, h }: RippleLayout,
  /** Stride 2: for each link the numbers of its entries. */
  ends: Int32Array,
  r: Region,
): { entries: number[]; links: number[] } {
  const within: number[] = [];
  for (let i = 0; i < entries.length; i++) {
    if (x[i] + w[i] >= r.left && x[i] <= r.right && y[i] + h[i] >= r.top && y[i] <= r.bottom) within.push(i);
  }
  const crossing: number[] = [];
  links.forEach((l, k) => {
    if (l.returns) return;
    const a = ends[2 * k];
    const b = ends[2 * k + 1];
    const clear =
      Math.max(x[a], x[b]) < r.left ||
      Math.min(x[a], x[b]) > r.right ||
      Math.max(y[a] + h[a], y[b] + h[b]) < r.top ||
      Math.min(y[a], y[b]) > r.bottom;
    if (!clear) crossing.push(k);
  });
  if (crossing.length > MOST_RIBBONS)
    crossing.sort((a, b) => links[b].count - links[a].count).length = MOST_RIBBONS;
  return { entries: within, links: crossing };
}

/** The line of an entry: where it begins and ends, and how high it lies. */
export interface EntryLine {
  x1: number;
  x2: number;
  y: number;
}
export function entryLine(e: RippleEntry, layout: RippleLayout, i: number): EntryLine {
  const x1 = LEFT + layout.x[i];
  return { x1, x2: x1 + lineLength(e, layout.w[i]), y: layout.y[i] + layout.base[i] + spreadOf(e) / 4 };
}
/** Room is left behind it for what stands at its end. */
export function lineLength(e: RippleEntry, width: number): number {
  return width - (e.count > 1 || e.spawned || e.asleep || e.outside ? 54 : 26);
}

/** Pixels; a ribbon that runs further up or down shows its ends alone: its middle would be one of thousands. */
const FAR = 640;

/** A ribbon from one line to another: from its end where there is room to the right, else from where it begins. */
export function ribbonPath(a: EntryLine, b: EntryLine): string {
  const [x1, x2] = [a.x2, b.x1];
  if (x2 < x1 + 6) {
    // Along the seconds: what comes later, or at the same time, may stand below the line.
    const out = b.x1 > a.x1 + 2 ? a.x1 + 2 : a.x1 - 14;
    return b.x1 > a.x1 + 2
      ? `M${out} ${a.y}C${out} ${(a.y + 2 * b.y) / 3} ${b.x1 - 16} ${b.y} ${b.x1} ${b.y}`
      : `M${a.x1} ${a.y}C${out} ${a.y} ${out} ${b.y} ${b.x1} ${b.y}`;
  }
  if (Math.abs(b.y - a.y) > FAR) {
    const down = b.y > a.y ? 10 : -10;
    return `M${x1} ${a.y}l18 ${down}M${x2 - 18} ${b.y - down}L${x2} ${b.y}`;
  }
  const bend = Math.max(14, (x2 - x1) / 2);
  return `M${x1} ${a.y}C${x1 + bend} ${a.y} ${x2 - bend} ${b.y} ${x2} ${b.y}`;
}

/** A way back: out to the right, over what lies between, and in from the left. */
export function returnPath(a: EntryLine, b: EntryLine): string {
  const over = Math.min(a.y, b.y) - 30;
  return `M${a.x2} ${a.y}C${a.x2 + 46} ${a.y} ${a.x2 + 30} ${over} ${(a.x2 + b.x1) / 2} ${over}S${b.x1 - 30} ${b.y} ${b.x1} ${b.y}`;
}
