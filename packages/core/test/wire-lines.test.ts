import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  completeWireLine,
  indexProject,
  parseWireLine,
  printBinding,
  printWireLine,
  readWireLines,
  type Arg,
  type Asked,
  type Binding,
  type BindingFrom,
  type BindingTo,
  type Condition,
  type KeyExpr,
  type Project,
  type Value,
} from '../src/index.js';
import { Random } from './random.js';

const project: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  enums: [{ name: 'Line', values: ['east', 'west'] }],
  channels: [{ name: 'tension', payload: [{ name: 'tension', type: 'float' }] }],
  assets: [
    {
      id: 'pylon-ridge',
      kind: 'scene',
      placements: [
        { id: 'mast-2', asset: 'WindMast' },
        { id: 'brake-1', asset: 'TrackBrake' },
        { id: 'brake-2', asset: 'TrackBrake' },
      ],
      bindings: [
        {
          id: 'gust-1',
          from: { at: 'mast-2', event: 'onGust' },
          to: { at: 'brake-1', action: 'engage' },
          args: { force: { payload: 'speed' } },
        },
      ],
    },
    {
      id: 'WindMast',
      kind: 'prefab',
      properties: [{ name: 'line', type: 'enum:Line', default: 'east', isKey: true }],
      events: [
        { name: 'onGust', cause: { type: 'code' }, payload: [{ name: 'speed', type: 'float' }] },
        { name: 'onCalm', cause: { type: 'code' } },
      ],
    },
    {
      id: 'TrackBrake',
      kind: 'prefab',
      properties: [{ name: 'line', type: 'enum:Line', default: 'east', isKey: true }],
      actions: [
        { name: 'engage', params: [{ name: 'force', type: 'float' }] },
        { name: 'release', params: [{ name: 'line', type: 'enum:Line', optional: true }] },
      ],
    },
  ],
};
const index = indexProject(project);
const owner = index.assets[0];

const ODD = ['', 'a b', 'off', 'every', 'x.y', '"', '\\', 'né', '#', 'as', '__proto__', 'do'];
const PLAIN = ['mast-2', 'onGust', 'line', '_a', 'named', 'sender'];
function name(r: Random): string {
  return r.chance(0.7) ? r.pick(PLAIN) : r.pick(ODD);
}
function path(r: Random): string {
  return r.pick([
    '.',
    'mast-2',
    'cabin-3/heater',
    'hub/~Sled',
    'pylon-ridge:.',
    'a:b/c',
    '..',
    'x.',
    name(r),
  ]);
}
function value(r: Random): Value {
  return r.pick<Value>([true, false, 0, -3, 2.5, 1e21, -4e-7, 'east', name(r), [1, -2.5], '$speed', 'true']);
}
function key(r: Random): KeyExpr {
  return r.chance(0.5) ? value(r) : { property: name(r) };
}
function arg(r: Random): Arg {
  const as = r.chance(0.4) ? ({ as: 'string' } as const) : {};
  return r.pick<Arg>([value(r), { payload: name(r), ...as }, { property: name(r), ...as }, { sender: true }]);
}
function maybe<T extends object>(r: Random, part: T): T | Record<string, never> {
  return r.chance(0.4) ? part : {};
}
function channel(r: Random): { channel: string; key?: KeyExpr } {
  return { channel: name(r), ...maybe(r, { key: key(r) }) };
}
function conditions(r: Random): Condition[] {
  const number = (): number => r.pick([0, -3, 2.5, 1e21, -4e-7]);
  return Array.from({ length: r.int(3) }, () => {
    const is = r.pick<() => Asked>([
      () => value(r),
      () => ({ not: value(r) }),
      () => ({ oneOf: Array.from({ length: r.int(3) }, () => value(r)) }),
      () => ({ under: number() }),
      () => ({ atMost: number() }),
      () => ({ over: number() }),
      () => ({ atLeast: number() }),
    ])();
    return r.chance(0.5) ? { payload: name(r), is } : { property: name(r), is };
  });
}
/** Anything that a binding can hold. */
function anyBinding(seed: number): Binding {
  const r = new Random(seed);
  const from: BindingFrom = r.chance(0.3) ? channel(r) : { at: path(r), event: name(r) };
  const every: BindingTo = {
    every: name(r),
    action: name(r),
    ...maybe(r, { within: r.pick(['asset', 'project'] as const) }),
    ...maybe(r, { pick: r.pick(['all', 'first'] as const) }),
    ...maybe(r, { match: r.chance(0.3) ? 'all' : { property: name(r), equals: key(r) } }),
    ...maybe(r, { spawned: r.chance(0.5) }),
  };
  const direct: BindingTo = { at: path(r), action: name(r) };
  const to = r.pick<BindingTo>('channel' in from ? [every, direct] : [every, direct, channel(r)]);
  return {
    id: r.pick(['gust-1', '_x', 'on', 'off']),
    from,
    to,
    ...maybe(r, { args: Object.fromEntries(Array.from({ length: r.int(3) }, () => [name(r), arg(r)])) }),
    ...maybe(r, { limit: 1 + r.int(3) }),
    ...maybe(r, { delay: r.pick([0, 0.5, 12, 1e-7]) }),
    ...maybe(r, { if: conditions(new Random(seed + 104729)) }),
    ...maybe(r, { enabled: r.chance(0.5) }),
    ...maybe(r, { origin: r.pick(['authored', 'code'] as const) }),
    ...maybe(r, { bind: r.pick(['load', 'start'] as const) }),
    ...maybe(r, { release: r.pick(['own', 'all', 'never'] as const) }),
    ...maybe(r, { note: r.pick(['', 'why "so"', 'two\nlines // off']) }),
  };
}
function binding(line: string): unknown {
  const parsed = parseWireLine(line);
  return 'fault' in parsed ? `${parsed.fault.at}: ${parsed.fault.message}` : parsed.binding;
}

