import { own } from './own.js';

/** Whether two values of JSON are the same text. Nesting is bounded by the format. Cost: up to the first difference. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [one, other] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = Object.keys(one);
  const others = Object.keys(other);
  if (keys.length !== others.length) return false;
  return keys.every((key, i) => key === others[i] && sameJson(own(one, key), own(other, key)));
}
