import type { Ripple, RippleLayout } from '@oquel/core';

/** A part of the picture, in its own pixels. */
export interface Region {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
/** Ribbons that are drawn at once; the thinnest are left out beyond it. */
const MOST_RIBBONS = 900;

/** Entries and links that a region shows, as numbers. Linear in both. */
export function onScreen(
  { entries, links }: Ripple,
  { columns, column, y }: RippleLayout,
  /** Stride 2: for each link the numbers of its entries. */
  ends: Int32Array,
  r: Region,
): { entries: number[]; links: number[] } {
  const within: number[] = [];
  for (let i = 0; i < entries.length; i++) {
    const { x, width } = columns[column[i]];
    if (x + width >= r.left && x <= r.right && y[i] + 60 >= r.top && y[i] <= r.bottom) within.push(i);
  }
  const crossing: number[] = [];
  links.forEach((l, k) => {
    if (l.returns) return;
    const a = ends[2 * k];
    const b = ends[2 * k + 1];
    const x1 = columns[column[a]].x;
    const x2 = columns[column[b]].x;
    const clear =
      Math.max(x1, x2) < r.left ||
      Math.min(x1, x2) > r.right ||
      Math.max(y[a], y[b]) + 60 < r.top ||
      Math.min(y[a], y[b]) > r.bottom;
    if (!clear) crossing.push(k);
  });
  if (crossing.length > MOST_RIBBONS)
    crossing.sort((a, b) => links[b].count - links[a].count).length = MOST_RIBBONS;
  return { entries: within, links: crossing };
}

/** Pixels; a ribbon that runs further up or down shows its ends alone: its middle would be one of thousands. */
const FAR = 640;

/** A ribbon from the end of one line to the beginning of another; one that leads back bends out first. */
export function ribbonPath(x1: number, y1: number, x2: number, y2: number): string {
  if (Math.abs(y2 - y1) > FAR)
    return `M${x1} ${y1}l18 ${y2 > y1 ? 10 : -10}M${x2 - 18} ${y2 + (y2 > y1 ? -10 : 10)}L${x2} ${y2}`;
  const bend = x2 > x1 ? Math.max(14, (x2 - x1) / 2) : 40;
  return `M${x1} ${y1}C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2} ${y2}`;
}
