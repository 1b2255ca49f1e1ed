import { put } from '../util/own.js';

/**
 * Canonical JSON: keys sorted by code units, no blanks, numbers as ECMAScript prints them. Two values that are equal
 * have the same text, so it also serves as an identity for keys (`1` and `1.0` agree; `1`, `"1"` and `true` differ).
 * Linear: what is not sorted yet is copied, and the platform writes it all at one go.
 */
export function canonicalJson(value: unknown): string {
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const copy = ordered(value);
  return copy === UNORDERABLE ? byParts(value) : JSON.stringify(copy);
}

/** A list is written so many elements at a time, and only so deep is it looked for where a value can be cut. */
const AT_ONCE = 500;
const DEPTH = 4;

/**
 * The same text in parts, for documents of a hundred megabytes: nothing but one part of it is copied at a time. An asset's
 * lists are cut too.
 */
export function* canonicalParts(value: unknown, depth = 0): Iterable<string> {
  if (typeof value !== 'object' || value === null || depth === DEPTH) yield canonicalJson(value);
  else if (Array.isArray(value)) yield* partsOfList(value, depth);
  else {
    let before = '{';
    for (const [key, part] of Object.entries(value).sort(([a], [b]) => byCodeUnits(a, b))) {
      if (part === undefined) continue;
      yield `${before}${JSON.stringify(key)}:`;
      yield* canonicalParts(part, depth + 1);
      before = ',';
    }
    yield before === '{' ? '{}' : '}';
  }
}
function* partsOfList(list: readonly unknown[], depth: number): Iterable<string> {
  yield '[';
  // Only assets are so large that each of them is cut again.
  const step = depth + 1 < DEPTH && list.length <= AT_ONCE ? 1 : AT_ONCE;
  for (let i = 0; i < list.length; i += step) {
    if (i > 0) yield ',';
    if (step === 1) yield* canonicalParts(list[i], depth + 1);
    else yield canonicalJson(list.slice(i, i + step)).slice(1, -1);
  }
  yield ']';
}

/** An object keeps keys that are whole numbers in their own order, whatever it is given. */
const UNORDERABLE = Symbol('unorderable');
/** The same value with sorted keys; itself where all are sorted already. */
function ordered(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return orderedList(value);
  const record = value as Record<string, unknown>;
  const keys = Object.keys(record);
  let isSorted = true;
  for (let i = 0; i < keys.length; i++) {
    const first = keys[i].charCodeAt(0);
    if (first >= ZERO && first <= NINE) return UNORDERABLE;
    if (i > 0 && keys[i - 1] > keys[i]) isSorted = false;
  }
  if (!isSorted) keys.sort();
  let copy: Record<string, unknown> | null = isSorted ? null : {};
  for (let i = 0; i < keys.length; i++) {
    // eslint-disable-next-line oquel/own-properties -- these are its own keys, and there are millions
    const part = record[keys[i]];
    const next = ordered(part);
    if (next === UNORDERABLE) return UNORDERABLE;
    if (copy === null) {
      if (next === part) continue;
      copy = {};
      // eslint-disable-next-line oquel/own-properties -- as above
      for (let k = 0; k < i; k++) put(copy, keys[k], record[keys[k]]);
    }
    put(copy, keys[i], next);
  }
  return copy ?? value;
}
const ZERO = 48;
const NINE = 57;
function orderedList(list: readonly unknown[]): unknown {
  let copy: unknown[] | null = null;
  for (let i = 0; i < list.length; i++) {
    const next = ordered(list[i]);
    if (next === UNORDERABLE) return UNORDERABLE;
    if (next !== list[i]) (copy ??= list.slice())[i] = next;
  }
  return copy ?? list;
}
function byParts(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(byParts).join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const parts = Object.entries(value)
    .filter(([, part]) => part !== undefined)
    .sort(([a], [b]) => byCodeUnits(a, b))
    .map(([key, part]) => `${JSON.stringify(key)}:${byParts(part)}`);
  return `{${parts.join(',')}}`;
}

/** The order of findings, occurrences and keys everywhere. JavaScript compares strings by code units already. */
export function byCodeUnits(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
