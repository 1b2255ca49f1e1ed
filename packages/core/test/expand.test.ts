import { describe, expect, it } from '@jest/globals';
import {
  BLOCKED,
  expand,
  indexProject,
  initialValue,
  MISSING,
  ProjectTooLarge,
  readProject,
  resolveByText,
  type Expansion,
  type Project,
} from '../src/index.js';
import { CompiledPath } from '../src/expand/resolve.js';
import { Selector, type Selection } from '../src/expand/select.js';
import { ValueTable } from '../src/expand/values.js';
import { positionOf } from '../src/expand/position.js';
import { areaContains } from '../src/geometry/area.js';
import { sceneInstances } from '../src/graph/resolver.js';

/** A corner of Veyra: a station with cabins that hold heaters, a crane that spawns sleds, and a line office. */
const veyra = readProject({
  format: 'oquel.project/1',
  name: 'Veyra',
  assets: [
    {
      id: 'station',
      kind: 'scene',
      placements: [
        { id: 'cabin-1', asset: 'Cabin', at: [10, 5], properties: { line: 'west' } },
        { id: 'cabin-2', asset: 'Cabin', at: [20, 5], asleep: true },
        { id: 'crane', asset: 'Crane', at: [30, 5] },
        { id: 'lost', asset: 'Nobody' },
      ],
    },
    {
      id: 'Cabin',
      kind: 'prefab',
      properties: [{ name: 'line', type: 'string', default: 'east' }],
      placements: [{ id: 'heater', asset: 'Heater', at: [0, 1] }],
    },
    { id: 'Heater', kind: 'prefab' },
    {
      id: 'Crane',
      kind: 'prefab',
      actions: [
        { name: 'send', effects: [{ spawn: 'Sled', properties: { seats: 4 } }, { spawn: 'station' }] },
      ],
    },
    {
      id: 'Sled',
      kind: 'prefab',
      properties: [{ name: 'seats', type: 'int', default: 2 }],
      placements: [{ id: 'lamp', asset: 'Heater' }],
      actions: [{ name: 'split', effects: [{ spawn: 'Rope' }, { spawn: 'Sled' }] }],
    },
    { id: 'Rope', kind: 'prefab', actions: [{ name: 'tear', effects: [{ spawn: 'Heater' }] }] },
    { id: 'office', kind: 'scene', placements: [{ id: 'desk', asset: 'Heater' }] },
  ],
}).project;
const x: Expansion = expand(indexProject(veyra));
const ADDRESSES = [
  'station:.',
  'station:cabin-1',
  'station:cabin-1/heater',
  'station:cabin-2',
  'station:cabin-2/heater',
  'station:crane',
  'station:crane/~Sled',
  'station:crane/~Sled/lamp',
  'station:crane/~Rope',
  'station:crane/~Heater',
  'office:.',
  'office:desk',
];
const at = (address: string): number => {
  const i = ADDRESSES.indexOf(address);
  if (i < 0) throw new Error(address);
  return i;
};
const flags = (test: (i: number) => boolean): string[] => ADDRESSES.filter((_, i) => test(i));

describe('expansion', () => {
  it('is depth first in array order, stand-ins after placements in order of discovery', () => {
    expect(Array.from({ length: x.count }, (_, i) => x.address(i))).toEqual(ADDRESSES);
  });
  it('knows what is spawned, contained, and held', () => {
    expect(flags((i) => x.isSpawned(i))).toEqual(ADDRESSES.slice(6, 10));
    expect(flags((i) => x.contains(at('station:crane'), i))).toEqual(['station:crane']);
    expect(flags((i) => x.contains(at('station:crane/~Sled'), i))).toEqual([
      'station:crane/~Sled',
      'station:crane/~Sled/lamp',
    ]);
    expect(flags((i) => x.holder[i] === at('station:crane'))).toEqual(ADDRESSES.slice(5, 10));
    expect(x.standInOf(at('station:crane/~Sled/lamp'), x.index.assetAt.get('Rope')!)).toBe(
      at('station:crane/~Rope'),
    );
    expect(x.containerOf(at('station:crane/~Sled'))).toBe(-1);
  });
  it('sleeps with what contains it', () => {
    expect(flags((i) => (x.flags[i] & 4) !== 0)).toEqual(['station:cabin-2', 'station:cabin-2/heater']);
  });
  it('adds positions up along the address', () => {
    expect(positionOf(x, at('station:cabin-1/heater'))).toEqual([10, 6]);
    expect(positionOf(x, at('station:crane/~Sled/lamp'))).toEqual([30, 5]);
  });
  it('takes overrides of the placement, of the first effect that spawns, or the default', () => {
    expect(initialValue(x, at('station:cabin-1'), 'line')).toBe('west');
    expect(initialValue(x, at('station:cabin-2'), 'line')).toBe('east');
    expect(initialValue(x, at('station:crane/~Sled'), 'seats')).toBe(4);
    expect(initialValue(x, at('station:cabin-1'), 'seats')).toBeUndefined();
  });
});

