import type {
  Action,
  Area,
  Asset,
  Cause,
  Effect,
  EventDecl,
  Field,
  Placement,
  Project,
  Property,
  Type,
  Value,
} from '../src/index.js';
import { Random } from './random.js';

/** Texts that a table, a spreadsheet or a line of text could take for something else. */
const TEXTS = [
  '',
  ' ',
  ' a ',
  '=1+1',
  '-b',
  '@c',
  "'=d",
  '"',
  '"q"',
  'a, b; c',
  'one\ntwo',
  '()',
  'no',
  '5',
  'yes',
  'true',
  '[1, 2]',
  '#t',
  '// x',
];
const TYPES: Type[] = ['bool', 'int', 'float', 'string', 'vec2', 'enum:Side of it', 'key:lines', 'instance'];

/** A project of declarations and placements of every kind, sound in its types, with texts that are hard to carry. */
export function randomTables(seed: number): Project {
  const r = new Random(seed + 31);
  const prefabs = Array.from({ length: 1 + r.int(3) }, (_, i) => `P${i}`);
  const assets = [
    ...prefabs.map((id) => declared(r, { id, kind: 'prefab' })),
    declared(r, { id: 'S0', kind: 'scene' }),
  ];
  for (const asset of assets) place(r, asset, assets.slice(0, prefabs.length));
  return {
    format: 'oquel.project/1',
    name: `tables ${seed}`,
    enums: [{ name: 'Side of it', values: ['left', 'right, or so', '"up"'] }],
    tables: [{ name: 'lines', keys: r.list(3, (i) => `k${i}`) }],
    channels: r.list(3, (i) => ({ name: `c${i}`, ...maybe(r, 'payload', () => fields(r)), ...note(r) })),
    loadSets: r.list(2, (i) => ({ name: `set ${i}`, scenes: r.chance(0.7) ? ['S0'] : [] })),
    peers: [{ name: 'host', role: 'server' }],
    assets,
  };
}

