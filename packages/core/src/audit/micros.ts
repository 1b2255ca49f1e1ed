import type { Binding } from '../project/types.js';

/** The delay of a binding in whole microseconds. */
export function micros(binding: Binding): number {
  return Math.round((binding.delay ?? 0) * 1e6);
}
