import { fieldNamed } from './fields.js';
import { argFaultText, literalFault, type ArgScope } from './arg-types.js';
import type { Asked, Condition, Test, Type, Value } from './types.js';
import { isLiteral, sameValue } from './value.js';

/**
 * Whether a value is what is asked. One that is not there fails everything but `not`; the tests of order hold for numbers
 * alone.
 */
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

/** The literals that something is asked with. */
export function literalsOf(asked: Asked): readonly Value[] {
  if (isLiteral(asked)) return [asked];
  if ('not' in asked) return [asked.not];
  if ('oneOf' in asked) return asked.oneOf;
  return [];
}
/** Whether it asks for more or less, which only numbers can be. */
export function asksOrder(asked: Asked): asked is Exclude<Test, { not: Value } | { oneOf: Value[] }> {
  return !isLiteral(asked) && !('not' in asked) && !('oneOf' in asked);
}
/** The literals that must be of a type where a value of it is asked: an order asked of what is no number has its number. */
export function literalsAsked(asked: Asked, type: Type): readonly Value[] {
  if (!asksOrder(asked)) return literalsOf(asked);
  if (type === 'int' || type === 'float') return [];
  return Object.values<number>(asked);
}
/** The same question with other literals. */
export function withLiterals(asked: Asked, change: (value: Value) => Value): Asked {
  if (isLiteral(asked)) return change(asked);
  if ('not' in asked) return { ...asked, not: change(asked.not) };
  if ('oneOf' in asked) return { ...asked, oneOf: asked.oneOf.map(change) };
  return asked;
}

/** Whether a binding asks anything: an empty list is none. */
export function hasConditions(
  conditions: readonly Condition[] | undefined,
): conditions is readonly Condition[] {
  return conditions !== undefined && conditions.length > 0;
}

/** What is wrong with a condition where it stands, in words; `name` is what it asks. */
export interface ConditionFault {
  name: string;
  kind: 'missing' | 'value';
  words: string;
}
/**
 * What is wrong with conditions: a name that is not there, a value that is not of its type, an order of what is no number. A
 * key that its table lacks is reported, too. Cost: the conditions, times the fields and values that they name.
 */
export function conditionFaults(scope: ArgScope, conditions: readonly Condition[]): ConditionFault[] {
  return conditions.flatMap((c): ConditionFault[] => {
    const name = 'payload' in c ? c.payload : c.property;
    const type = typeAsked(scope, c);
    if (type === 'unknown') return [];
    if (type === null) {
      const words = 'payload' in c ? `nothing carries "${name}"` : `the sender has no property "${name}"`;
      return [{ name, kind: 'missing', words }];
    }
    if (asksOrder(c.is) && type !== 'int' && type !== 'float') {
      return [{ name, kind: 'value', words: `${name} is ${type}, which has no order` }];
    }
    return literalsAsked(c.is, type).flatMap((value): ConditionFault[] => {
      const fault = literalFault(scope.index, value, type);
      return fault ? [{ name, kind: 'value', words: `${name}: ${argFaultText(fault, type)}` }] : [];
    });
  });
}
/** The type of what a condition asks; null for what is not there. */
export function typeAsked({ payload, reader }: ArgScope, c: Condition): Type | 'unknown' | null {
  if ('payload' in c) return fieldNamed(payload, c.payload)?.type ?? null;
  if (!reader) return 'unknown';
  return reader.properties[reader.propertyAt.get(c.property) ?? -1]?.type ?? null;
}
