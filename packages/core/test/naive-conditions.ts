import type { Asked, Type, Value } from '../src/index.js';
import { answers } from './naive-rehearsal/world.js';

/** What is asked of one value; those with the same `of` are asked of the same one. */
export interface Asking {
  of: string;
  type: Type;
  optional: boolean;
  is: Asked;
}

/** Whether some values answer everything: all that could make a difference is tried. */
export function possible(asked: readonly Asking[]): boolean {
  const bySource = new Map<string, Asking[]>();
  for (const q of asked) bySource.set(q.of, [...(bySource.get(q.of) ?? []), q]);
  return [...bySource.values()].every((same) => {
    const [{ type, optional }] = same;
    const all = same.flatMap(({ is }) => literals(is));
    const numbers = all.filter((v) => typeof v === 'number');
    const near = [...numbers, 0].flatMap((n) => [n, n - 1, n + 1, n + 0.25, n - 0.25]);
    const tried: (Value | undefined)[] =
      type === 'bool'
        ? [true, false]
        : type === 'int'
          ? near.filter((n) => Number.isInteger(n))
          : type === 'float'
            ? near
            : [...all, 'something else'];
    return [...tried, ...(optional ? [undefined] : [])].some((v) => same.every(({ is }) => answers(is, v)));
  });
}

/** Whether what is asked is of a type that it can be asked of. */
export function isSound(is: Asked, type: Type): boolean {
  const isNumber = type === 'int' || type === 'float';
  if (typeof is === 'object' && !Array.isArray(is) && !('not' in is) && !('oneOf' in is)) return isNumber;
  return literals(is).every((v) =>
    type === 'bool'
      ? typeof v === 'boolean'
      : type === 'int'
        ? Number.isInteger(v)
        : type === 'float'
          ? typeof v === 'number'
          : typeof v === 'string',
  );
}

function literals(is: Asked): Value[] {
  if (typeof is !== 'object' || Array.isArray(is)) return [is];
  return 'not' in is ? [is.not] : 'oneOf' in is ? is.oneOf : [Object.values<number>(is)[0]];
}
