import { describe, expect, it } from '@jest/globals';
import {
  expand,
  missingFields,
  indexProject,
  parseStep,
  printStep,
  rehearse,
  stepOfAnother,
  type Project,
  type Rehearsal,
  type Step,
  type StepAction,
} from '../src/index.js';
import { Random } from './random.js';

/** Names with all that a document may hold, and plain ones. */
const NAMES = ['bell-1', 'a', 'onRung', 'x_y', 'with space', 'dot.ted', 'quo"te', 'ünï', '1st', ''];
const ADDRESSES = [
  'quay:bell-1',
  'quay:.',
  'quay:box/bell~2',
  'odd:a b',
  'quay:a.b/c',
  'no colon',
  'quay:"x"',
];
const VALUES = [true, false, 0, -2.5, 1e21, 'east', 'with "quotes"', '', [1, -2.5]] as const;

function randomStep(r: Random): StepAction {
  const pick = <T>(list: readonly T[]): T => list[r.int(list.length)];
  const record = (): Record<string, never> =>
    Object.fromEntries(NAMES.slice(0, r.int(4)).map((n) => [n, pick(VALUES)])) as Record<string, never>;
  switch (r.int(7)) {
    case 0:
      return { pause: r.int(2) === 0 };
    case 1:
      return {
        publish: {
          channel: pick(NAMES),
          ...(r.int(2) ? { key: pick(VALUES) as never } : {}),
          ...(r.int(2) ? { payload: record() } : {}),
        },
      };
    case 2:
      return { expect: { at: pick(ADDRESSES), property: pick(NAMES), is: pick(VALUES) as never } };
    case 3:
      return { expect: { at: pick(ADDRESSES), asleep: r.int(2) === 0 } };
    case 4:
      return { expect: { at: pick(ADDRESSES), gone: r.int(2) === 0 } };
    case 5:
      return { expect: { at: pick(ADDRESSES), action: pick(NAMES), times: r.int(5) } };
    default:
      return {
        raise: {
          at: pick(ADDRESSES),
          event: pick(NAMES),
          ...(r.int(2) ? { payload: record() } : {}),
          ...(r.int(2) ? { activator: pick(ADDRESSES) } : {}),
          ...(r.int(2) ? { by: pick(NAMES) } : {}),
        },
      };
  }
}

describe('a step as a line', () => {
  it.each([
    ['raise quay:bell-1.onRung(force = 3) for quay:keeper by host', 'raise'],
    ['publish #weather["east"](speed = 12)', 'publish'],
    ['expect quay:gate-1.isOpen = true', 'expect'],
    ['expect quay:gate-1 did open 2 times', 'expect'],
    ['expect quay:gate-1 did open 1 time', 'expect'],
    ['expect quay:gate-1 is asleep', 'expect'],
    ['pause', 'pause'],
    ['resume', 'pause'],
  ])('%s', (line, key) => {
    const parsed = parseStep(line);
    if ('fault' in parsed) throw new Error(parsed.fault.message);
    expect(Object.keys(parsed.value)).toEqual([key]);
    expect(printStep(parsed.value)).toBe(line);
  });
  it('reads back as the very same step, whatever its names and values are', () => {
    const r = new Random(16);
    for (let i = 0; i < 4000; i++) {
      const step = randomStep(r);
      const line = printStep(step);
      const parsed = parseStep(line);
      if ('fault' in parsed) throw new Error(`${line}: ${parsed.fault.message}`);
      expect(parsed.value).toEqual(step);
    }
  });
  it.each([
    ['', 0, 'raise, publish, expect, pause or resume'],
    ['raise bell', 6, 'an event of a thing'],
    ['raise quay:bell-1', 6, 'an event of a thing'],
    ['raise quay:bell-1.onRung(force', 30, '"="'],
    ['publish weather', 8, '# and a channel'],
    ['expect quay:bell-1', 7, 'a property of a thing'],
    ['expect quay:bell-1 is loud', 22, 'asleep, awake, gone or there'],
    ['expect quay:bell-1 did ring', 27, 'how many times'],
    ['pause now', 6, 'the end'],
  ])('%s is refused at character %i: %s', (line, at, expected) => {
    const parsed = parseStep(line);
    if (!('fault' in parsed)) throw new Error('it was read');
    expect(parsed.fault.at).toBe(at);
    expect(parsed.fault.expected).toContain(expected);
  });
  it('speaks of another thing, with all else as it was', () => {
    expect(stepOfAnother('raise quay:a.onRung(force = 3) by host', 'quay:b')).toBe(
      'raise quay:b.onRung(force = 3) by host',
    );
    expect(stepOfAnother('expect quay:a is gone', 'quay:b/c')).toBe('expect quay:b/c is gone');
    expect(stepOfAnother('pause', 'quay:b')).toBeNull();
    expect(stepOfAnother('raise ', 'quay:b')).toBeNull();
  });
});

const quay = {
  format: 'oquel.project/1',
  name: 'Quay',
  channels: [{ name: 'tide', payload: [{ name: 'metres', type: 'float' }] }],
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      placements: [
        { id: 'bell', asset: 'Bell' },
        { id: 'gone', asset: 'Bell' },
      ],
      bindings: [
        { id: 'once', from: { at: 'bell', event: 'onRung' }, to: { at: 'bell', action: 'still' }, limit: 1 },
        { id: 'end', from: { at: 'bell', event: 'onRung' }, to: { at: 'gone', action: 'still' } },
        { id: 'late', from: { at: 'bell', event: 'onRung' }, to: { at: 'gone', action: 'end' }, delay: 1 },
      ],
    },
    {
      id: 'Bell',
      kind: 'prefab',
      events: [
        {
          name: 'onRung',
          cause: { type: 'code' },
          payload: [
            { name: 'force', type: 'float' },
            { name: 'by', type: 'instance', optional: true },
          ],
        },
      ],
      actions: [{ name: 'still' }, { name: 'end', effects: [{ destroy: true }] }],
    },
  ],
} as unknown as Project;

describe('what a step needs', () => {
  const index = indexProject(quay);
  it.each<[string, object, string[]]>([
    ['nothing given', { raise: { at: 'quay:bell', event: 'onRung' } }, ['force']],
    ['all given', { raise: { at: 'quay:bell', event: 'onRung', payload: { force: 1 } } }, []],
    ['no such thing', { raise: { at: 'quay:none', event: 'onRung' } }, []],
    ['a channel', { publish: { channel: 'tide' } }, ['metres']],
    ['an expectation', { expect: { at: 'quay:bell', gone: true } }, []],
  ])('%s', (_, action, names) => {
    expect(missingFields(index, { at: 0, ...action } as Step).map((f) => f.name)).toEqual(names);
  });
});

describe('a strict rehearsal', () => {
  const raise = (at: number): Step => ({
    at,
    raise: { at: 'quay:bell', event: 'onRung', payload: { force: 1 } },
  });
  const verdict = (rehearsal: Rehearsal): boolean => rehearse(expand(indexProject(quay)), [rehearsal]).pass;
  it('fails if anything is lost in it, and passes otherwise as any other', () => {
    const once: Rehearsal = { name: 'once', steps: [raise(0)] };
    // The second ring comes to what has gone meanwhile.
    const twice: Rehearsal = { name: 'twice', steps: [raise(0), raise(5)] };
    expect([verdict(once), verdict(twice)]).toEqual([true, true]);
    expect([verdict({ ...once, strict: true }), verdict({ ...twice, strict: true })]).toEqual([true, false]);
  });
});
