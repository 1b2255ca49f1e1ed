import { runInNewContext } from 'node:vm';
import { describe, expect, it } from '@jest/globals';
import { mutantsOf, mutated, switched } from '../lib/mutate.mjs';

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

  it.each<[string, string]>([
    ['an operator', '[1, 2, 3].map((n) => n < 2).join()'],
    ['nested operators', '[1, 2, 3].map((n) => n > 1 && (n < 3 || n === 5)).join()'],
    ['a choice', '[1, 2].map((n) => (n === 1 ? "a" : "b")).join()'],
    [
      'conditions in conditions',
      'let a = 0; for (const n of [1, 2]) { if (n > 1) if (!a) a += 2; else a = 7; } a',
    ],
    ['a loop that goes on', 'let a = 0; for (const n of [1, 2]) { if (n < 2) continue; a += n; } a'],
    ['calls', 'const a = []; if (a.length < 1) a.push(1); else a.push(2); a.push(3); `${a}`'],
    ['a negative number', '[-1, 2].join()'],
  ])('do what they do on their own when they are switched on: %s', (_, text) => {
    const mutants = mutantsOf(text).map((mutant, number) => ({ ...mutant, number }));
    const run = (program: string, awake: number): string =>
      String(runInNewContext(program, { oquelMutant: (n: number) => n === awake }));
    const all = switched(text, mutants);
    expect(run(all, -1)).toBe(run(text, -1));
    for (const mutant of mutants) expect(run(all, mutant.number)).toBe(run(mutated(text, mutant), -1));
  });
});
