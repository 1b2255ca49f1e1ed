import type { Placement, Value } from '../project/types.js';
import { own, put } from '../util/own.js';

/** A placement with a value for a property of what stands inside it, at a path; undefined takes the value away. */
export function withInside(
  p: Placement,
  path: string,
  property: string,
  value: Value | undefined,
): Placement {
  const values = new Map(Object.entries(own(p.inside, path) ?? {}));
  if (value === undefined) values.delete(property);
  else values.set(property, value);
  const inside: Record<string, Record<string, Value>> = {};
  for (const [at, old] of Object.entries(p.inside ?? {})) if (at !== path) put(inside, at, old);
  if (values.size > 0) put(inside, path, Object.fromEntries(values));
  const { inside: _old, ...bare } = p;
  return Object.keys(inside).length > 0 ? { ...bare, inside } : bare;
}