function declared(r: Random, base: Asset): Asset {
  return {
    ...base,
    ...maybe(r, 'tags', () => r.list(2, (i) => ['wet', 'a, b'][i])),
    ...note(r),
    ...maybe(r, 'mark', () => r.pick(['light', 'thing', 'person'] as const)),
    ...maybe(r, 'persistent', () => r.chance(0.5)),
    ...maybe(r, 'runsInPause', () => r.chance(0.5)),
    ...maybe(r, 'existsOn', () => r.pick(['all', 'authority'] as const)),
    ...(base.kind === 'scene' ? maybe(r, 'size', (): [number, number] => [40, 24.5]) : {}),
    ...maybe(r, 'area', () => area(r)),
    properties: r.list(5, (i): Property => {
      const type = TYPES[(i * 3 + r.int(3)) % TYPES.length];
      return {
        name: `p${i}`,
        type,
        default: value(r, type),
        ...maybe(r, 'isKey', () => r.chance(0.5)),
        ...maybe(r, 'unique', () => r.chance(0.5)),
      };
    }),
    events: r.list(3, (i): EventDecl => ({
      name: `onE${i}`,
      cause: cause(r),
      ...maybe(r, 'payload', () => fields(r)),
      ...maybe(r, 'limit', () => r.int(4)),
      ...maybe(r, 'raisedInPause', () => r.chance(0.5)),
      ...maybe(r, 'expectsListener', () => r.chance(0.5)),
      ...maybe(r, 'delivery', () => ({
        ...maybe(r, 'send', () =>
          r.pick([
            'nobody' as const,
            'everyone' as const,
            { only: [] },
            { except: ['authority' as const, 'others' as const] },
          ]),
        ),
        ...maybe(r, 'to', () => r.pick(['raiser' as const, { only: ['operator' as const] }, { except: [] }])),
        ...maybe(r, 'reliable', () => r.chance(0.5)),
      })),
      ...note(r),
    })),
    actions: r.list(3, (i): Action => ({
      name: `a${i}`,
      ...maybe(r, 'params', () => fields(r)),
      ...maybe(r, 'expectsSender', () => r.chance(0.5)),
      ...maybe(r, 'whileAsleep', () => r.chance(0.5)),
      ...maybe(r, 'effects', () => r.list(3, () => effect(r))),
      ...note(r),
    })),
  };
}
function place(r: Random, owner: Asset, prefabs: readonly Asset[]): void {
  owner.placements = r.list(4, (i): Placement => {
    const of = r.chance(0.9) ? r.pick(prefabs) : null;
    const values = Object.fromEntries(
      (of?.properties ?? []).filter(() => r.chance(0.5)).map((p) => [p.name, value(r, p.type)]),
    );
    return {
      id: `t${i}`,
      asset: of?.id ?? 'P0',
      ...maybe(r, 'at', (): [number, number] => [r.int(40), r.int(40) / 4]),
      ...maybe(r, 'area', () => area(r)),
      ...maybe(r, 'asleep', () => r.chance(0.5)),
      ...maybe(r, 'entry', () => r.chance(0.5)),
      ...maybe(r, 'authority', () => r.pick(['host', 'lost'])),
      ...maybe(r, 'operator', () => 'host'),
      ...maybe(r, 'muted', () => r.list(2, (n) => `b${n}`)),
      ...(Object.keys(values).length > 0 && of ? { properties: values } : {}),
      ...maybe(r, 'inside', () => ({
        't0/t1': { deep: r.pick<Value>([1, 'x', true, [1, 2], '5', 'true']) },
      })),
      ...note(r),
    };
  });
}
function maybe<K extends string, V>(r: Random, key: K, make: () => V): { [P in K]?: V } {
  return r.chance(0.4) ? ({ [key]: make() } as { [P in K]?: V }) : {};
}
function note(r: Random): { note?: string } {
  return maybe(r, 'note', () => r.pick(TEXTS));
}
function value(r: Random, type: Type): Value {
  if (type === 'bool') return r.chance(0.5);
  if (type === 'int') return r.int(9) - 4;
  if (type === 'float') return r.pick([0.5, -1e-7, 3, 1e21]);
  if (type === 'vec2') return [r.int(5), -0.25];
  return type === 'string' ? r.pick(TEXTS) : r.pick(['left', 'right, or so', '5']);
}
function fields(r: Random): Field[] {
  return r.list(2, (i) => ({
    name: `f${i}`,
    type: r.pick(TYPES),
    ...(r.chance(0.3) ? { optional: true } : {}),
  }));
}
function area(r: Random): Area {
  return r.pick<Area>([
    { circle: 2.5 },
    { rect: [3, 4] },
    {
      polygon: [
        [0, 0],
        [4, -1],
        [4, 3],
      ],
    },
  ]);
}
function cause(r: Random): Cause {
  return r.pick<Cause>([
    { type: 'area-enter', activators: ['P0', '#wet'] },
    { type: 'area-leave', activators: [] },
    { type: 'use' },
    { type: 'press' },
    { type: 'start' },
    { type: 'destroyed' },
    { type: 'timer', every: 0.25 },
    { type: 'change', property: 'p0' },
    { type: 'code' },
    { type: 'raised' },
  ]);
}
function effect(r: Random): Effect {
  return r.pick<Effect>([
    { set: 'p0', to: r.pick(TEXTS) },
    { set: 'p1', to: { param: 'f0' }, when: { property: 'p0', is: { oneOf: [1, 'a; b'] } } },
    { toggle: 'p0', everyNth: 3 },
    { add: 'p1', by: -2 },
    { raise: 'onE0', delay: 0.5, restart: true, payload: { f0: { payload: 'f0' }, f1: r.pick(TEXTS) } },
    { spawn: 'P0', properties: { p0: r.pick(TEXTS) } },
    { wake: true },
    { sleep: true, when: { param: 'f0', is: { atLeast: 2 } } },
    { destroy: true },
  ]);
}
