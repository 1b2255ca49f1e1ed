import type { Field } from './types.js';

/** Shorter lists are looked through. */
const LONG = 16;
/** Where names stand in long lists. Whoever uses the library may change a list in place: each place is looked at again. */
const places = new WeakMap<readonly Field[], ReadonlyMap<string, number>>();

/**
 * A field of a payload, or a parameter of an action, by its name. Cost: constant, but for the first look into a long list and
 * for a name that is not there.
 */
export function fieldNamed(fields: readonly Field[] | undefined, name: string): Field | undefined {
  if (!fields) return undefined;
  if (fields.length >= LONG) {
    let known = places.get(fields);
    if (!known) places.set(fields, (known = new Map(fields.map((f, at) => [f.name, at]))));
    const field = fields[known.get(name) ?? -1] as Field | undefined;
    if (field?.name === name) return field;
  }
  return fields.find((f) => f.name === name);
}
