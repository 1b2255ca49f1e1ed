import { own, put } from '../util/own.js';

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

/** An object keeps keys that are whole numbers in their own order, whatever it is given. */
const UNORDERABLE = Symbol('unorderable');
/** The same value with sorted keys; itself where all are sorted already. */
function ordered(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return orderedList(value);
  const keys = Object.keys(value);
  let isSorted = true;
  for (let i = 0; i < keys.length; i++) {
    const first = keys[i].charCodeAt(0);
    if (first >= ZERO && first <= NINE) return UNORDERABLE;
    if (i > 0 && keys[i - 1] > keys[i]) isSorted = false;
  }
  if (!isSorted) keys.sort();
  const record = value as Record<string, unknown>;
  const copy: Record<string, unknown> = {};
  for (const key of keys) {
    const part = own(record, key);
    const next = ordered(part);
    if (next === UNORDERABLE) return UNORDERABLE;
    if (next !== part) isSorted = false;
    put(copy, key, next);
  }
  return isSorted ? value : copy;
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
