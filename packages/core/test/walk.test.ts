import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  areaContains,
  deliveryTable,
  expand,
  buildGraph,
  compareRuns,
  indexProject,
  readProject,
  rehearse,
  statesAfter,
  staysInside,
  walkSteps,
  wayLength,
  type Area,
  type Project,
  type TraceRecord,
  type Vec2,
} from '../src/index.js';
import { peerRolesOf } from '../src/expand/peers.js';

describe('where a way is inside an area', () => {
  const square: Area = { rect: [4, 4] };
  const notch: Area = {
    polygon: [
      [-2, -2],
      [2, -2],
      [2, 2],
      [0, 0],
      [-2, 2],
    ],
  };
  const cases: [string, Area, Vec2[], [number, number][]][] = [
    [
      'through a circle',
      { circle: 2 },
      [
        [-5, 0],
        [5, 0],
      ],
      [[3, 7]],
    ],
    [
      'past a circle, touching it',
      { circle: 2 },
      [
        [-5, 2],
        [5, 2],
      ],
      [[5, 5]],
    ],
    [
      'past a circle',
      { circle: 2 },
      [
        [-5, 2.5],
        [5, 2.5],
      ],
      [],
    ],
    [
      'beginning and ending in it',
      { circle: 2 },
      [
        [-1, 0],
        [1, 0],
      ],
      [[0, 2]],
    ],
    [
      'out and in again',
      { circle: 1 },
      [
        [0, 0],
        [3, 0],
        [0, 0],
      ],
      [
        [0, 1],
        [5, 6],
      ],
    ],
    [
      'through a rectangle by its corner',
      square,
      [
        [0, 4],
        [4, 0],
      ],
      [[Math.SQRT2 * 2, Math.SQRT2 * 2]],
    ],
    [
      'along the side of a rectangle',
      square,
      [
        [-5, 2],
        [5, 2],
      ],
      [[3, 7]],
    ],
    [
      'a turn inside makes no second stay',
      square,
      [
        [-5, 0],
        [0, 0],
        [0, 5],
      ],
      [[3, 7]],
    ],
    [
      'over both tips of a notch',
      notch,
      [
        [-5, 1],
        [5, 1],
      ],
      [
        [3, 4],
        [6, 7],
      ],
    ],
    [
      'through the foot of a notch',
      notch,
      [
        [-5, 0],
        [5, 0],
      ],
      [[3, 7]],
    ],
    ['standing inside', square, [[1, 1]], [[0, 0]]],
    [
      'a way that has no length',
      square,
      [
        [9, 9],
        [9, 9],
      ],
      [],
    ],
  ];
  it.each(cases)('%s', (_name, area, points, expected) => {
    const stays = staysInside(area, [0, 0], points).map((s) => [s.from, s.to]);
    expect(stays.length).toBe(expected.length);
    stays.flat().forEach((t, i) => expect(t).toBeCloseTo(expected.flat()[i], 9));
  });

  const coordinate = fc.integer({ min: -24, max: 24 }).map((n) => n / 4);
  const point = fc.tuple(coordinate, coordinate);
  const area: fc.Arbitrary<Area> = fc.oneof(
    fc.record({ circle: fc.integer({ min: 0, max: 20 }).map((n) => n / 4) }),
    fc.record({ rect: fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 20 })) }),
    fc.record({ polygon: fc.array(point, { minLength: 3, maxLength: 7 }) }),
  );
  it('agrees with looking at many points of the way, one by one', () => {
    fc.assert(
      fc.property(area, point, fc.array(point, { minLength: 2, maxLength: 5 }), (shape, at, points) => {
        const stays = staysInside(shape, at, points);
        for (let i = 1; i < stays.length; i++) expect(stays[i].from).toBeGreaterThan(stays[i - 1].to);
        let walked = 0;
        for (let i = 0; i + 1 < points.length; i++) {
          const [a, b] = [points[i], points[i + 1]];
          const length = wayLength([a, b]);
          for (let k = 0; k <= 40; k++) {
            const t = k / 40;
            const d = walked + length * t;
            const margin = Math.min(
              ...stays.flatMap((s) => [Math.abs(s.from - d), Math.abs(s.to - d)]),
              Infinity,
            );
            if (margin < 1e-9) continue;
            const inside = areaContains(shape, at, [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
            expect(stays.some((s) => d >= s.from && d <= s.to)).toBe(inside);
          }
          walked += length;
        }
      }),
      { numRuns: 300 },
    );
  });
});

const MAT = {
  kind: 'prefab',
  area: { circle: 2 },
  properties: [{ name: 'on', type: 'bool', default: false }],
  events: [
    { name: 'onStep', cause: { type: 'area-enter', activators: ['Rescuer'] } },
    { name: 'onOff', cause: { type: 'area-leave' } },
  ],
  actions: [
    { name: 'light', effects: [{ set: 'on', to: true }] },
    { name: 'darken', effects: [{ set: 'on', to: false }] },
  ],
};
function ridge(more: object = {}): Project {
  return readProject({
    format: 'oquel.project/1',
    name: 'Ridge',
    assets: [
      {
        id: 'ridge',
        kind: 'scene',
        placements: [
          { id: 'near', asset: 'Mat', at: [5, 0] },
          { id: 'far', asset: 'Mat', at: [8, 0], area: { rect: [4, 4] } },
        ],
        bindings: [
          { id: 'on', from: { at: 'near', event: 'onStep' }, to: { at: 'near', action: 'light' } },
          { id: 'off', from: { at: 'near', event: 'onOff' }, to: { at: 'near', action: 'darken' } },
        ],
      },
      { id: 'Mat', ...MAT },
      { id: 'Rescuer', kind: 'prefab' },
    ],
    ...more,
  }).project;
}

