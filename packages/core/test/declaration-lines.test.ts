import { describe, expect, it } from '@jest/globals';
import {
  completeDeclaration,
  defaultOfType,
  indexProject,
  mergeDeclaration,
  parseDeclaration,
  printDeclaration,
  type Declaration,
  type Project,
} from '../src/index.js';
import { Random } from './random.js';
import { randomProject } from './random-project.js';

const PROJECT: Project = {
  format: 'oquel.project/1',
  name: 'Lock',
  enums: [{ name: 'Side', values: ['left', 'right'] }],
  tables: [{ name: 'texts', keys: ['hello'] }],
  assets: [
    {
      id: 'Gate',
      kind: 'prefab',
      tags: ['heavy'],
      properties: [
        { name: 'isOpen', type: 'bool', default: false },
        { name: 'side', type: 'enum:Side', default: 'left' },
        { name: 'level', type: 'float', default: 0 },
      ],
      events: [
        { name: 'onOpened', cause: { type: 'raised' }, payload: [{ name: 'side', type: 'enum:Side' }] },
      ],
    },
    { id: 'Boat', kind: 'prefab' },
    { id: 'lock', kind: 'scene' },
  ],
};
const index = indexProject(PROJECT);
const read = (line: string): unknown => {
  const parsed = parseDeclaration(line, (type) => defaultOfType(index, type));
  return 'value' in parsed ? parsed.value : `${parsed.fault.at}: ${parsed.fault.message}`;
};

