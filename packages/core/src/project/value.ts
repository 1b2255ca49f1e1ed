import { canonicalJson } from './canonical.js';
import type { Value } from './types.js';

/** The identity of a value: equal by type and value (`1` and `1.0` agree; `1`, `"1"` and `true` all differ). */
export function valueKey(value: Value): string {
  return canonicalJson(value);
}
export function sameValue(a: Value, b: Value): boolean {
  return a === b || valueKey(a) === valueKey(b);
}
/** A literal, as against a reference such as `{ property }`. */
export function isLiteral(value: unknown): value is Value {
  return typeof value !== 'object' || Array.isArray(value);
}
