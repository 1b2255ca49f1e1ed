import { describe, expect, it } from '@jest/globals';
import { applyChanges, indexProject, type Area, type ChangeSet, type Project } from '@oquel/core';
import { pulled } from '../src/parts/plan/area.js';
import { gestureOf, snapped } from '../src/parts/plan/gesture.js';
import { fit, toMetres, toScreen } from '../src/parts/plan/viewport.js';
import {
  duplicating,
  moving,
  overriding,
  placing,
  removing,
  setting,
} from '../src/views/plan/stage-edits.js';

const project: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'beacon-1', asset: 'Beacon', at: [1, 2], properties: { line: 'east' }, asleep: true },
        { id: 'beacon-2', asset: 'Beacon' },
      ],
      bindings: [
        { id: 'b', from: { at: 'beacon-1', event: 'onLit' }, to: { at: 'beacon-2', action: 'light' } },
      ],
    },
    { id: 'Beacon', kind: 'prefab', properties: [{ name: 'line', type: 'string', default: 'none' }] },
  ],
};
const index = indexProject(project);
const [ridge] = index.assets;
const after = ({ changes }: ChangeSet): Project['assets'][0] =>
  applyChanges(project, changes).project.assets[0];

describe('what pressing on a plan means', () => {
  const ground = { thing: null, handle: null, shift: false, canMove: true, link: null };
  it.each([
    ['the ground', ground, { kind: 'pan' }],
    ['the ground with Shift', { ...ground, shift: true }, { kind: 'frame' }],
    ['a thing', { ...ground, thing: 'mast-2' }, { kind: 'move', path: 'mast-2' }],
    ['a thing with Shift', { ...ground, thing: 'mast-2', shift: true }, { kind: 'frame' }],
    ['a handle', { ...ground, handle: { path: 'a', at: 2 } }, { kind: 'area', path: 'a', handle: 2 }],
    ['a thing where nothing can be moved', { ...ground, thing: 'mast-2', canMove: false }, { kind: 'pan' }],
    [
      'a thing from which lines are drawn',
      { ...ground, canMove: false, link: 'a/b' },
      { kind: 'link', path: 'a/b' },
    ],
  ])('%s', (_what, press, gesture) => {
    expect(gestureOf(press)).toEqual(gesture);
  });

  it.each([
    [[1.2, 3.4], [0.4, 0.4], 0.5, [0.3, 0.6]],
    [[1.2, 3.4], [0.4, 0.4], 0, [0.4, 0.4]],
    [[0, 0], [-7, 3], 5, [-5, 5]],
  ] as const)('things come to stand on whole steps: %j by %j in steps of %d', (at, by, step, expected) => {
    const [x, y] = snapped(at, by, step);
    expect(x).toBeCloseTo(expected[0]);
    expect(y).toBeCloseTo(expected[1]);
  });

  it('a place on the screen and one on the plan lead to each other', () => {
    const view = fit({ x: -5, y: 2, width: 40, height: 20 }, 900, 500);
    const [x, y] = toMetres(view, toScreen(view, [12.5, 7.25]));
    expect([x, y].map((m) => m.toFixed(6))).toEqual(['12.500000', '7.250000']);
  });

  it.each<[Area, number, [number, number], Area, number?]>([
    [{ circle: 5 }, 0, [3, 4], { circle: 5 }],
    [{ circle: 5 }, 0, [3.5, 4], { circle: 5.5 }, 0.5],
    [{ rect: [2, 2] }, 0, [-3.2, 0.1], { rect: [6, 0.1] }, 1],
    [{ rect: [2, 2] }, 0, [2.6, 3], { rect: [5, 6] }, 1],
    [{ circle: 5 }, 0, [0, 0], { circle: 0.1 }],
    [{ rect: [2, 2] }, 0, [-3, 1.26], { rect: [6, 2.5] }],
    [
      {
        polygon: [
          [0, 0],
          [4, 0],
          [0, 4],
        ],
      },
      1,
      [5.04, 1],
      {
        polygon: [
          [0, 0],
          [5, 1],
          [0, 4],
        ],
      },
    ],
  ])('an area %j pulled at %d to %j', (area, handle, to, expected, snap = 0) => {
    expect(pulled(area, handle, to, snap)).toEqual(expected);
  });
});

describe('edits of the stage', () => {
  it('place under a free name', () => {
    const { changeSet, id } = placing(ridge, 'Beacon', [1.00049, 2]);
    expect(id).toBe('beacon-3');
    expect(after(changeSet).placements!.at(-1)).toEqual({ id: 'beacon-3', asset: 'Beacon', at: [1, 2] });
  });
  it('move many, those without a place from the corner', () => {
    const { placements } = after(moving(ridge, ['beacon-1', 'beacon-2'], [0.1, 0.2]));
    expect(placements!.map((p) => p.at)).toEqual([
      [1.1, 2.2],
      [0.1, 0.2],
    ]);
  });
  it('set and take away a part, and leave no change where there is none', () => {
    expect(after(setting(ridge, ['beacon-1', 'beacon-2'], 'asleep', true)).placements![1].asleep).toBe(true);
    expect(setting(ridge, ['beacon-1'], 'asleep', true).changes).toEqual([]);
    expect('asleep' in after(setting(ridge, ['beacon-1'], 'asleep', undefined)).placements![0]).toBe(false);
  });
  it('override a property, and give the default back without a trace', () => {
    const { placements } = after(overriding(ridge, ['beacon-1', 'beacon-2'], 'line', 'west'));
    expect(placements!.map((p) => p.properties)).toEqual([{ line: 'west' }, { line: 'west' }]);
    expect('properties' in after(overriding(ridge, ['beacon-1'], 'line', undefined)).placements![0]).toBe(
      false,
    );
  });
  it('say in their labels what they do', () => {
    expect([
      duplicating(ridge, ['beacon-1'], true).changeSet.label,
      removing(index, ridge, ['beacon-1', 'beacon-2'], false).label,
      setting(ridge, ['beacon-1'], 'asleep', undefined).label,
      overriding(ridge, ['beacon-1'], 'line', 'west').label,
    ]).toEqual([
      'ridge: duplicated beacon-1 with their bindings',
      'ridge: removed 2 things from the plan',
      'ridge: took asleep from beacon-1',
      'ridge: set line of beacon-1 to "west"',
    ]);
  });
});