describe('a line that declares', () => {
  const lines: [string, Declaration][] = [
    ['event onOpened when raised', { kind: 'event', value: { name: 'onOpened', cause: { type: 'raised' } } }],
    ['onRung', { kind: 'event', value: { name: 'onRung', cause: { type: 'use' } } }],
    ['onPressed', { kind: 'event', value: { name: 'onPressed', cause: { type: 'press' } } }],
    ['onStepped', { kind: 'event', value: { name: 'onStepped', cause: { type: 'area-enter' } } }],
    ['onLeft', { kind: 'event', value: { name: 'onLeft', cause: { type: 'area-leave' } } }],
    ['onOpened', { kind: 'event', value: { name: 'onOpened', cause: { type: 'raised' } } }],
    ['onStarted', { kind: 'event', value: { name: 'onStarted', cause: { type: 'start' } } }],
    ['onDestroyed', { kind: 'event', value: { name: 'onDestroyed', cause: { type: 'destroyed' } } }],
    ['onTick', { kind: 'event', value: { name: 'onTick', cause: { type: 'timer', every: 1 } } }],
    ['onGust', { kind: 'event', value: { name: 'onGust', cause: { type: 'code' } } }],
    ['onPaused', { kind: 'event', value: { name: 'onPaused', cause: { type: 'code' } } }],
    [
      'event onLow when level changes',
      { kind: 'event', value: { name: 'onLow', cause: { type: 'change', property: 'level' } } },
    ],
    ['onBeat every 0.5s', { kind: 'event', value: { name: 'onBeat', cause: { type: 'timer', every: 0.5 } } }],
    [
      'onIn(speed: float, side?: enum:Side) when entered by Boat, #heavy at most 3 in pause expects a listener',
      {
        kind: 'event',
        value: {
          name: 'onIn',
          cause: { type: 'area-enter', activators: ['Boat', '#heavy'] },
          payload: [
            { name: 'speed', type: 'float' },
            { name: 'side', type: 'enum:Side', optional: true },
          ],
          limit: 3,
          raisedInPause: true,
          expectsListener: true,
        },
      },
    ],
    ['isOpen = false', { kind: 'property', value: { name: 'isOpen', type: 'bool', default: false } }],
    ['count = 3 key', { kind: 'property', value: { name: 'count', type: 'int', default: 3, isKey: true } }],
    ['side: enum:Side', { kind: 'property', value: { name: 'side', type: 'enum:Side', default: 'left' } }],
    [
      'at: vec2 = [1, 2] unique',
      { kind: 'property', value: { name: 'at', type: 'vec2', default: [1, 2], unique: true } },
    ],
    ['event: bool', { kind: 'property', value: { name: 'event', type: 'bool', default: false } }],
    ['wave', { kind: 'action', value: { name: 'wave' } }],
    ['action', { kind: 'action', value: { name: 'action' } }],
    [
      'open(side: enum:Side) while asleep: set isOpen to true; raise onOpened after 0.5s with (side = $side); wake',
      {
        kind: 'action',
        value: {
          name: 'open',
          params: [{ name: 'side', type: 'enum:Side' }],
          whileAsleep: true,
          effects: [
            { set: 'isOpen', to: true },
            { raise: 'onOpened', delay: 0.5, payload: { side: { payload: 'side' } } },
            { wake: true },
          ],
        },
      },
    ],
    [
      'toggleIt: toggle isOpen;',
      { kind: 'action', value: { name: 'toggleIt', effects: [{ toggle: 'isOpen' }] } },
    ],
    [
      'say(text: string): set said to "text"',
      {
        kind: 'action',
        value: {
          name: 'say',
          params: [{ name: 'text', type: 'string' }],
          effects: [{ set: 'said', to: 'text' }],
        },
      },
    ],
  ];
  it.each(lines)('%s', (line, expected) => {
    expect(read(line)).toEqual(expected);
    expect(read(printDeclaration(expected))).toEqual(expected);
  });

  const faults: [string, string][] = [
    ['event', '5: expected'],
    ['event on Opened', '9: expected the end, found "Opened"'],
    [
      'onOpened when opened',
      '14: expected entered, left, used, pressed, started, destroyed, raised, or a property and "changes", found "opened"',
    ],
    ['side: enum', '10: '],
    ['speed: flaot', '5: '],
    ['open: set isOpen', '16: expected "to" and a value, found the end of the line'],
    ['open: sett isOpen to true', '6: expected an effect'],
    [
      'turn(force: float): set level to force',
      '33: expected $force for the parameter, or "force" in quotes for text, found "force"',
    ],
    ['turn(force: float): raise onTurned with (by = force)', '46: expected $force for the parameter'],
    ['open(a: bool, a: int)', '15: expected a name other than a, which is already used'],
    ['onTick at most often', '15: expected a whole number, found "often"'],
  ];
  it.each(faults)('%s: told with its place', (line, said) => {
    const found = read(line);
    if (line === 'event') expect(found).toEqual({ kind: 'action', value: { name: 'event' } });
    else expect(String(found)).toContain(said.replace(/^(10|5): $/, 'expected'));
  });

  it('keeps what it has no words for', () => {
    const old: Declaration = {
      kind: 'event',
      value: { name: 'onA', cause: { type: 'code' }, limit: 2, note: 'why', delivery: { reliable: false } },
    };
    const parsed = parseDeclaration('onB when used', () => '');
    if (!('value' in parsed)) throw new Error('it is sound');
    expect(mergeDeclaration(old, parsed.value)).toEqual({
      kind: 'event',
      value: { name: 'onB', cause: { type: 'use' }, note: 'why', delivery: { reliable: false } },
    });
  });

  it('says all of what random projects declare, but for notes and delivery', () => {
    let count = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const project = randomProject(seed);
      const types = indexProject(project);
      for (const { events = [], actions = [], properties = [] } of project.assets) {
        const all: Declaration[] = [
          ...events.map((value) => ({ kind: 'event' as const, value })),
          ...actions.map((value) => ({ kind: 'action' as const, value })),
          ...properties.map((value) => ({ kind: 'property' as const, value })),
        ];
        for (const declaration of all) {
          const line = printDeclaration(declaration);
          const parsed = parseDeclaration(line, (type) => defaultOfType(types, type));
          if (!('value' in parsed)) throw new Error(`${line}: ${parsed.fault.message}`);
          const said = mergeDeclaration(declaration, parsed.value);
          expect({ line, said: sorted(said.value) }).toEqual({
            line,
            said: sorted(withoutNothing(declaration.value)),
          });
          count++;
        }
      }
    }
    expect(count).toBeGreaterThan(500);
  });
});