describe('paths', () => {
  const cases: [string, string, string | number][] = [
    ['station:.', '.', 'station:.'],
    ['station:.', 'cabin-1/heater', 'station:cabin-1/heater'],
    ['station:cabin-1', 'heater', 'station:cabin-1/heater'],
    ['station:.', 'crane/~Sled/lamp', 'station:crane/~Sled/lamp'],
    ['station:crane/~Sled', '~Rope', 'station:crane/~Rope'],
    ['office:.', 'station:cabin-2', 'station:cabin-2'],
    ['station:cabin-1', 'station:.', 'station:.'],
    ['station:.', 'cabin-9', MISSING],
    ['station:.', 'cabin-1/lamp', MISSING],
    ['station:.', '~Sled', MISSING],
    ['station:.', 'hut:desk', MISSING],
    ['station:.', 'Cabin:heater', MISSING],
    ['station:.', 'lost', BLOCKED],
    ['station:.', 'lost/part', BLOCKED],
    ['station:.', '', MISSING],
    ['station:.', 'cabin-1//heater', MISSING],
  ];
  it.each(cases)('from %s, "%s" names %s', (owner, path, named) => {
    const plan = new CompiledPath(x, sceneInstances(x), path, x.asset[at(owner)]);
    const found = plan.resolve(at(owner));
    expect(found < 0 ? found : x.address(found)).toBe(named);
  });
  it.each(cases.filter(([owner]) => owner !== 'station:crane/~Sled'))(
    'by the text too: from %s, "%s"',
    (owner, path, named) => {
      const asset = resolveByText(x.index, x.standIns, x.asset[at(owner)], path);
      expect(asset < 0 ? asset : x.index.assets[asset].decl.id).toBe(
        typeof named === 'number' ? named : x.assetOf(at(named)).decl.id,
      );
    },
  );
});

describe('selections', () => {
  const values = new ValueTable();
  const select = new Selector(x, values);
  const of = (owner: string, asset: string, more: Partial<Selection> = {}): string[] => {
    const found: string[] = [];
    const selection: Selection = {
      asset: x.index.assetAt.get(asset)!,
      within: 'asset',
      spawned: false,
      pick: 'all',
      match: null,
      ...more,
    };
    select.each(at(owner), selection, (i) => void found.push(x.address(i)));
    return found;
  };
  const heaters = ['station:cabin-1/heater', 'station:cabin-2/heater'];
  const cases: [string, string[], string[]][] = [
    ['inside the owner at any depth', of('station:.', 'Heater'), heaters],
    ['in the whole project', of('station:.', 'Heater', { within: 'project' }), [...heaters, 'office:desk']],
    [
      'spawned ones too',
      of('station:.', 'Heater', { spawned: true }),
      [...heaters, 'station:crane/~Sled/lamp', 'station:crane/~Heater'],
    ],
    ['the first', of('station:.', 'Heater', { pick: 'first' }), heaters.slice(0, 1)],
    [
      'by value',
      of('station:.', 'Cabin', { match: { property: 'line', value: values.number('west') } }),
      ['station:cabin-1'],
    ],
    [
      'by a value that none has',
      of('station:.', 'Cabin', { match: { property: 'line', value: values.number(1) } }),
      [],
    ],
    ['not the owner itself', of('station:cabin-1', 'Cabin'), []],
    [
      'of a spawned owner what is inside it',
      of('station:crane/~Sled', 'Heater'),
      ['station:crane/~Sled/lamp'],
    ],
  ];
  it.each(cases)('%s', (_name, found, expected) => expect(found).toEqual(expected));
});

