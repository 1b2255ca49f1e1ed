import { describe, expect, it } from '@jest/globals';
import {
  bindingsCsv,
  completeWireLine,
  conditionFaults,
  holds,
  parseConditions,
  parseEffect,
  parseWireLine,
  printConditions,
  printEffect,
  printWireLine,
  readProject,
  type Asked,
  type Effect,
  type Project,
  type Value,
} from '../src/index.js';
import { project, index } from './conditions-project.js';

describe('a test of a value', () => {
  const cases: [Asked, Value | undefined, boolean][] = [
    [3, 3, true],
    [3, '3', false],
    ['a', undefined, false],
    [[1, 2], [1, 2], true],
    [{ not: 3 }, 4, true],
    [{ not: 3 }, 3, false],
    [{ not: 3 }, undefined, true],
    [{ oneOf: ['a', 1] }, 1, true],
    [{ oneOf: ['a', 1] }, '1', false],
    [{ oneOf: [] }, 1, false],
    [{ under: 3 }, 2.5, true],
    [{ under: 3 }, 3, false],
    [{ atMost: 3 }, 3, true],
    [{ over: 3 }, 3, false],
    [{ atLeast: 3 }, 3, true],
    [{ atLeast: 3 }, '4', false],
    [{ over: 0 }, true, false],
    [{ under: 3 }, undefined, false],
  ];
  it.each(cases)('%j of %j: %s', (asked, value, expected) => {
    expect(holds(asked, value)).toBe(expected);
  });
});

describe('the format', () => {
  const withBinding = (part: object): Project => {
    const next = structuredClone(project);
    Object.assign(next.assets[0].bindings![1], part);
    return next;
  };
  it.each<[string, object, string]>([
    ['a condition of nothing', { if: [{ is: 3 }] }, '/assets/0/bindings/1/if/0'],
    ['a condition of both', { if: [{ payload: 'a', property: 'b', is: 3 }] }, '/assets/0/bindings/1/if/0'],
    ['no test', { if: [{ payload: 'a' }] }, '/assets/0/bindings/1/if/0'],
    ['an unknown test', { if: [{ payload: 'a', is: { near: 3 } }] }, '/assets/0/bindings/1/if/0/is'],
    [
      'an order of a text',
      { if: [{ payload: 'a', is: { over: 'b' } }] },
      '/assets/0/bindings/1/if/0/is/over',
    ],
    ['no list', { if: { payload: 'a', is: 3 } }, '/assets/0/bindings/1/if'],
  ])('%s is refused where it stands', (_, part, pointer) => {
    expect(() => readProject(withBinding(part))).toThrow(pointer);
  });
  it('an empty list is as good as none', () => {
    expect(() => readProject(withBinding({ if: [] }))).not.toThrow();
  });
  it.each([0, undefined])('a raise that begins again needs a delay, not %s', (delay) => {
    const next = structuredClone(project);
    const [count] = next.assets[3].actions!;
    count.effects![1] = { raise: 'onLapsed', restart: true, ...(delay === undefined ? {} : { delay }) };
    expect(() => readProject(next)).toThrow('/assets/3/actions/0/effects/1/delay');
  });
});

describe('conditions as text', () => {
  it.each([
    [
      '$act = "jump" and @calm = false',
      [
        { payload: 'act', is: 'jump' },
        { property: 'calm', is: false },
      ],
    ],
    ['$n != 3', [{ payload: 'n', is: { not: 3 } }]],
    ['$n in (1, "two", [3, 4])', [{ payload: 'n', is: { oneOf: [1, 'two', [3, 4]] } }]],
    [
      '$n < 1 and $n <= 2',
      [
        { payload: 'n', is: { under: 1 } },
        { payload: 'n', is: { atMost: 2 } },
      ],
    ],
    [
      '$n > -1 and $n >= 2.5',
      [
        { payload: 'n', is: { over: -1 } },
        { payload: 'n', is: { atLeast: 2.5 } },
      ],
    ],
  ] as const)('%s', (text, conditions) => {
    expect(parseConditions(text)).toEqual({ value: conditions });
    expect(printConditions(conditions as never)).toBe(`if ${text}`);
  });
  it.each([
    ['n = 3', 0, '$ and a field of what is carried, or @ and a property'],
    ['$n', 2, 'a test: =, !=, <, <=, >, >= or in (…)'],
    ['$n = ', 5, 'a value'],
    ['$n > east', 5, 'a number'],
    ['$n in 3', 6, '"("'],
    ['$n = 3 or $n = 4', 7, '"and", or the end'],
  ])('%s stops at %i', (text, at, expected) => {
    const read = parseConditions(text);
    expect('fault' in read && [read.fault.at, read.fault.expected]).toEqual([at, expected]);
  });
  it('stand in a wire line, with bare words for texts', () => {
    const line = 'when player.onActed do narrator.speak(line = up) if $act = jump and @calm = false once';
    const { id: _, ...wanted } = project.assets[0].bindings![0];
    expect(parseWireLine(line)).toEqual({ binding: wanted });
  });
  it.each<[Effect, string]>([
    [{ raise: 'onA', delay: 2, restart: true }, 'raise onA after 2s restarting'],
    [{ wake: true, when: { property: 'n', is: 3 } }, 'wake when n is 3'],
    [{ wake: true, when: { property: 'n', is: { atLeast: 3 } } }, 'wake when n >= 3'],
    [{ wake: true, when: { param: 'by', is: 'key' } }, 'wake when $by is "key"'],
    [{ wake: true, when: { param: 'by', is: { oneOf: ['a', 'b'] } } }, 'wake when $by in ("a", "b")'],
  ])('%j as %s', (effect, text) => {
    expect(printEffect(effect)).toBe(text);
    expect(parseEffect(text)).toEqual({ value: effect });
  });
  it('a raise at once does not begin again', () => {
    expect('fault' in parseEffect('raise onA restarting')).toBe(true);
  });
  it('are completed: what can be asked, tests that fit, values', () => {
    const offered = (text: string): string[] =>
      completeWireLine(
        index,
        index.assets[0],
        `when player.onActed do narrator.speak(line = up) ${text}`,
      ).options.map((o) => o.text);
    expect(offered('if ')).toEqual(
      expect.arrayContaining(['$act ', '@calm ', '$act = "jump"', '@calm = false']),
    );
    expect(offered('if $act ')).toEqual(['= ', '!= ', 'in (']);
    expect(offered('if $act = ')).toEqual(expect.arrayContaining(['jump', 'duck', 'wave']));
    expect(offered('if $act in (jump, w')).toEqual(['wave']);
  });
  it('out of a table as into it', () => {
    expect(bindingsCsv(project)).toContain(',"$act in (""jump"", ""wave"")",');
    for (const b of project.assets[0].bindings!) {
      expect(parseWireLine(printWireLine(b))).toEqual({ binding: b });
    }
  });
});

describe('what is wrong with a condition', () => {
  const scope = { index, payload: [{ name: 'act', type: 'enum:Act' as const }], reader: index.assets[1] };
  it.each([
    ['$lost = 3', ['nothing carries "lost"']],
    ['@lost = 3', ['the sender has no property "lost"']],
    ['$act = hop', ['act: "hop" is no value of Act']],
    ['$act in (jump, hop, 3)', ['act: "hop" is no value of Act', 'act: expected enum:Act, found int']],
    ['$act > 3', ['act is enum:Act, which has no order']],
    ['$act = jump and @calm != true', []],
  ])('%s', (text, words) => {
    const read = parseConditions(text);
    expect('value' in read && conditionFaults(scope, read.value).map((f) => f.words)).toEqual(words);
  });
});
