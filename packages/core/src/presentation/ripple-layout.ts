import { leastFirst } from '../util/least-first.js';
import { entryWords } from '../ripple/lines.js';
import { entryNotes, type EntryNotes } from '../ripple/notes.js';
import type { Ripple, RippleEntry } from '../ripple/model.js';

/** A column of hops, or a tick of the seconds. Pixels from the left. */
export interface RippleColumn {
  hop: number;
  seconds: number;
  x: number;
  width: number;
  entries: number;
}
export interface RippleLayout {
  /** Of hops; empty on the axis of seconds. */
  columns: RippleColumn[];
  /** Ticks of the axis of seconds; empty otherwise. */
  ticks: { seconds: number; x: number }[];
  /** For each entry, in their order, its left edge, its width, its top and the height of its line below that. Pixels. */
  x: Float64Array;
  w: Float64Array;
  y: Float64Array;
  h: Float64Array;
  base: Float64Array;
  notes: EntryNotes[];
  width: number;
  height: number;
}
export type RippleAxis = 'hops' | 'time';

/** Pixels. An entry is as wide as what it says, between these. */
const WIDTH = { least: 96, most: 250 };
/** Of a letter of the name, and of the small lines. */
const LETTER = 7.3;
const SMALL_LETTER = 6.6;
/** Room behind a name for the ways that go on, and for what stands at the end of a line. */
const BEHIND = { usual: 30, marked: 62 };
/** Above the line without and with the way that leads here, below it, and for each small line more. */
const ABOVE = 24;
const BY = 14;
const BELOW = 22;
const SMALL = 13;

/** How thick the line of an entry is: the more follows at once, the thicker. Pixels. */
export function spreadOf(e: RippleEntry): number {
  return e.fanOut === 0 ? 1.4 : Math.min(14, 1.6 + e.fanOut * 1.7);
}

/**
 * Lays a ripple out, in columns of hops or along the seconds, as wide as it must be and within `room` pixels where names
 * can be shortened to that. Cost: the entries with a sort, and the links.
 */
export function layRipple(ripple: Ripple, axis: RippleAxis, room = 1200): RippleLayout {
  const { entries } = ripple;
  const notes = entryNotes(ripple);
  const w = Float64Array.from(entries, (e, i) => widthOf(e, notes[i]));
  const base = Float64Array.from(entries, (_, i) => ABOVE + (notes[i].by === '' ? 0 : BY));
  const h = Float64Array.from(
    entries,
    (e, i) => base[i] + BELOW + spreadOf(e) / 2 + SMALL * smallLines(notes[i]),
  );
  const of = { notes, w, base, h };
  return axis === 'time' ? alongSeconds(ripple, of, room) : inColumns(ripple, of, room);
}
function smallLines({ asks, returns, moreReturns }: EntryNotes): number {
  return (asks === '' ? 0 : 1) + returns.length + (moreReturns > 0 ? 1 : 0);
}
function widthOf(e: RippleEntry, { by, asks, returns }: EntryNotes): number {
  const longest = entryWords(e).reduce((most, word) => Math.max(most, word.length), 0);
  const isMarked = e.count > 1 || e.spawned || e.asleep || e.outside || e.longest > e.hop;
  const named = longest * LETTER + (isMarked ? BEHIND.marked : BEHIND.usual);
  let small = Math.max(by.length, asks.length);
  for (const r of returns) small = Math.max(small, r.text.length + (r.cycle ? r.class.length + 2 : 0) + 3);
  return Math.min(WIDTH.most, Math.max(WIDTH.least, Math.ceil(Math.max(named, small * SMALL_LETTER + 22))));
}

type Sizes = Pick<RippleLayout, 'notes' | 'w' | 'base' | 'h'>;

/**
 * In each column entries stand in the order of those that lead to them, so that ways cross seldom (one sweep of the
 * barycentre heuristic, Sugiyama et al., 1981), and what one leads to stands beside it.
 */
function inColumns(ripple: Ripple, sizes: Sizes, room: number): RippleLayout {
  const { entries } = ripple;
  const order = entries.map((_, i) => i).sort((a, b) => entries[a].hop - entries[b].hop || a - b);
  const columns: RippleColumn[] = [];
  const members: number[][] = [];
  const column = new Int32Array(entries.length);
  for (const i of order) {
    const { hop, time } = entries[i];
    let last = columns[columns.length - 1];
    if (!last || last.hop !== hop) {
      columns.push((last = { hop, seconds: time, x: 0, width: 0, entries: 0 }));
      members.push([]);
    }
    last.entries++;
    last.seconds = Math.min(last.seconds, time);
    last.width = Math.max(last.width, sizes.w[i]);
    members[members.length - 1].push(i);
    column[i] = columns.length - 1;
  }
  const cap = widthCap(columns, room);
  let x = 0;
  for (const c of columns) {
    c.width = Math.min(c.width, cap);
    c.x = x;
    x += c.width;
  }
  const y = rows(ripple, members, column, sizes);
  return finish({ columns, ticks: [], ...sizes, y, width: x, height: 0 }, (i) => columns[column[i]]);
}
/** The widest that columns may be to fit the room together; never less than a name needs to be reported. */
function widthCap(columns: readonly RippleColumn[], room: number): number {
  let [low, high] = [WIDTH.least, WIDTH.most];
  while (low < high) {
    const cap = Math.ceil((low + high) / 2);
    const sum = columns.reduce((n, c) => n + Math.min(c.width, cap), 0);
    if (sum <= room) low = cap;
    else high = cap - 1;
  }
  return low;
}
function finish(
  layout: Omit<RippleLayout, 'x'>,
  place: (i: number) => { x: number; width: number },
): RippleLayout {
  const x = Float64Array.from(layout.w, (_, i) => place(i).x);
  const w = Float64Array.from(layout.w, (_, i) => place(i).width);
  let height = 0;
  layout.y.forEach((top, i) => (height = Math.max(height, top + layout.h[i])));
  return { ...layout, x, w, height };
}

