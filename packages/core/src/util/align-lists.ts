/** How one state of a list goes over into another. */
export interface Alignment {
  /** For each old position the new one; −1 where the item is gone, or has changed its place among the others. */
  moved: Int32Array;
  /** Old positions that go nowhere, ascending. */
  gone: number[];
  /** New positions that come from nowhere, ascending. */
  fresh: number[];
}

/**
 * Pairs the items that are the very same in two states of a list and stand in the same order in both. An item that was
 * moved counts as gone and fresh; of two ways to say which ones were moved the one that keeps more is taken. Linear.
 */
export function alignLists<T>(old: readonly T[], now: readonly T[]): Alignment {
  let start = 0;
  const shorter = Math.min(old.length, now.length);
  while (start < shorter && old[start] === now[start]) start++;
  let end = 0;
  while (end < shorter - start && old[old.length - 1 - end] === now[now.length - 1 - end]) end++;
  const moved = new Int32Array(old.length).fill(-1);
  for (let i = 0; i < start; i++) moved[i] = i;
  for (let i = 1; i <= end; i++) moved[old.length - i] = now.length - i;
  const places = new Map<T, number>();
  for (let i = start; i < now.length - end; i++) places.set(now[i], i);
  const forth: [number, number][] = [];
  const back: [number, number][] = [];
  for (let i = start; i < old.length - end; i++) {
    const to = places.get(old[i]);
    if (to !== undefined && (forth.length === 0 || forth[forth.length - 1][1] < to)) forth.push([i, to]);
  }
  for (let i = old.length - end - 1; i >= start; i--) {
    const to = places.get(old[i]);
    if (to !== undefined && (back.length === 0 || back[back.length - 1][1] > to)) back.push([i, to]);
  }
  for (const [from, to] of forth.length >= back.length ? forth : back) moved[from] = to;
  const kept = new Uint8Array(now.length);
  const gone: number[] = [];
  moved.forEach((to, from) => {
    if (to < 0) gone.push(from);
    else kept[to] = 1;
  });
  const fresh: number[] = [];
  kept.forEach((isKept, i) => {
    if (isKept === 0) fresh.push(i);
  });
  return { moved, gone, fresh };
}
