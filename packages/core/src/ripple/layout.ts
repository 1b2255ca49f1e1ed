import { entryWords } from './lines.js';
import type { Ripple, RippleEntry } from './ripple.js';

export interface RippleColumn {
  hop: number;
  /** Seconds; of the entries in it the least. */
  time: number;
  /** Pixels from the left. */
  x: number;
  width: number;
  entries: number;
}
export interface RippleLayout {
  columns: RippleColumn[];
  /** For each entry of the ripple its column and the top of its row, in the order of the entries. */
  column: Int32Array;
  y: Float64Array;
  width: number;
  height: number;
}
/** Pixels. */
export const ROW = 50;
/** A column is as wide as its longest name, between these. */
const WIDTH = { least: 108, most: 236 };
const CHARACTER = 7.3;
/** Room behind a name for the ways that go on, and for what stands at the end of a line. */
const BEHIND = { usual: 34, marked: 62 };

/**
 * Columns by hops, or by seconds and hops, as wide as they must be; in each column entries stand in the order of those that lead to them, so that
 * ways cross seldom (one sweep of the barycentre heuristic, Sugiyama et al., 1981), and what one leads to stands beside it.
 * Cost: the entries with a sort for each column, and the links.
 */
export function layRipple(ripple: Ripple, axis: 'hops' | 'time'): RippleLayout {
  const { entries, links } = ripple;
  const place = (e: RippleEntry): string => (axis === 'time' ? `${e.time}/${e.hop}` : String(e.hop));
  const order = entries.map((_, i) => i);
  order.sort((a, b) => {
    const [p, q] = [entries[a], entries[b]];
    return (axis === 'time' ? p.time - q.time : 0) || p.hop - q.hop || a - b;
  });
  const columns: RippleColumn[] = [];
  // What must hold on the way stands under the entry that it leads to.
  const asked = new Map<string, number>();
  for (const { to, asks } of links) {
    asked.set(to, Math.max(asked.get(to) ?? 0, asks.join('; or ').length));
  }
  const members: number[][] = [];
  const column = new Int32Array(entries.length);
  let last: string | null = null;
  for (const i of order) {
    const e = entries[i];
    if (place(e) !== last) {
      last = place(e);
      columns.push({ hop: e.hop, time: e.time, x: 0, width: WIDTH.least, entries: 0 });
      members.push([]);
    }
    const c = columns[columns.length - 1];
    c.entries++;
    c.time = Math.min(c.time, e.time);
    c.width = Math.max(c.width, widthOf(e, asked.get(e.key) ?? 0));
    members[members.length - 1].push(i);
    column[i] = columns.length - 1;
  }
  let x = 0;
  for (const c of columns) {
    c.x = x;
    x += c.width;
  }
  const y = rows(ripple, members, column);
  let height = 0;
  for (const top of y) height = Math.max(height, top + ROW);
  return { columns, column, y, width: x, height };

  function rows({ entries: all }: Ripple, groups: readonly number[][], of: Int32Array): Float64Array {
    const at = new Map(all.map((e, i) => [e.key, i]));
    const comes: number[][] = all.map(() => []);
    for (const l of links) {
      const [from, to] = [at.get(l.from)!, at.get(l.to)!];
      if (of[from] < of[to]) comes[to].push(from);
    }
    const top = new Float64Array(all.length);
    for (const group of groups) {
      const wish = new Map(
        group.map((i) => [
          i,
          comes[i].length === 0 ? 0 : comes[i].reduce((sum, f) => sum + top[f], 0) / comes[i].length,
        ]),
      );
      const sorted = [...group].sort((a, b) => wish.get(a)! - wish.get(b)! || a - b);
      let free = 0;
      for (const i of sorted) {
        top[i] = Math.max(free, Math.floor(wish.get(i)! / ROW) * ROW);
        free = top[i] + ROW;
      }
      // Many that come from one place would hang below it: they are drawn up as far as there is room.
      const middle = [...wish.values()].reduce((a, b) => a + b, 0) / Math.max(1, group.length);
      const shift = Math.min(Math.max(0, (free - ROW) / 2 - middle), top[sorted[0]]);
      if (shift > 0) for (const i of group) top[i] -= Math.floor(shift / ROW) * ROW;
    }
    return top;
  }
}

function widthOf(e: RippleEntry, asks: number): number {
  const [who, what] = entryWords(e);
  const longest = Math.max(who.length, what.length);
  const isMarked = e.count > 1 || e.spawned || e.asleep || e.outside;
  const named = longest * CHARACTER + (isMarked ? BEHIND.marked : BEHIND.usual);
  return Math.min(WIDTH.most, Math.ceil(Math.max(named, (asks + 2) * CHARACTER)));
}
