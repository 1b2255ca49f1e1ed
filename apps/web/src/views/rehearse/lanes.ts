import { firstNotBefore, type TraceRecord } from '@oquel/core';

/** One record as a mark on a lane. Pixels from the left of the picture. */
export interface Mark {
  record: TraceRecord;
  x: number;
  shape: MarkShape;
}
export type MarkShape =
  | 'raise'
  | 'does'
  | 'change'
  | 'not'
  | 'publishes'
  | 'wakes'
  | 'sleeps'
  | 'ends'
  | 'comes'
  | 'holds'
  | 'fails';
export interface Lane {
  /** An address, `#channel`, or a scene, which heads the lanes of what stands in it. */
  name: string;
  heads: boolean;
  marks: Mark[];
}
export interface Lanes {
  lanes: Lane[];
  width: number;
  /** Pixels of each moment at which something happens. */
  ticks: { t: number; x: number }[];
  /** Pixels of each record, by its number from 1. */
  xOf: Float64Array;
}
/** Between two marks of one moment. */
const STEP = 9;
/** Room before a moment. */
const GAP = 16;

/**
 * Lays records out on a lane for each instance and channel: channels first, then scene by scene, all in order of first
 * appearance. Time runs to the right, by
 * `scale` pixels a second; what happens at one moment is drawn apart in the order in which it happened, so the moment
 * takes the room that it needs. Linear in records.
 */
export function layLanes(records: readonly TraceRecord[], scale: number): Lanes {
  const lanes = new Map<string, Lane>();
  const ticks: Lanes['ticks'] = [];
  const xOf = new Float64Array((records.at(-1)?.n ?? 0) + 1);
  let [x, t] = [GAP, -1];
  for (const record of records) {
    if (record.t !== t) {
      x += t < 0 ? 0 : Math.max(GAP, ((record.t - t) / 1e6) * scale);
      t = record.t;
      ticks.push({ t, x });
    } else x += STEP;
    xOf[record.n] = x;
    const name = laneOf(record);
    if (name === null) continue;
    let lane = lanes.get(name);
    if (!lane) lanes.set(name, (lane = { name, heads: false, marks: [] }));
    lane.marks.push({ record, x, shape: shapeOf(record) });
  }
  return { lanes: byScene([...lanes.values()]), width: x + GAP * 2, ticks, xOf };
}

/** Lanes under the scenes that they stand in. */
function byScene(lanes: readonly Lane[]): Lane[] {
  const scenes = new Map<string, Lane[]>();
  for (const lane of lanes) {
    const scene = lane.name.startsWith('#') ? '' : lane.name.split(':', 1)[0];
    const list = scenes.get(scene);
    if (list) list.push(lane);
    else scenes.set(scene, [lane]);
  }
  const headed = [...scenes].filter(([scene]) => scene !== '');
  return [
    ...(scenes.get('') ?? []),
    ...headed.flatMap(([name, list]) => [{ name, heads: true, marks: [] }, ...list]),
  ];
}

/** The lane that a record stands on; null for what concerns the whole game. */
export function laneOf(r: TraceRecord): string | null {
  if ('channel' in r) return `#${r.channel}`;
  if (r.kind === 'stopped') return r.owner;
  return 'at' in r ? r.at : null;
}
function shapeOf(r: TraceRecord): MarkShape {
  switch (r.kind) {
    case 'raise':
      return 'raise';
    case 'performed':
      return 'does';
    case 'change':
      return 'change';
    case 'publication':
      return 'publishes';
    case 'wake':
      return 'wakes';
    case 'sleep':
      return 'sleeps';
    case 'gone':
      return 'ends';
    case 'born':
      return 'comes';
    case 'expect':
      return r.ok ? 'holds' : 'fails';
    default:
      return 'not';
  }
}

/** The records that led to one, itself first, at most so many. */
export function causesOf(byNumber: ReadonlyMap<number, TraceRecord>, n: number, most: number): TraceRecord[] {
  const chain: TraceRecord[] = [];
  for (let r = byNumber.get(n); r && chain.length < most; r = byNumber.get(r.cause)) chain.push(r);
  return chain;
}

/** Those that lie from `left` to `right`; they stand in order of `x`. Two searches and a copy. */
export function within<T extends { x: number }>(
  items: readonly T[],
  left: number,
  right: number,
): readonly T[] {
  const bound = (x: number): number => firstNotBefore(items.length, (place) => items[place].x < x);
  return items.slice(bound(left), bound(right));
}

/** Whether a record tells of something that did not come about. */
export function wentWrong(r: TraceRecord): boolean {
  if (r.kind === 'expect') return !r.ok;
  return (
    r.kind === 'refused' ||
    r.kind === 'stopped' ||
    r.kind === 'lost' ||
    r.kind === 'cut' ||
    r.kind === 'runaway'
  );
}
