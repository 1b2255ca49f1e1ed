import type { Arg, Asked, Value, Values } from './format.js';

/** Nothing carried. */
export const NONE: Values = {};

export function sameValue(a: Value, b: Value): boolean {
  return a === b || (Array.isArray(a) && Array.isArray(b) && a[0] === b[0] && a[1] === b[1]);
}
/** A literal, as against a reference such as `{ property }`. */
export function isLiteral<T>(value: Value | T): value is Value {
  return typeof value !== 'object' || Array.isArray(value);
}
/** What a map has under a name of its own, never what every object inherits. */
export function own<T>(map: { readonly [name: string]: T } | undefined, name: string): T | undefined {
  return map !== undefined && Object.hasOwn(map, name) ? map[name] : undefined;
}

/** Whether a value is what is asked; one that is not there fails everything but `not`. */
export function holds(asked: Asked, value: Value | undefined): boolean {
  if (isLiteral(asked)) return value !== undefined && sameValue(value, asked);
  if ('not' in asked) return value === undefined || !sameValue(value, asked.not);
  if ('oneOf' in asked) return value !== undefined && asked.oneOf.some((one) => sameValue(value, one));
  if (typeof value !== 'number') return false;
  if ('under' in asked) return value < asked.under;
  if ('atMost' in asked) return value <= asked.atMost;
  if ('over' in asked) return value > asked.over;
  return value >= asked.atLeast;
}

/** Canonical JSON: keys sorted by code units, no blanks. */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const map = value as Record<string, unknown>;
  const keys = Object.keys(map).filter((k) => map[k] !== undefined);
  // Without a comparison, texts are sorted by code units.
  return `{${keys
    .sort()
    .map((k) => `${JSON.stringify(k)}:${canonicalJson(map[k])}`)
    .join(',')}}`;
}

/** What arguments are read from: what is carried, and the instance that they read. */
export interface Reader {
  readonly address: string;
  get(property: string): Value | undefined;
}

/** Arguments as values. One without a value is left out. */
export function evaluate(
  args: Readonly<Record<string, Arg>> | undefined,
  carried: Values,
  reader: Reader,
): Values {
  if (!args) return NONE;
  const out: Record<string, Value> = {};
  for (const name of Object.keys(args)) {
    const value = valueOf(args[name], carried, reader);
    if (value === undefined) continue;
    if (name !== '__proto__') out[name] = value;
    else Object.defineProperty(out, name, { value, enumerable: true, configurable: true, writable: true });
  }
  return out;
}
function valueOf(arg: Arg, carried: Values, reader: Reader): Value | undefined {
  if (isLiteral(arg)) return arg;
  if ('sender' in arg) return reader.address;
  const value = 'payload' in arg ? own(carried, arg.payload) : reader.get(arg.property);
  if (arg.as !== 'string' || value === undefined) return value;
  return typeof value === 'string' ? value : canonicalJson(value);
}
