import { describe, expect, it } from '@jest/globals';
import {
  freePlace,
  indexProject,
  isName,
  nameFromText,
  type NamedKind,
  type Project,
  type Vec2,
} from '../src/index.js';
import { Random } from './random.js';

describe('a name that is typed freely', () => {
  const cases: [string, NamedKind, string][] = [
    ['Light House', 'prefab', 'LightHouse'],
    ['light house', 'widget', 'LightHouse'],
    ['Light House', 'scene', 'light-house'],
    ['Light House', 'placement', 'light-house'],
    ['Light House', 'action', 'lightHouse'],
    ['on opened', 'event', 'onOpened'],
    ['Gate', 'prefab', 'Gate'],
    ['gate-1', 'placement', 'gate-1'],
    ['Großer Öltank', 'prefab', 'GroErOltank'],
    ['3 doors', 'scene', '_3-doors'],
    ['  ', 'scene', ''],
    ['🌊', 'prefab', ''],
    ['x'.repeat(80), 'prefab', 'X' + 'x'.repeat(63)],
  ];
  it.each(cases)('"%s" as a %s is %s', (text, kind, name) => {
    expect(nameFromText(text, kind)).toBe(name);
  });
  it('is a name or nothing, whatever is typed', () => {
    const r = new Random(3);
    const parts = ['a', 'Z', '9', '-', '_', ' ', '.', '/', 'é', '名', '#', '\t', '__proto__'];
    for (let i = 0; i < 3000; i++) {
      const name = nameFromText(
        r.list(8, () => r.pick(parts)).join(''),
        r.pick(['scene', 'prefab', 'action'] as const),
      );
      expect(name === '' || isName(name)).toBe(true);
    }
  });
});

describe('a free place', () => {
  const plan = (size: Vec2 | undefined, places: Vec2[]): Project => ({
    format: 'oquel.project/1',
    name: 'p',
    assets: [
      {
        id: 's',
        kind: 'scene',
        ...(size ? { size } : {}),
        placements: places.map((at, i) => ({ id: `p${i}`, asset: 'P', at })),
      },
      { id: 'P', kind: 'prefab' },
    ],
  });
  const placed = (project: Project, near?: Vec2): Vec2 => freePlace(indexProject(project).assets[0], near);
  it('is the middle of an empty plan, or what is asked for', () => {
    expect(placed(plan([40, 20], []))).toEqual([20, 10]);
    expect(placed(plan(undefined, []))).toEqual([0, 0]);
    expect(placed(plan([40, 20], []), [5, 6])).toEqual([5, 6]);
  });
  it('is never upon something else, and inside the plan while there is room', () => {
    for (const size of [
      [40, 24],
      [13, 60],
      [100, 100],
    ] as Vec2[]) {
      const places: Vec2[] = [];
      const room = Math.floor((size[0] - 2) / 4) * Math.floor((size[1] - 2) / 4);
      for (let i = 0; i < room; i++) {
        const next = placed(plan(size, places));
        const near = places.filter(
          (at) => Math.max(Math.abs(at[0] - next[0]), Math.abs(at[1] - next[1])) < 1.9,
        );
        expect(near).toEqual([]);
        expect(next[0] > 0 && next[1] > 0 && next[0] < size[0] && next[1] < size[1]).toBe(true);
        places.push(next);
      }
    }
  });
  it('is below a plan that is full, where it can be seen', () => {
    const places: Vec2[] = Array.from({ length: 400 }, (_, i) => [(i % 20) / 2, Math.floor(i / 20) / 2]);
    expect(placed(plan([10, 10], places))[1]).toBeGreaterThan(10);
  });
  it('is the same for the same plan', () => {
    const project = plan(
      [40, 24],
      [
        [20, 12],
        [24, 12],
      ],
    );
    expect(placed(project)).toEqual(placed(structuredClone(project)));
  });
});
