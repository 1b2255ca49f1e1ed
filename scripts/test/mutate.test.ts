import { describe, expect, it } from '@jest/globals';
import { mutantsOf, mutated } from '../lib/mutate.mjs';

describe('mutants of a text', () => {
  it.each<[string, string, string[]]>([
    ['a comparison', 'const a = b < c;', ['const a = b <= c;']],
    ['a condition', 'if (a) b();', ['if (true) b();', 'if (false) b();', 'if (a) ;']],
    ['a choice', 'const a = b ? c : d;', ['const a = !(b) ? c : d;']],
    ['a denial', 'const a = !b;', ['const a = b;']],
    ['a number and a truth', 'const a = [1, true];', ['const a = [2, true];', 'const a = [1, false];']],
    ['an operator of two', 'const a = b && c;', ['const a = b || c;']],
    ['a loop that goes on', 'for (;;) continue;', ['for (;;) ;']],
    ['types', 'type A = 1 | true; interface B { c: 2 } const d: 3 = e;', []],
    ['what is thrown', 'throw new Error(a + 1);', []],
    ['imports', "import { a } from './b.js';", []],
  ])('%s', (_, text, expected) => {
    expect(mutantsOf(text).map((mutant) => mutated(text, mutant))).toEqual(expected);
  });

  it('say in which line they are', () => {
    expect(mutantsOf('\n\nconst a = b < c;').map(({ line, was, to }) => [line, was, to])).toEqual([
      [3, '<', '<='],
    ]);
  });
});
