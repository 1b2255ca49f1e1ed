import type { Field } from './types.js';

/** Shorter lists are looked through. */
const LONG = 16;
/** Lists of a project are never changed in place. */
const byName = new WeakMap<readonly Field[], ReadonlyMap<string, Field>>();

/** A field of a payload, or a parameter of an action, by its name. Cost: constant, but for the first look into a long list. */
export function fieldNamed(fields: readonly Field[] | undefined, name: string): Field | undefined {
  if (!fields) return undefined;
  if (fields.length < LONG) return fields.find((f) => f.name === name);
  let known = byName.get(fields);
  if (!known) byName.set(fields, (known = new Map(fields.map((f) => [f.name, f]))));
  return known.get(name);
}
