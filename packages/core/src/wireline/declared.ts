import { literalType } from '../project/arg-types.js';
import type { Arg, Effect, EffectGuard, Field, Type, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { askedAt, printAsked } from './conditions.js';
import { printName } from './names.js';
import { printArg, printValue } from './print.js';
import { Scanner, WireLineFault } from './scanner.js';

/** What an asset declares, as short lines of text that can be typed: fields of a payload, and effects of an action. */

export type ParsedText<T> = { value: T } | { fault: WireLineFault };

/** `speed: float, line: enum:Line, force?: int`; a `?` marks a field that may be left out. */
export function printFields(fields: readonly Field[]): string {
  return fields.map((f) => `${printName(f.name)}${f.optional ? '?' : ''}: ${printType(f.type)}`).join(', ');
}

/** `float`, `enum:Side`, `enum:"Side of it"`. */
export function printType(type: Type): string {
  const found = /^(enum|key):(?![^\s,)"]+$)/.exec(type);
  return found ? `${found[0]}${JSON.stringify(type.slice(found[0].length))}` : type;
}
export function parseFields(text: string): ParsedText<Field[]> {
  return attempt(text, (s) => (s.ended ? [] : fieldsAt(s)));
}
/** Fields up to what is none; none at a closing bracket. */
export function fieldsAt(s: Scanner): Field[] {
  const fields: Field[] = [];
  if (s.sees(/^\)/)) return fields;
  do {
    const name = nameAt(s, 'the name of a field');
    if (fields.some((f) => f.name === name)) s.fail(`a name other than ${name}, which is already used`);
    const optional = s.take(/^\?/) !== null;
    if (s.take(/^:/) === null) s.fail('":" and a type');
    fields.push({ name, type: typeAt(s), ...(optional ? { optional } : {}) });
  } while (s.take(/^,/) !== null);
  return fields;
}

/** `set open to true when line is "east"`, `raise onOpened after 0.5s with (n = $n)`, `spawn Sled`, `wake` ... */
export function printEffect(effect: Effect): string {
  const words: string[] = [];
  if ('set' in effect) words.push(`set ${printName(effect.set)} to ${valueOrParam(effect.to)}`);
  else if ('toggle' in effect) words.push(`toggle ${printName(effect.toggle)}`);
  else if ('add' in effect) words.push(`add ${valueOrParam(effect.by)} to ${printName(effect.add)}`);
  else if ('raise' in effect) {
    words.push(`raise ${printName(effect.raise)}`);
    if (effect.delay !== undefined) words.push(`after ${effect.delay}s`);
    if (effect.restart) words.push('restarting');
    if (effect.payload) words.push(`with (${pairs(effect.payload, printArg)})`);
  } else if ('spawn' in effect) {
    words.push(`spawn ${printName(effect.spawn)}`);
    if (effect.properties) words.push(`with (${pairs(effect.properties, printValue)})`);
  } else words.push('wake' in effect ? 'wake' : 'sleep' in effect ? 'sleep' : 'destroy');
  if (effect.when) words.push(`when ${printGuard(effect.when)}`);
  if (effect.everyNth !== undefined) words.push(`each ${effect.everyNth} times`);
  return words.join(' ');
}
/** `line is "east"`, `level >= 3`, `$force != 0`. */
export function printGuard(when: NonNullable<Effect['when']>): string {
  const name = 'param' in when ? `$${printName(when.param)}` : printName(when.property);
  return isLiteral(when.is) ? `${name} is ${printValue(when.is)}` : `${name} ${printAsked(when.is)}`;
}
function valueOrParam(value: Value | { param: string }): string {
  return isLiteral(value) ? printValue(value) : `$${printName(value.param)}`;
}
function pairs<T>(record: Record<string, T>, print: (value: T) => string): string {
  return Object.entries(record)
    .map(([k, v]) => `${printName(k)} = ${print(v)}`)
    .join(', ');
}

/** Reads an effect of an action that has these parameters: a bare word that is one of them is asked about, not taken. */
export function parseEffect(text: string, params: ReadonlySet<string> = new Set()): ParsedText<Effect> {
  return attempt(text, (s) => parseEffectAt(s, params));
}
/** Effects with semicolons between them. */
export function parseEffects(text: string, params: ReadonlySet<string>): ParsedText<Effect[]> {
  return attempt(text, (s) => effectsAt(s, params));
}
export function effectsAt(s: Scanner, params: ReadonlySet<string>): Effect[] {
  const effects: Effect[] = [];
  do {
    if (s.ended) break;
    effects.push(parseEffectAt(s, params));
  } while (s.take(/^;/) !== null);
  return effects;
}
export function parseEffectAt(s: Scanner, params: ReadonlySet<string>): Effect {
  const body = bodyAt(s, params);
  const guard: EffectGuard = {};
  for (;;) {
    if (s.takeWord('when')) {
      guard.when = guardAt(s);
    } else if (s.takeWord('each')) {
      const n = Number(s.take(/^\d+(?![\w.])/) ?? s.fail('a whole number from 2'));
      if (n < 2) s.fail('a whole number from 2');
      if (!s.takeWord('times')) s.fail('"times"');
      guard.everyNth = n;
    } else return { ...body, ...guard } as Effect;
  }
}

function guardAt(s: Scanner): NonNullable<Effect['when']> {
  s.skipBlanks();
  const ofParam = s.takeHere(/^\$/) !== null;
  const name = nameAt(s, ofParam ? 'a parameter' : 'a property, or $ and a parameter');
  const is = askedAt(s, () => literalAt(s));
  return ofParam ? { param: name, is } : { property: name, is };
}

function bodyAt(s: Scanner, params: ReadonlySet<string>): object {
  if (s.takeWord('set')) {
    const set = nameAt(s, 'a property');
    if (!s.takeWord('to')) s.fail('"to" and a value');
    return { set, to: literalOrParamAt(s, params) };
  }
  if (s.takeWord('toggle')) return { toggle: nameAt(s, 'a property') };
  if (s.takeWord('add')) {
    const by = literalOrParamAt(s, params);
    if (isLiteral(by) && typeof by !== 'number') s.fail('a number or a parameter before "to"');
    if (!s.takeWord('to')) s.fail('"to" and a property');
    return { add: nameAt(s, 'a property'), by };
  }
  if (s.takeWord('raise')) {
    const raise = nameAt(s, 'an event');
    const delay = s.takeWord('after') ? secondsAt(s) : undefined;
    const restarts = s.sees(/^restarting(?![\w-])/);
    if (restarts && !(delay! > 0)) s.fail('"after" and more than 0 s before "restarting"');
    const restart = restarts && s.takeWord('restarting') ? ({ restart: true } as const) : {};
    const payload = s.takeWord('with') ? recordAt(s, (at) => argAt(at, params)) : undefined;
    return { raise, ...(delay === undefined ? {} : { delay }), ...restart, ...(payload ? { payload } : {}) };
  }
  if (s.takeWord('spawn')) {
    const spawn = nameAt(s, 'a prefab');
    const properties = s.takeWord('with') ? recordAt(s, literalAt) : undefined;
    return { spawn, ...(properties ? { properties } : {}) };
  }
  if (s.takeWord('wake')) return { wake: true };
  if (s.takeWord('sleep')) return { sleep: true };
  if (s.takeWord('destroy')) return { destroy: true };
  return s.fail('an effect: set, toggle, add, raise, spawn, wake, sleep or destroy');
}

/** Reads a whole text by one of the readers of parts. */
export function attempt<T>(text: string, read: (s: Scanner) => T): ParsedText<T> {
  const s = new Scanner(text);
  try {
    const value = read(s);
    if (!s.ended) s.fail('the end');
    return { value };
  } catch (error) {
    if (error instanceof WireLineFault) return { fault: error };
    throw error;
  }
}
export function nameAt(s: Scanner, expected: string): string {
  s.skipBlanks();
  return s.takeQuoted() ?? s.takeHere(/^[A-Za-z_][A-Za-z0-9_-]*/) ?? s.fail(expected);
}
export function typeAt(s: Scanner): Type {
  const kind = s.take(/^(?:enum|key):(?=")/);
  if (kind !== null) return `${kind}${s.takeQuoted()!}` as Type;
  const found = s.take(/^(?:(?:bool|int|float|string|vec2|instance)(?![\w:-])|(?:enum|key):[^\s,)]+)/);
  return (found ??
    s.fail('a type: bool, int, float, string, vec2, instance, enum:Name or key:Table')) as Type;
}
export function secondsAt(s: Scanner): number {
  return Number.parseFloat(
    s.take(/^\d+(?:\.\d+)?(?:[eE][+-]?\d+)?\s*s(?![\w-])/) ?? s.fail('seconds, such as 0.5s'),
  );
}
export function literalAt(s: Scanner): Value {
  s.skipBlanks();
  const quoted = s.takeQuoted();
  if (quoted !== null) return quoted;
  const number = s.takeHere(/^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?(?![A-Za-z0-9_.-])/);
  if (number !== null) return Number(number);
  const pair = s.takeHere(/^\[[^\]]*\]/);
  if (pair !== null) {
    const value = parsePair(pair);
    return value ?? s.fail('two numbers');
  }
  const word = s.takeHere(/^[A-Za-z_][A-Za-z0-9_.-]*/) ?? s.fail('a value');
  return word === 'true' ? true : word === 'false' ? false : word;
}
function parsePair(text: string): Value | null {
  try {
    const value = JSON.parse(text) as Value;
    return literalType(value) === 'vec2' && (value as unknown[]).length === 2 ? value : null;
  } catch {
    return null;
  }
}
function literalOrParamAt(s: Scanner, params: ReadonlySet<string>): Value | { param: string } {
  s.skipBlanks();
  return s.takeHere(/^\$/) === null ? plainLiteralAt(s, params) : { param: nameAt(s, 'a parameter') };
}
/** A literal; a bare word that is the name of a parameter could be meant as either. */
function plainLiteralAt(s: Scanner, params: ReadonlySet<string>): Value {
  const from = s.at;
  const isQuoted = s.sees(/^"/);
  const value = literalAt(s);
  if (typeof value !== 'string' || isQuoted || !params.has(value)) return value;
  s.backTo(from);
  return s.fail(`$${value} for the parameter, or "${value}" in quotes for text`);
}
function argAt(s: Scanner, params: ReadonlySet<string>): Arg {
  s.skipBlanks();
  const sign = s.takeHere(/^[$@]/);
  if (sign === null)
    return s.takeHere(/^sender(?![\w-])/) === null ? plainLiteralAt(s, params) : { sender: true };
  const name = nameAt(s, sign === '$' ? 'a parameter' : 'a property');
  const as = s.take(/^as\s+string(?![\w-])/) === null ? {} : ({ as: 'string' } as const);
  return sign === '$' ? { payload: name, ...as } : { property: name, ...as };
}
export function recordAt<T>(s: Scanner, read: (s: Scanner) => T): Record<string, T> {
  const record: [string, T][] = [];
  if (s.take(/^\(/) === null) s.fail('"("');
  if (s.take(/^\)/) !== null) return {};
  do {
    const name = nameAt(s, 'a name');
    if (s.take(/^=/) === null) s.fail('"="');
    record.push([name, read(s)]);
  } while (s.take(/^,/) !== null);
  if (s.take(/^\)/) === null) s.fail('")"');
  return Object.fromEntries(record);
}
