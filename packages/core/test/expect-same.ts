import { expect } from '@jest/globals';

/** Expects the same as JSON. Texts are compared first: a comparison of values costs more than most of what makes them. */
export function expectSame(is: unknown, expected: unknown, where: unknown = null): void {
  const [text, wanted] = [JSON.stringify(is), JSON.stringify(expected)];
  if (text === wanted) return;
  expect({ where, value: JSON.parse(text) as unknown }).toEqual({
    where,
    value: JSON.parse(wanted) as unknown,
  });
}
