/* eslint-disable oquel/own-properties -- what is read by brackets here is looked for with Object.hasOwn or Object.keys first */
import { LIMITS } from '../limits.js';
import { describeValue, toPointer, type Problem } from './problem.js';

/** A JSON Schema (draft 2020-12) fragment. */
export type JsonSchema = boolean | { [keyword: string]: unknown };

/**
 * What a reading has met so far. One path is kept and changed in place, so that a sound document costs no strings:
 * pointers are only made where something is wrong.
 */
export class Reading {
  readonly path: (string | number)[] = [];
  readonly problems: Problem[] = [];
  readonly unknown: string[] = [];

  fail(expected: string, value: unknown): void {
    this.failText(expected, describeValue(value));
  }
  failText(expected: string, found: string): void {
    if (this.problems.length < LIMITS.document.problems) {
      this.problems.push({ pointer: toPointer(this.path), expected, found });
    }
  }
  /** Notes a property that the format does not know; it is kept on a round trip. */
  noteUnknown(key: string): void {
    if (this.unknown.length < LIMITS.document.problems) this.unknown.push(toPointer([...this.path, key]));
  }
}

/**
 * The shape of one kind of value: it checks a value and describes itself as JSON Schema, so that the two cannot
 * drift apart. `T` is the static type that a value which passes has.
 */
export interface Shape<T> {
  readonly check: (value: unknown, reading: Reading) => void;
  readonly schema: JsonSchema;
  /** Carries `T` for the compiler; never set. */
  readonly type?: T;
}
export interface OptionalShape<T> {
  readonly optional: Shape<T>;
}
type Fields<T> = {
  [K in keyof T]-?: undefined extends T[K] ? OptionalShape<Exclude<T[K], undefined>> : Shape<T[K]>;
};

export function optional<T>(shape: Shape<T>): OptionalShape<T> {
  return { optional: shape };
}

