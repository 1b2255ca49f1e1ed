import type { Asked, Condition, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import { printName } from './names.js';
import { printValue } from './print-value.js';
import type { Scanner } from './scanner.js';

/** Tests as a line writes them. */
export const TEST_SIGNS = ['=', '!=', '<', '<=', '>', '>=', 'in ('] as const;

/** `= "jump"`, `!= 3`, `>= 2.5`, `in ("a", "b")`. */
export function printAsked(asked: Asked): string {
  if (isLiteral(asked)) return `= ${printValue(asked)}`;
  if ('not' in asked) return `!= ${printValue(asked.not)}`;
  if ('oneOf' in asked) return `in (${asked.oneOf.map(printValue).join(', ')})`;
  if ('under' in asked) return `< ${asked.under}`;
  if ('atMost' in asked) return `<= ${asked.atMost}`;
  return 'over' in asked ? `> ${asked.over}` : `>= ${asked.atLeast}`;
}
/** What a condition asks: `$action` of what is carried, `@calm` of the sender. */
export function printConditionName(c: Condition): string {
  return 'payload' in c ? `$${printName(c.payload)}` : `@${printName(c.property)}`;
}
/** `$action = "jump"`, `@calm = false`. */
export function printCondition(c: Condition): string {
  return `${printConditionName(c)} ${printAsked(c.is)}`;
}
/** `if $action = "jump" and @calm = false`; nothing for an empty list. */
export function printConditions(conditions: readonly Condition[] = []): string {
  return conditions.length === 0 ? '' : `if ${conditions.map(printCondition).join(' and ')}`;
}

/** Reads a test behind what it asks; `value` reads a literal. Equality may also be written `is`. */
export function askedAt(s: Scanner, value: () => Value): Asked {
  const number = (): number => {
    s.skipBlanks();
    const from = s.at;
    const given = value();
    if (typeof given === 'number') return given;
    s.backTo(from);
    return s.fail('a number');
  };
  if (s.take(/^!=/) !== null) return { not: value() };
  if (s.take(/^<=/) !== null) return { atMost: number() };
  if (s.take(/^</) !== null) return { under: number() };
  if (s.take(/^>=/) !== null) return { atLeast: number() };
  if (s.take(/^>/) !== null) return { over: number() };
  if (s.take(/^=/) !== null || s.takeWord('is')) return value();
  if (!s.takeWord('in')) return s.fail('a test: =, !=, <, <=, >, >= or in (…)');
  if (s.take(/^\(/) === null) s.fail('"("');
  const oneOf: Value[] = [];
  if (s.take(/^\)/) !== null) return { oneOf };
  do oneOf.push(value());
  while (s.take(/^,/) !== null);
  if (s.take(/^\)/) === null) s.fail('")"');
  return { oneOf };
}
