import { own } from '../util/own.js';

/**
import { own } from '../util/own.js';
 * Canonical JSON: keys sorted by code units, no blanks, numbers as ECMAScript prints them. Two values that are equal
 * have the same text, so it also serves as an identity for keys (`1` and `1.0` agree; `1`, `"1"` and `true` differ).
 */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  if (typeof value === 'object' && value !== null) {
    const record = value as Record<string, unknown>;
    const parts = Object.keys(record)
      .filter((k) => own(record, k) !== undefined)
      .sort(byCodeUnits)
      .map((k) => `${JSON.stringify(k)}:${canonicalJson(own(record, k))}`);
    return `{${parts.join(',')}}`;
  }
  return JSON.stringify(value);
}

/** The order of findings, occurrences and keys everywhere. JavaScript compares strings by code units already. */
export function byCodeUnits(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