/** The top of each entry: beside those that lead to it, as far as there is room. */
function rows(
  { entries, links }: Ripple,
  groups: readonly number[][],
  column: Int32Array,
  { h, base }: Sizes,
): Float64Array {
  const at = new Map(entries.map((e, i) => [e.key, i]));
  const comes: number[][] = entries.map(() => []);
  for (const l of links) {
    const [from, to] = [at.get(l.from)!, at.get(l.to)!];
    if (column[from] < column[to]) comes[to].push(from);
  }
  const top = new Float64Array(entries.length);
  for (const group of groups) {
    const wish = new Map(
      group.map((i) => {
        const sum = comes[i].reduce((n, f) => n + top[f] + base[f], 0);
        return [i, comes[i].length === 0 ? 0 : Math.max(0, sum / comes[i].length - base[i])];
      }),
    );
    const sorted = [...group].sort((a, b) => wish.get(a)! - wish.get(b)! || a - b);
    let free = 0;
    let last = 0;
    for (const i of sorted) {
      top[i] = last = Math.max(free, Math.round(wish.get(i)!));
      free = top[i] + h[i];
    }
    // Many that come from one place would hang below it: they are drawn up as far as there is room.
    const middle = [...wish.values()].reduce((a, b) => a + b, 0) / Math.max(1, group.length);
    const shift = Math.min(Math.max(0, last / 2 - middle), top[sorted[0]]);
    if (shift > 0) for (const i of group) top[i] -= Math.floor(shift);
  }
  return top;
}

/** Between entries that stand in one row along the seconds. */
const GAP = 14;
/** Ticks along the seconds, at the most. */
const MOST_TICKS = 9;

/**
 * A true axis of time: an entry begins at its seconds. What would lie over another takes a further row (interval
 * partitioning), so that at one time what comes later stands below.
 */
function alongSeconds(ripple: Ripple, sizes: Sizes, room: number): RippleLayout {
  const { entries } = ripple;
  const { w, h } = sizes;
  let end = 0;
  let widest = 0;
  entries.forEach((e, i) => {
    end = Math.max(end, e.time);
    widest = Math.max(widest, w[i]);
  });
  const scale = end === 0 ? 0 : Math.max(40, room - widest) / end;
  const order = entries.map((_, i) => i);
  order.sort((a, b) => entries[a].time - entries[b].time || entries[a].hop - entries[b].hop || a - b);
  // Rows that are taken, by where they end, and rows that are free, the topmost first.
  const taken = leastFirst();
  const free = leastFirst();
  const row = new Int32Array(entries.length);
  const heights: number[] = [];
  for (const i of order) {
    const x = entries[i].time * scale;
    for (let least = taken.peek(); least !== undefined && least[0] <= x; least = taken.peek()) {
      const [, ended] = taken.pop()!;
      free.push([ended, ended]);
    }
    const at = free.pop()?.[1] ?? heights.push(0) - 1;
    row[i] = at;
    heights[at] = Math.max(heights[at], h[i]);
    taken.push([x + w[i] + GAP, at]);
  }
  const tops: number[] = [];
  let top = 0;
  for (const height of heights) {
    tops.push(top);
    top += height;
  }
  const y = Float64Array.from(row, (r) => tops[r]);
  const layout = {
    columns: [],
    ticks: ticksTo(end, scale),
    ...sizes,
    y,
    width: end * scale + widest,
    height: 0,
  };
  return finish(layout, (i) => ({ x: entries[i].time * scale, width: w[i] }));
}
/** Ticks at round seconds from 0 on. */
function ticksTo(end: number, scale: number): { seconds: number; x: number }[] {
  if (end === 0) return [{ seconds: 0, x: 0 }];
  const rough = end / MOST_TICKS;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((n) => n * power).find((s) => s >= rough)!;
  const ticks = [];
  for (let n = 0; n * step <= end * 1.0001; n++) {
    ticks.push({ seconds: Number((n * step).toPrecision(6)), x: n * step * scale });
  }
  return ticks;
}
