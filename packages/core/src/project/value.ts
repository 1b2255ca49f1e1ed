import { canonicalJson } from './canonical.js';
import type { Value } from './types.js';

/** The identity of a value: equal by type and value (`1` and `1.0` agree; `1`, `"1"` and `true` all differ). */
export function valueKey(value: Value): string {
  return canonicalJson(value);
}
export function sameValue(a: Value, b: Value): boolean {
  return a === b || (Array.isArray(a) && Array.isArray(b) && a[0] === b[0] && a[1] === b[1]);
}
/** A map by value: equal by type and value. Most values are their own key; only pairs of numbers need a text. */
export class ValueMap<T> {
  private readonly plain = new Map<boolean | number | string, T>();
  private readonly pairs = new Map<string, T>();

  get(value: Value): T | undefined {
    return Array.isArray(value) ? this.pairs.get(valueKey(value)) : this.plain.get(value);
  }
  set(value: Value, item: T): void {
    if (Array.isArray(value)) this.pairs.set(valueKey(value), item);
    else this.plain.set(value, item);
  }
  *values(): Iterable<T> {
    yield* this.plain.values();
    yield* this.pairs.values();
  }
}

/** A literal, as against a reference such as `{ property }`. */
export function isLiteral(value: unknown): value is Value {
  return typeof value !== 'object' || Array.isArray(value);
}
