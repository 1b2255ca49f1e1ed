import type { Value } from '../project/types.js';

/** A literal as JSON writes it. */
export function printValue(value: Value): string {
  return Array.isArray(value) ? `[${value.join(', ')}]` : JSON.stringify(value);
}