/** An empty list of fields or effects, and a flag that is off, say nothing. */
function withoutNothing(value: object): object {
  return Object.fromEntries(
    Object.entries(value)
      .filter(([k, v]) => v !== false || k === 'default')
      .filter(([, v]) => !(Array.isArray(v) && v.length === 0)),
  );
}
function sorted(value: object): unknown {
  return JSON.parse(JSON.stringify(value));
}

describe('completion', () => {
  const gate = index.assets[0];
  const completed = (beginning: string): string[] =>
    completeDeclaration(index, gate, beginning).options.map((o) => o.text);
  const cases: [string, string[]][] = [
    ['', ['event ', 'action ', 'property ']],
    ['ev', ['event ']],
    ['property a: ', ['bool', 'enum:Side', 'key:texts']],
    ['property a: en', ['enum:Side']],
    ['a: enum:Side = ', ['left', 'right']],
    ['onA(x: ', ['float', 'enum:Side']],
    ['onA ', ['when raised', 'every 1s', 'at most ']],
    ['onA when ', ['raised', 'isOpen changes']],
    ['onA when entered ', ['by ']],
    ['onA when entered by ', ['Boat', '#heavy']],
    ['open: ', ['set ', 'raise ', 'toggle ']],
    ['open: s', ['set ', 'spawn ', 'sleep']],
    ['open:s', ['set ', 'spawn ', 'sleep']],
    ['property a: enum:S', ['enum:Side']],
    ['open: set ', ['isOpen to ', 'side to ']],
    ['open: set isOpen to ', ['true', 'false']],
    ['open(f: float): set level to ', ['$f']],
    ['open(f: float): set level to $', ['$f']],
    ['open: set isOpen to true; raise ', ['onOpened']],
    ['open: raise onOpened with (', ['side = ']],
    ['open(s: enum:Side): raise onOpened with (side = ', ['$s', '@side']],
    ['open: raise onOpened ', ['after ', 'with (', '; ']],
    ['open: spawn ', ['Boat']],
    ['open: set isOpen to true when side is ', ['left', 'right']],
  ];
  it.each(cases)('%s', (beginning, wanted) => {
    expect(completed(beginning)).toEqual(expect.arrayContaining(wanted));
  });
  it.each([
    [
      'tall',
      [' = false', ' = 0', ' = ""', ': set isOpen to true', ': set side to "left"', ': raise onOpened'],
    ],
    ['open: set isOpen to true', ['; raise onOpened', '; set side to "left"']],
    ['open(f: float): raise onOpened', ['; set level to $f']],
    ['onRung', [' when used', ' every 1s', ' from code']],
    ['tall = 3', [' key', ' unique']],
    ['shut while asleep', [': wake', ' expects a sender']],
  ])('%s goes on, and is whole before and after', (line, wanted) => {
    const { at, options } = completeDeclaration(index, gate, line);
    expect(at).toBe(line.length);
    expect(options.map((o) => o.text)).toEqual(expect.arrayContaining(wanted));
    for (const o of options.filter((o) => o.text !== '(')) {
      expect(o.isMore).toBe(true);
      expect(parseDeclaration(line + o.text, () => 0)).toHaveProperty('value');
    }
  });
  it.each([
    ['onRung(side', [': float', ': enum:Side']],
    ['onRung(side: enum:Side', [')', ', ']],
    ['onRung', ['(']],
    ['swing(by: float, to', [': float']],
  ])('%s goes on with what it carries', (line, wanted) => {
    expect(completed(line)).toEqual(expect.arrayContaining(wanted));
  });
  it('offers no scene to spawn, and no event where an effect begins', () => {
    expect(completed('open: spawn ')).not.toContain('lock');
    expect(completed('open: ')).not.toContain('onOpened');
  });
  it('fails on nothing that anybody could type', () => {
    const r = new Random(7);
    const parts = [
      'event ',
      'action ',
      'on',
      'A',
      '(',
      ')',
      ':',
      ' ',
      '=',
      ';',
      'set ',
      'with ',
      'by ',
      '"',
      '$',
      '#',
      'when ',
      'raise ',
      'constructor',
    ];
    for (let i = 0; i < 2000; i++) {
      const line = r.list(9, () => r.pick(parts)).join('');
      expect(() => completed(line)).not.toThrow();
      expect(() => read(line)).not.toThrow();
    }
  });
});