const definitions = new Map<string, JsonSchema>();
/** A shape with a name of its own: a schema refers to it by `#/$defs/`, and {@link withDefinitions} puts it there. */
export function named<T>(name: string, description: string, shape: Shape<T>): Shape<T> {
  definitions.set(name, { description, ...(shape.schema as object) });
  return { check: shape.check, schema: { $ref: `#/$defs/${name}` } };
}
/** A schema with the definitions that it refers to, also by way of others. Linear in both. */
export function withDefinitions(schema: JsonSchema): JsonSchema {
  const found = new Map<string, JsonSchema>();
  const walk = (node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    for (const [key, value] of Object.entries(node)) {
      const name = key === '$ref' ? String(value).slice('#/$defs/'.length) : '';
      if (name === '') walk(value);
      else if (!found.has(name)) {
        found.set(name, definitions.get(name)!);
        walk(definitions.get(name));
      }
    }
  };
  walk(schema);
  if (found.size === 0) return schema;
  return {
    ...(schema as object),
    $defs: Object.fromEntries([...found].sort(([a], [b]) => (a < b ? -1 : 1))),
  };
}
/** An object whose schema says what its properties are for, as editors show it. */
export function explained<T>(shape: Shape<T>, texts: { readonly [K in keyof T]?: string }): Shape<T> {
  const { properties, ...schema } = shape.schema as { properties: Record<string, object> };
  const said = Object.entries(properties).map(([key, own]) => {
    const description = Object.hasOwn(texts, key) ? texts[key as keyof T] : undefined;
    return [key, description === undefined ? own : { description, ...own }];
  });
  return { check: shape.check, schema: { ...schema, properties: Object.fromEntries(said) } };
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
function checkAt(shape: Shape<unknown>, value: unknown, key: string | number, reading: Reading): void {
  reading.path.push(key);
  shape.check(value, reading);
  reading.path.pop();
}

/** A value that a test accepts; `expected` completes "expected …". */
export function leaf<T>(expected: string, schema: JsonSchema, test: (value: unknown) => boolean): Shape<T> {
  return {
    schema,
    check: (value, reading) => {
      if (!test(value)) reading.fail(expected, value);
    },
  };
}

export const bool: Shape<boolean> = leaf('true or false', { type: 'boolean' }, (v) => typeof v === 'boolean');
export const yes: Shape<true> = leaf('true', { const: true }, (v) => v === true);
const { name: MAX_NAME, text: MAX_TEXT, seconds: MAX_SECONDS, whole: MAX_WHOLE } = LIMITS.document;
/** Texts without any surrogate, which are nearly all, are recognized quickly. */
const SURROGATE = /[\ud800-\udfff]/;
const LONE_SURROGATE = /\p{Cs}/u;
/** A text that names something. */
export const text: Shape<string> = textOf(0, MAX_NAME);
/** A text that is not empty. */
export const label: Shape<string> = textOf(1, MAX_NAME);
/** A note or a reason, as long as people write. */
export const prose: Shape<string> = textOf(0, MAX_TEXT);
function textOf(min: number, max: number): Shape<string> {
  const expected = min > 0 ? 'non-empty text' : 'a text';
  return {
    schema: { type: 'string', ...(min > 0 ? { minLength: min } : {}), maxLength: max },
    check: (v, reading) => {
      if (typeof v !== 'string' || v.length < min) reading.fail(expected, v);
      else if (v.length > max)
        reading.failText(`${expected} of at most ${max} characters`, `one of ${v.length}`);
      else if (SURROGATE.test(v) && LONE_SURROGATE.test(v))
        reading.failText(`${expected} in Unicode`, 'half of a surrogate pair');
    },
  };
}
/** JSON can spell numbers beyond a double's range (`1e999`); those are refused. */
export const finite: Shape<number> = leaf('a finite number', { type: 'number' }, (v) => Number.isFinite(v));
export function atLeast(min: number, what = 'a number'): Shape<number> {
  return leaf(
    `${what} of at least ${min}`,
    { type: 'number', minimum: min },
    (v) => Number.isFinite(v) && (v as number) >= min,
  );
}
export function wholeAtLeast(min: number): Shape<number> {
  return ranged('a whole number', { type: 'integer', minimum: min, maximum: MAX_WHOLE }, Number.isInteger);
}
/** A time or a length of time. */
export function secondsAtLeast(min: number, what = 'a number of seconds'): Shape<number> {
  return ranged(what, { type: 'number', minimum: min, maximum: MAX_SECONDS }, Number.isFinite);
}
function ranged(
  what: string,
  schema: { type: string; minimum: number; maximum: number },
  is: (value: unknown) => boolean,
): Shape<number> {
  const { minimum, maximum } = schema;
  return {
    schema,
    check: (v, reading) => {
      if (!is(v) || (v as number) < minimum) reading.fail(`${what} of at least ${minimum}`, v);
      else if ((v as number) > maximum) reading.fail(`${what} of at most ${maximum}`, v);
    },
  };
}
export function matching<T extends string>(expected: string, pattern: RegExp): Shape<T> {
  return leaf(
    expected,
    { type: 'string', pattern: pattern.source },
    (v) => typeof v === 'string' && pattern.test(v),
  );
}
export function oneOf<const T extends string>(...values: T[]): Shape<T> {
  const set = new Set<unknown>(values);
  return leaf(`one of ${values.map((v) => `"${v}"`).join(', ')}`, { enum: values }, (v) => set.has(v));
}

/** A list; with `unique`, no two items may have the same value of that property. */
export function list<T>(item: Shape<T>, unique?: keyof T & string, min = 0, max = Infinity): Shape<T[]> {
  return {
    schema: {
      type: 'array',
      items: item.schema,
      ...(min > 0 ? { minItems: min } : {}),
      ...(max < Infinity ? { maxItems: max } : {}),
    },
    check(value, reading) {
      if (!Array.isArray(value)) return reading.fail('a list', value);
      if (value.length < min) return reading.fail(`a list of at least ${min}`, value);
      if (value.length > max) return reading.fail(`a list of at most ${max}`, value);
      const seen = unique === undefined ? undefined : new Map<unknown, number>();
      for (let i = 0; i < value.length; i++) {
        const one: unknown = value[i];
        checkAt(item, one, i, reading);
        if (!seen || !isObject(one)) continue;
        const name = Object.hasOwn(one, unique!) ? one[unique as string] : undefined;
        const first = seen.get(name);
        if (first === undefined) seen.set(name, i);
        else if (typeof name === 'string') {
          reading.path.push(i, unique as string);
          reading.failText(
            `a ${unique} that is not used before in this list`,
            `${describeValue(name)}, already at index ${first}`,
          );
          reading.path.pop();
          reading.path.pop();
        }
      }
    },
  };
}

/** Exactly two finite numbers. */
export const vec2: Shape<[number, number]> = leaf(
  'two finite numbers',
  { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 },
  (v) => Array.isArray(v) && v.length === 2 && Number.isFinite(v[0]) && Number.isFinite(v[1]),
);

/** An object used as a map; keys are free. */
export function mapOf<T>(item: Shape<T>): Shape<Record<string, T>> {
  return {
    schema: { type: 'object', additionalProperties: item.schema },
    check(value, reading) {
      if (!isObject(value)) return reading.fail('an object', value);
      for (const key in value) checkAt(item, value[key], key, reading);
    },
  };
}

/**
 * An object with known properties. Unknown ones are noted, not refused; names in `alsoKnown` belong to another shape
 * that checks the same object.
 */
export function object<T extends object>(fields: Fields<T>, alsoKnown: readonly string[] = []): Shape<T> {
  const entries = Object.entries(fields as Record<string, Shape<unknown> | OptionalShape<unknown>>).map(
    ([key, s]) =>
      'optional' in s ? { key, shape: s.optional, needed: false } : { key, shape: s, needed: true },
  );
  const known = new Map(entries.map((e) => [e.key, e]));
  const others = new Set(alsoKnown);
  const required = entries.filter((e) => e.needed).map((e) => e.key);
  return {
    schema: {
      type: 'object',
      properties: Object.fromEntries(entries.map((e) => [e.key, e.shape.schema])),
      ...(required.length > 0 ? { required } : {}),
    },
    // By what is there, not by what could be: most objects have few of the properties that they may have.
    check(value, reading) {
      if (!isObject(value)) return reading.fail('an object', value);
      let missing = required.length;
      for (const key in value) {
        const field = known.get(key);
        if (field) {
          if (field.needed) missing--;
          checkAt(field.shape, value[key], key, reading);
        } else if (!others.has(key)) reading.noteUnknown(key);
      }
      if (missing === 0) return;
      for (const key of required)
        if (!Object.hasOwn(value, key)) reading.failText(`a property "${key}"`, 'none');
    },
  };
}

/** An object whose variant is recognized by the one property of `variants` that it has, such as `{ at }` or `{ channel }`. */
export function byKey<T>(variants: Record<string, Shape<unknown>>): Shape<T> {
  const keys = Object.keys(variants);
  const names = keys.map((k) => `"${k}"`).join(', ');
  const isolated = keys.map((key) => ({
    allOf: [variants[key].schema],
    required: [key],
    properties: Object.fromEntries(keys.filter((k) => k !== key).map((k) => [k, false])),
  }));
  return {
    schema: { type: 'object', oneOf: isolated },
    check(value, reading) {
      if (!isObject(value)) return reading.fail(`an object with one of ${names}`, value);
      const present = keys.filter((k) => Object.hasOwn(value, k));
      if (present.length === 1) return variants[present[0]].check(value, reading);
      const found = present.length === 0 ? 'none of them' : present.map((k) => `"${k}"`).join(' and ');
      reading.failText(`exactly one of the properties ${names}`, found);
    },
  };
}

/** An object whose variant is reported by the text in its property `tag`. */
export function byTag<T>(tag: string, variants: Record<string, Shape<unknown>>): Shape<T> {
  const tags = Object.keys(variants);
  const expected = `one of ${tags.map((k) => `"${k}"`).join(', ')}`;
  return {
    schema: {
      type: 'object',
      required: [tag],
      properties: { [tag]: { enum: tags } },
      allOf: tags.map((t) => ({
        if: { properties: { [tag]: { const: t } } },
        then: variants[t].schema,
      })),
    },
    check(value, reading) {
      if (!isObject(value)) return reading.fail('an object', value);
      const found = Object.hasOwn(value, tag) ? value[tag] : undefined;
      const variant =
        typeof found === 'string' && Object.hasOwn(variants, found) ? variants[found] : undefined;
      if (variant) return variant.check(value, reading);
      checkAt(
        leaf(expected, {}, () => false),
        found,
        tag,
        reading,
      );
    },
  };
}

/** A literal, or an object: the object's shape decides for objects, the literal's for everything else. */
export function literalOr<L, O>(literal: Shape<L>, obj: Shape<O>): Shape<L | O> {
  return {
    schema: { anyOf: [literal.schema, obj.schema] },
    check: (value, reading) => (isObject(value) ? obj : literal).check(value, reading),
  };
}

/** Adds a demand that one shape alone cannot say; `schema` describes as much of it as JSON Schema can. */
export function refine<T>(
  shape: Shape<T>,
  demand: (value: T, reading: Reading) => void,
  schema?: JsonSchema,
): Shape<T> {
  return {
    schema: schema === undefined ? shape.schema : { allOf: [shape.schema, schema] },
    check(value, reading) {
      const before = reading.problems.length;
      shape.check(value, reading);
      if (reading.problems.length === before) demand(value as T, reading);
    },
  };
}
