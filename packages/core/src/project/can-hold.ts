import { asksOrder, holds, literalsAsked, literalsOf } from './condition.js';
import { literalFault } from './arg-types.js';
import type { ProjectIndex } from './index-project.js';
import { namesOfType, valuesOfType } from './type-values.js';
import type { Asked, Type, Value } from './types.js';
import { isLiteral } from './value.js';

/** What is asked of one value. */
export interface Question {
  /** Equal for questions of the same value. */
  of: string;
  type: Type;
  /** It may be absent. */
  optional: boolean;
  is: Asked;
}

/**
 * Whether there are values for which all questions hold: judged by the values of a bool or an enum, by literals that
 * something must be equal to, and by ranges. A question with a literal that is not of its type decides nothing: that is reported
 * as such. Cost: the questions, times the values that they or their types name.
 */
export function canHold(index: ProjectIndex, questions: readonly Question[]): boolean {
  const byValue = new Map<string, Question[]>();
  for (const q of questions) {
    if (!isSound(index, q)) continue;
    const same = byValue.get(q.of);
    if (same) same.push(q);
    else byValue.set(q.of, [q]);
  }
  return [...byValue.values()].every((same) => someValue(index, same));
}
function isSound(index: ProjectIndex, { type, is }: Question): boolean {
  return literalsAsked(is, type).every((v) => literalFault(index, v, type) === null);
}

/** Whether one value answers all questions of it. */
function someValue(index: ProjectIndex, questions: readonly Question[]): boolean {
  const [{ type, optional }] = questions;
  const asked = questions.map((q) => q.is);
  const answers = (value: Value | undefined): boolean => asked.every((is) => holds(is, value));
  if (optional && answers(undefined)) return true;
  const declared = type.startsWith('enum:') && namesOfType(index, type) !== undefined;
  if (type === 'bool' || declared) return valuesOfType(index, type).some(answers);
  const named = asked.find((is) => isLiteral(is) || 'oneOf' in is);
  if (named !== undefined) return literalsOf(named).some(answers);
  return !asked.some(asksOrder) || numberAnswers(asked, type === 'int');
}

/** Whether a number lies in all ranges and is none of those that it must not be. */
function numberAnswers(asked: readonly Asked[], isWhole: boolean): boolean {
  let [low, high, lowIn, highIn] = [-Infinity, Infinity, true, true];
  for (const is of asked) {
    if (!asksOrder(is)) continue;
    if ('over' in is && is.over >= low) [low, lowIn] = [is.over, false];
    else if ('atLeast' in is && is.atLeast > low) [low, lowIn] = [is.atLeast, true];
    else if ('under' in is && is.under <= high) [high, highIn] = [is.under, false];
    else if ('atMost' in is && is.atMost < high) [high, highIn] = [is.atMost, true];
  }
  if (isWhole) {
    low = lowIn ? Math.ceil(low) : Math.floor(low) + 1;
    high = highIn ? Math.floor(high) : Math.ceil(high) - 1;
  } else if (low < high) return true;
  else if (!lowIn || !highIn) return false;
  if (low > high) return false;
  // Only so many numbers can be excluded one by one.
  const excluded = asked.filter((is) => !isLiteral(is) && 'not' in is).length;
  if (high - low >= excluded) return true;
  for (let n = low; n <= high; n++) if (asked.every((is) => holds(is, n))) return true;
  return false;
}