describe('a walk through overlapping areas', () => {
  it('enters and leaves each in the order of the way, at the walking speed', () => {
    const steps = walkSteps(indexProject(ridge()), {
      scene: 'ridge',
      points: [
        [0, 0],
        [9, 0],
      ],
      speed: 2,
      start: 10,
      activator: 'Rescuer',
    });
    expect(steps.map((s) => ('raise' in s ? [s.at, s.raise.at, s.raise.event] : s))).toEqual([
      [11.5, 'ridge:near', 'onStep'],
      [13, 'ridge:far', 'onStep'],
      [13.5, 'ridge:near', 'onOff'],
    ]);
  });
  it('its steps run, and states are reported from before to now', () => {
    const project = ridge();
    const x = expand(indexProject(project));
    const points: Vec2[] = [
      [0, 0],
      [9, 0],
    ];
    const steps = walkSteps(x.index, { scene: 'ridge', points, speed: 1, start: 0, activator: 'Rescuer' });
    const records: TraceRecord[] = [];
    rehearse(x, [{ name: 'walk', steps }], (line) => 'n' in line && records.push(line));
    const lit = records.find((r) => r.kind === 'change')!;
    const lights = (n: number): unknown =>
      statesAfter(records, n).find((s) => typeof s.what === 'object' && 'property' in s.what);
    expect(lights(lit.n - 1)).toBeUndefined();
    expect(lights(lit.n)).toMatchObject({ at: 'ridge:near', before: false, now: true });
    // Dark again at the end, as before: no change is left.
    expect(lights(records.length)).toBeUndefined();
  });
  it('two runs are compared by what happened and when, not by number', () => {
    const run = (off: boolean): TraceRecord[] => {
      const project = ridge();
      if (off) project.assets[0].bindings!.pop();
      const records: TraceRecord[] = [];
      const steps = [
        { at: 0, raise: { at: 'ridge:near', event: 'onOff' } },
        { at: 1, raise: { at: 'ridge:near', event: 'onStep', activator: 'Rescuer' } },
      ];
      rehearse(expand(indexProject(project)), [{ name: 'r', steps }], (l) => 'n' in l && records.push(l));
      return records;
    };
    const { gone, added } = compareRuns(run(false), run(true));
    expect(gone.map((r) => r.kind)).toEqual(['performed']);
    expect(added).toEqual([]);
  });
});

describe('who may raise an event, and where it acts', () => {
  const steer = (delivery: object): Project =>
    readProject({
      format: 'oquel.project/1',
      name: 'Ridge',
      peers: [
        { name: 'host', role: 'server' },
        { name: 'guest', role: 'client' },
      ],
      assets: [
        {
          id: 'ridge',
          kind: 'scene',
          placements: [
            { id: 'winch', asset: 'Winch', operator: 'guest' },
            { id: 'log', asset: 'Log' },
          ],
          bindings: [
            { id: 'note', from: { at: 'winch', event: 'onTurn' }, to: { at: 'log', action: 'write' } },
          ],
        },
        { id: 'Winch', kind: 'prefab', events: [{ name: 'onTurn', cause: { type: 'use' }, delivery }] },
        { id: 'Log', kind: 'prefab', existsOn: 'authority', actions: [{ name: 'write' }] },
      ],
    }).project;
  const cases: [string, object, string, string][] = [
    [
      'no rule',
      {},
      'host may raise this; host and guest receive it',
      'guest may raise this; host and guest receive it',
    ],
    [
      'the authority alone',
      { send: { only: ['authority'] } },
      'host may raise this; host and guest receive it',
      'guest may not raise this: only the authority, which is host',
    ],
    [
      'back to the raiser',
      { to: 'raiser' },
      'host may raise this; host receives it',
      'guest may raise this; guest receives it, but none of them performs ridge:log write',
    ],
    [
      'nobody',
      { send: 'nobody' },
      'host may not raise this: no peer is allowed to',
      'guest may not raise this: no peer is allowed to',
    ],
    [
      'none but the others',
      { send: { only: ['others'] } },
      'host may not raise this: only the others, and no peer has that role',
      'guest may not raise this: only the others, and no peer has that role',
    ],
    [
      'told to nobody',
      { to: { only: ['others'] } },
      'host may raise this, but no peer receives it',
      'guest may raise this, but no peer receives it',
    ],
  ];
  it.each(cases)('%s', (_name, delivery, host, guest) => {
    const x = expand(indexProject(steer(delivery)));
    const winch = [...Array(x.count).keys()].find((i) => x.address(i) === 'ridge:winch')!;
    const table = deliveryTable(buildGraph(x), peerRolesOf(x), winch, 0)!;
    expect(table.rows.map((r) => r.answer)).toEqual([host, guest]);
    expect(table).toMatchObject({ authority: 'host', operator: 'guest' });
  });
});