describe('wire lines', () => {
  it('print a binding so that it reads back the very same, whatever it holds', () => {
    for (let seed = 0; seed < 5000; seed++) {
      const b = anyBinding(seed);
      const line = printWireLine(b);
      expect({ seed, line, read: binding(line) }).toEqual({ seed, line, read: b });
      expect(line).not.toContain('\n');
    }
  });

  it('print a sentence that reads back as what does the same', () => {
    const dropped = { delay: 0, enabled: true, origin: 'authored', bind: 'load', release: 'own' };
    for (let seed = 0; seed < 2000; seed++) {
      const b = anyBinding(seed);
      const plain = Object.fromEntries(
        Object.entries(b).filter(
          ([k, v]) =>
            k !== 'id' &&
            k !== 'note' &&
            dropped[k as keyof typeof dropped] !== v &&
            !(k === 'if' && (v as unknown[]).length === 0),
        ),
      );
      expect({ seed, read: binding(printBinding(b)) }).toEqual({ seed, read: plain });
    }
  });

  it.each<[string, object]>([
    ['when mast-2.onGust do brake-1.engage(force=$speed) once after 0.5s', { limit: 1, delay: 0.5 }],
    [
      '  when  mast-2.onGust  do brake-1.engage ( force = $speed )  after 0.5 s  once ',
      { limit: 1, delay: 0.5 },
    ],
  ])('blanks and the order of options do not count: %s', (line, options) => {
    expect(binding(line)).toEqual({
      from: { at: 'mast-2', event: 'onGust' },
      to: { at: 'brake-1', action: 'engage' },
      args: { force: { payload: 'speed' } },
      ...options,
    });
  });

  it.each([
    ['', '0: expected "when", found the end of the line'],
    ['wen mast-2.onGust', '0: expected "when", found "wen"'],
    ['when mast-2 do', '11: expected a dot and a name, found the end of the line'],
    ['when mast-2.onGust brake-1.engage', '19: expected "do", found "brake-1.engage"'],
    [
      'when mast-2.onGust do ',
      '22: expected a receiver and its action, such as brake-1.engage, found the end of the line',
    ],
    ['when a.b do c.d(force 3)', '22: expected "=", found "3"'],
    [
      'when a.b do c.d(x = 1, x = 2)',
      '23: expected a parameter other than x, which already has a value, found "x"',
    ],
    ['when a.b do c.d(x = 1', '21: expected ")", found the end of the line'],
    ['when a.b do c.d(x = "open', '25: expected a closing quote, found the end of the line'],
    ['when a.b do c.d at most 0', '25: expected a whole number from 1, found the end of the line'],
    ['when a.b do c.d once at most 2', '21: expected one limit at most, found "at"'],
    ['when a.b do c.d after soon', '22: expected seconds, such as 0.5s, found "soon"'],
    [
      'when #a do #b',
      '13: expected a receiver, since what is heard on a channel cannot be published again, found the end of the line',
    ],
    ['when a.b do every X [line 3].d', '26: expected "=", found "3"'],
  ])('an error points at the character: %s', (line, message) => {
    expect(binding(line)).toBe(message);
  });

  it('never throw, whatever is typed', () => {
    const r = new Random(1);
    const pieces = [
      ...' .#[]()=,"$@',
      'when ',
      'do ',
      'every ',
      'once',
      'after ',
      '0.5s',
      'mast-2',
      '\\',
      'ü',
    ];
    for (let i = 0; i < 10_000; i++) {
      const line = Array.from({ length: r.int(14) }, () => r.pick(pieces)).join('');
      expect(() => parseWireLine(line)).not.toThrow();
      expect(() => completeWireLine(index, owner, line)).not.toThrow();
    }
  });
});

