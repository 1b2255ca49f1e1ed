import { firstNotBefore } from '@oquel/core';
import { POS_STEP } from '../database/schema.js';

interface Item {
  id: string;
}
/** What has become of a list, as its rows need to know it. */
export interface ListChange {
  gone: string[];
  /** Items that are new, in their order. */
  added: Item[];
  /** Items whose contents are others now. */
  replaced: Item[];
  /** Runs of items that need a new position, new ones among them, each between two neighbours that keep theirs. */
  runs: { ids: string[]; after: string | null; before: string | null }[];
}

/**
 * Compares two states of a list whose untouched items are the very same objects. Of the items that stand in another
 * order as few as possible get another position. Cost: the part of the list between the first and the last difference,
 * n log n in it.
 */
export function listChange(was: readonly Item[], now: readonly Item[]): ListChange {
  let start = 0;
  const shorter = Math.min(was.length, now.length);
  while (start < shorter && was[start] === now[start]) start++;
  let end = 0;
  while (end < shorter - start && was[was.length - 1 - end] === now[now.length - 1 - end]) end++;
  const before = was.slice(start, was.length - end);
  const after = now.slice(start, now.length - end);
  const places = new Map(before.map((item, i) => [item.id, i]));
  const ids = new Set(after.map((item) => item.id));
  const kept = longestRising(after.map((item) => places.get(item.id) ?? -1));
  const runs: ListChange['runs'] = [];
  let last: string | null = now[start - 1]?.id ?? null;
  let run: string[] = [];
  const close = (next: string | null): void => {
    if (run.length > 0) runs.push({ ids: run, after: last, before: next });
    run = [];
  };
  after.forEach((item, i) => {
    if (!kept.has(i)) {
      run.push(item.id);
      return;
    }
    close(item.id);
    last = item.id;
  });
  close(now[now.length - end]?.id ?? null);
  return {
    gone: before.filter((item) => !ids.has(item.id)).map((item) => item.id),
    added: after.filter((item) => !places.has(item.id)),
    replaced: after.filter((item) => {
      const place = places.get(item.id);
      return place !== undefined && before[place] !== item;
    }),
    runs,
  };
}

/**
 * Indexes of a longest strictly rising subsequence; negative numbers are passed over. By patience sorting, n log n.
 */
function longestRising(values: readonly number[]): Set<number> {
  const tails: number[] = [];
  const previous = new Int32Array(values.length).fill(-1);
  values.forEach((value, i) => {
    if (value < 0) return;
    const length = firstNotBefore(tails.length, (place) => values[tails[place]] < value);
    previous[i] = length > 0 ? tails[length - 1] : -1;
    tails[length] = i;
  });
  const rising = new Set<number>();
  for (let i = tails.length > 0 ? tails[tails.length - 1] : -1; i >= 0; i = previous[i]) rising.add(i);
  return rising;
}

/**
 * Positions for a number of items between two neighbours, either of which may be missing; null where there is no room.
 */
export function between(low: number | null, high: number | null, count: number): number[] | null {
  const all = Array.from({ length: count }, (_, i) => i + 1);
  if (low === null && high === null) return all.map((i) => (i - 1) * POS_STEP);
  if (low === null) return all.map((i) => high! - (count - i + 1) * POS_STEP);
  if (high === null) return all.map((i) => low + i * POS_STEP);
  if (high - low <= count) return null;
  const step = (high - low) / (count + 1);
  return all.map((i) => low + Math.floor(i * step));
}