describe('what is too large', () => {
  const nested = (levels: number, width: number): Project => ({
    format: 'oquel.project/1',
    name: 'deep',
    assets: Array.from({ length: levels }, (_, i) => ({
      id: `L${i}`,
      kind: i === 0 ? ('scene' as const) : ('prefab' as const),
      placements:
        i === levels - 1
          ? []
          : Array.from({ length: width }, (__, k) => ({ id: `p${k}`, asset: `L${i + 1}` })),
    })),
  });
  it('is refused with its number and the chain that multiplies', () => {
    try {
      expand(indexProject(nested(10, 10)));
      throw new Error('not refused');
    } catch (error) {
      expect(error).toBeInstanceOf(ProjectTooLarge);
      expect((error as ProjectTooLarge).count).toBe(1_111_111_111);
      expect((error as ProjectTooLarge).chain.slice(0, 2)).toEqual(['L0 (10 × L1)', 'L1 (10 × L2)']);
    }
  });
  it('is counted with what is spawned, and below the bound it is expanded', () => {
    const project = nested(7, 10);
    expect(expand(indexProject(project)).count).toBe(1_111_111);
    project.assets.at(-1)!.actions = [{ name: 'x', effects: [{ spawn: 'L5' }] }];
    expect(() => expand(indexProject(project))).toThrow(/expands to 12,111,111 instances/);
  });
  it('is refused also where assets contain each other in circles', () => {
    const all = Array.from({ length: 14 }, (_, i) => `C${i}`);
    const project: Project = {
      format: 'oquel.project/1',
      name: 'circles',
      assets: [
        { id: 'S', kind: 'scene', placements: [{ id: 'a', asset: 'C0' }] },
        ...all.map((id) => ({
          id,
          kind: 'prefab' as const,
          placements: all.map((asset, k) => ({ id: `p${k}`, asset })),
        })),
      ],
    };
    expect(() => expand(indexProject(project))).toThrow(
      /more than 500,000 placements close a loop, such as C1 > C2 > .*; take one of them out/,
    );
  });
  it.each<[string, Partial<Project['assets'][number]>, RegExp]>([
    [
      'events',
      {
        events: Array.from({ length: 50_000 }, (_, i) => ({
          name: `onE${i}`,
          cause: { type: 'code' as const },
        })),
      },
      /expands to 2,500,000,000 events and actions, more than the 25,000,000 allowed; it multiplies along yard \(50000 × crate\)/,
    ],
    [
      'bindings',
      {
        bindings: Array.from({ length: 1000 }, (_, i) => ({
          id: `b${i}`,
          from: { at: '.', event: 'onA' },
          to: { at: '.', action: 'a' },
        })),
      },
      /expands to 50,000,000 bindings, more than the 25,000,000 allowed/,
    ],
  ])('is refused for its %s, before they are numbered', (_name, more, message) => {
    const placements = Array.from({ length: 50_000 }, (_, i) => ({ id: `c${i}`, asset: 'crate' }));
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Yard',
      assets: [
        { id: 'yard', kind: 'scene', placements },
        { id: 'crate', kind: 'prefab', ...more },
      ],
    };
    expect(() => expand(indexProject(project))).toThrow(message);
  });
  it('is refused where prefabs are nested too deep', () => {
    expect(() => expand(indexProject(nested(100_000, 1)))).toThrow(/nested 100,000 levels deep.* from L0 on/);
  });
  it('is not looked for among what nothing places: a long chain of spawning costs nothing there', () => {
    const chain = Array.from({ length: 20_000 }, (_, i) => ({
      id: `C${i}`,
      kind: 'prefab' as const,
      actions: [{ name: 'go', effects: [{ spawn: `C${i + 1}` }] }],
    }));
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Chain',
      assets: [{ id: 'S', kind: 'scene', placements: [{ id: 'last', asset: 'C19990' }] }, ...chain],
    };
    // The scene, the one that is placed, and stand-ins for the nine that it leads to.
    expect(expand(indexProject(project)).count).toBe(11);
  });
  it('is refused where what is spawned is too much to be followed', () => {
    const all = Array.from({ length: 3000 }, (_, i) => ({ id: `p${i}`, asset: 'seed' }));
    const wide = Array.from({ length: 8000 }, (_, i) => ({ name: `go${i}`, effects: [{ spawn: `W${i}` }] }));
    const project: Project = {
      format: 'oquel.project/1',
      name: 'Wide',
      assets: [
        { id: 'S', kind: 'scene', placements: [{ id: 'first', asset: 'root' }] },
        { id: 'root', kind: 'prefab', actions: wide },
        { id: 'seed', kind: 'prefab' },
        ...wide.map((_, i) => ({ id: `W${i}`, kind: 'prefab' as const, placements: all })),
      ],
    };
    expect(() => expand(indexProject(project))).toThrow(/takes more than 20,000,000 steps to follow/);
  });
  it('does not recurse: nesting a thousand deep is expanded', () => {
    expect(expand(indexProject(nested(1000, 1))).count).toBe(1000);
  });
});

describe('areas', () => {
  const polygon = {
    polygon: [
      [0, 0],
      [4, 0],
      [4, 4],
      [2, 2],
      [0, 4],
    ] as [number, number][],
  };
  const cases: [string, Parameters<typeof areaContains>[0], [number, number], boolean][] = [
    ['in a circle', { circle: 2 }, [11, 11], true],
    ['on its border', { circle: 2 }, [12, 10], true],
    ['beyond it', { circle: 2 }, [12.01, 10], false],
    ['in a rectangle, which is centred', { rect: [4, 2] }, [8, 9], true],
    ['beside it', { rect: [4, 2] }, [8, 8.9], false],
    ['in a polygon, which is relative', polygon, [11, 11], true],
    ['in its dent', polygon, [12, 13.5], false],
    ['on its edge', polygon, [13, 13], true],
    ['on its corner', polygon, [10, 14], true],
    ['outside at the height of a corner', polygon, [9, 12], false],
  ];
  it.each(cases)('%s', (_name, area, point, inside) =>
    expect(areaContains(area, [10, 10], point)).toBe(inside),
  );
});