describe('completing a wire line', () => {
  const complete = (text: string): string[] =>
    completeWireLine(index, owner, text).options.map(
      (o) => text.slice(0, completeWireLine(index, owner, text).at) + o.text,
    );
  it.each<[string, string[]]>([
    ['', ['when']],
    ['w', ['when']],
    ['when ', ['when mast-2.', 'when #tension']],
    ['when ma', ['when mast-2.']],
    ['when mast-2.', ['when mast-2.onGust', 'when mast-2.onCalm']],
    ['when mast-2.calm', ['when mast-2.onCalm']],
    ['when mast-2.onGust ', ['when mast-2.onGust do']],
    ['when mast-2.onGust do br', ['when mast-2.onGust do brake-1.', 'when mast-2.onGust do brake-2.']],
    [
      'when mast-2.onGust do brake-1.',
      ['when mast-2.onGust do brake-1.engage', 'when mast-2.onGust do brake-1.release'],
    ],
    ['when mast-2.onGust do every Tr', ['when mast-2.onGust do every TrackBrake']],
    ['when mast-2.onGust do every TrackBrake [li', ['when mast-2.onGust do every TrackBrake [line = ']],
    ['when mast-2.onGust do brake-1.engage(', ['when mast-2.onGust do brake-1.engage(force = ']],
    [
      'when mast-2.onGust do brake-1.engage(force = ',
      ['when mast-2.onGust do brake-1.engage(force = $speed'],
    ],
    [
      'when mast-2.onGust do brake-1.release(line = "',
      [
        'when mast-2.onGust do brake-1.release(line = "east"',
        'when mast-2.onGust do brake-1.release(line = "west"',
      ],
    ],
    ['when mast-2.onGust do #', ['when mast-2.onGust do #tension']],
    ['when mast-2.onGust do #tension[', ['when mast-2.onGust do #tension[@line']],
    ['when mast-2.onGust do brake-1.release onc', ['when mast-2.onGust do brake-1.release once']],
    [
      'when mast-2.onGust do brake-1.release releases ',
      ['own', 'all', 'never'].map((w) => `when mast-2.onGust do brake-1.release releases ${w}`),
    ],
  ])('%s', (text, expected) => {
    expect(complete(text)).toEqual(expected);
  });
});

describe('many lines at once', () => {
  const text = [
    '// the second brake',
    'when mast-2.onGust do brake-2.engage(force = $speed)',
    '',
    'when mast-2.onGust do brake-1.engage(force = $speed) named other',
    'when mast-2.onCalm do brake-9.release',
    'when mast-2.onCalm do brake-1.engage',
    'when mast-2.onCalm brake-1.engage',
    'when mast-2.onCalm do brake-1.release named gust-1',
    'when mast-2.onCalm do brake-1.release after 0s',
  ].join('\n');

  it('say what each would become', () => {
    expect(
      readWireLines(index, owner, text).map((l) => [l.number, l.state, l.binding?.id, ...l.reasons]),
    ).toEqual([
      [2, 'new', 'onGust-1'],
      [4, 'wired', 'other', 'gust-1 is the same'],
      [5, 'faulty', 'onCalm-1', 'nothing here is called brake-9'],
      [6, 'faulty', 'onCalm-2', 'force (float) is missing'],
      [7, 'broken', undefined, 'expected "do", found "brake-1.engage"'],
      [8, 'new', 'onCalm-3'],
      [9, 'wired', 'onCalm-4', 'onCalm-3 is the same'],
    ]);
  });

  it('become bindings that can be put in together', () => {
    const lines = readWireLines(index, owner, text).filter((l) => l.state === 'new');
    const changes = lines.map((l, i) => ({
      op: 'insert' as const,
      list: 'bindings' as const,
      asset: owner.decl.id,
      index: owner.bindings.length + i,
      item: l.binding!,
    }));
    const after = applyChanges(project, changes).project.assets[0].bindings!;
    expect(after.map((b) => b.id)).toEqual(['gust-1', 'onGust-1', 'onCalm-3']);
  });
});
