import { describe, expect, it } from '@jest/globals';
import { applyChanges, type Project, type Rehearsal, type TraceRecord } from '@oquel/core';
import { foldLanes } from '../src/views/rehearse/fold-lanes.js';
import { causesOf, layLanes, wentWrong, within, type Lane } from '../src/views/rehearse/lanes.js';
import {
  added,
  changed,
  freeName,
  removed,
  stepMovedTo,
  stepText,
  withoutStep,
  withSteps,
} from '../src/views/rehearse/script-edits.js';
import { lastBefore } from '../src/views/rehearse/use-playing.js';

const records: TraceRecord[] = [
  { n: 1, t: 0, cause: 0, kind: 'raise', at: 'ridge:mast', event: 'onGust', payload: {} },
  {
    n: 2,
    t: 0,
    cause: 1,
    kind: 'performed',
    owner: 'ridge:.',
    binding: 'b',
    at: 'ridge:brake',
    action: 'engage',
    args: {},
    times: 1,
  },
  { n: 3, t: 0, cause: 2, kind: 'publication', channel: 'tension', payload: {} },
  {
    n: 4,
    t: 2_000_000,
    cause: 3,
    kind: 'lost',
    owner: 'ridge:.',
    binding: 'c',
    at: 'hut:horn',
    action: 'sound',
    reason: 'asleep',
  },
  { n: 5, t: 2_000_000, cause: 0, kind: 'pause', is: true },
];

describe('lanes over time', () => {
  const { lanes, ticks, xOf } = layLanes(records, 100);
  it('channels first, then scene by scene, in order of first appearance', () => {
    expect(lanes.map((l) => `${l.heads ? '=' : ''}${l.name} ${l.marks.length}`)).toEqual([
      '#tension 1',
      '=ridge 0',
      'ridge:mast 1',
      'ridge:brake 1',
      '=hut 0',
      'hut:horn 1',
    ]);
  });
  it('time runs to the right by its scale, and what happens at one moment is drawn apart', () => {
    expect(xOf[2]).toBeGreaterThan(xOf[1]);
    expect(xOf[3]).toBeGreaterThan(xOf[2]);
    expect(xOf[4] - xOf[3]).toBe(200);
    expect(ticks.map((t) => t.t)).toEqual([0, 2_000_000]);
  });
  it('only what lies in sight is taken', () => {
    const items = [1, 3, 5, 7].map((x) => ({ x }));
    expect(within(items, 3, 7).map((i) => i.x)).toEqual([3, 5]);
    expect(within(items, 8, 9)).toEqual([]);
  });
  it('a record is followed back to what began it, and no further than is drawn', () => {
    const byNumber = new Map(records.map((r) => [r.n, r]));
    expect(causesOf(byNumber, 4, 10).map((r) => r.n)).toEqual([4, 3, 2, 1]);
    expect(causesOf(byNumber, 4, 2).map((r) => r.n)).toEqual([4, 3]);
  });
  it('refused and lost is told apart', () => {
    expect(records.filter(wentWrong).map((r) => r.n)).toEqual([4]);
  });
  it.each([
    [-1, 0],
    [0, 3],
    [1_999_999, 3],
    [2_000_000, 5],
  ])('at %i the cursor stands at record %i', (t, n) => {
    expect(lastBefore(records, t)).toBe(n);
  });
});

describe('lanes of copies', () => {
  const lane = (name: string, ...x: number[]): Lane => ({
    name,
    heads: !name.includes(':') && !name.startsWith('#'),
    marks: x.map((at) => ({ record: records[0], x: at, shape: 'does' })),
  });
  const assetOf = (at: string): string | null => /^\w+:([a-z]+)-\d+$/.exec(at)?.[1] ?? null;
  const lamps = (scene: string, count: number): Lane[] =>
    Array.from({ length: count }, (_, i) => lane(`${scene}:lamp-${i}`, 100 - i, 200 + i));
  const many = [
    lane('#alarm', 5),
    lane('yard'),
    ...lamps('yard', 14).slice(0, 2),
    lane('yard:bell-1', 7),
    ...lamps('yard', 14).slice(2),
    lane('hall'),
    lane('hall:lamp-1', 3),
    lane('hall:lamp-2', 4),
  ];
  const names = (open: string[]): string[] =>
    foldLanes(many, assetOf, new Set(open)).lanes.map((l) => l.name);

  it('stand apart while there are few', () => {
    const few = many.slice(0, 9);
    const { lanes, at } = foldLanes(few, assetOf, new Set());
    expect(lanes).toEqual(few);
    expect(at.get('yard:bell-1')).toBe(4);
  });
  it('are one lane where there are many, scene by scene, in which all of their marks stand in order', () => {
    expect(names([])).toEqual([
      '#alarm',
      'yard',
      'lamp x 14',
      'yard:bell-1',
      'hall',
      'hall:lamp-1',
      'hall:lamp-2',
    ]);
    const { lanes, at } = foldLanes(many, assetOf, new Set());
    const x = lanes[2].marks.map((m) => m.x);
    expect(x.length).toBe(28);
    expect(x).toEqual([...x].sort((a, b) => a - b));
    expect(lanes[2].fold).toMatchObject({ count: 14, isOpen: false });
    expect([at.get('yard:lamp-0'), at.get('yard:lamp-13'), at.get('hall:lamp-2')]).toEqual([2, 2, 6]);
  });
  it('stand under their head once they are unfolded', () => {
    const { lanes, at } = foldLanes(many, assetOf, new Set(['yard/lamp']));
    expect(lanes.length).toBe(many.length + 1);
    expect(lanes[2]).toMatchObject({ name: 'lamp x 14', marks: [], fold: { isOpen: true } });
    for (const l of many.filter((m) => !m.heads)) expect(lanes[at.get(l.name)!].name).toBe(l.name);
  });
});

describe('edits of a script', () => {
  const one: Rehearsal = {
    name: 'one',
    steps: [
      {
        at: 1,
        raise: { at: 'ridge:mast', event: 'onGust', payload: { speed: 3 }, activator: 'Rescuer', by: 'host' },
      },
      { at: 3, pause: true },
    ],
  };
  const project: Project = { format: 'oquel.project/1', name: 'p', assets: [], rehearsals: [one] };
  const after = (changeSet: ReturnType<typeof added>): Rehearsal[] =>
    applyChanges(project, changeSet.changes).project.rehearsals ?? [];
  it('a new step stands behind what there is at its time', () => {
    const steps = after(
      withSteps(project, one, [
        { at: 1, pause: false },
        { at: 9, pause: false },
      ]),
    )[0].steps;
    expect(steps.map((s) => [s.at, 'raise' in s ? 'raise' : 'pause' in s && s.pause])).toEqual([
      [1, 'raise'],
      [1, false],
      [3, true],
      [9, false],
    ]);
  });
  it('steps are moved and taken out, rehearsals added, renamed and removed', () => {
    expect(after(stepMovedTo(project, one, 1, 2))[0].steps[1].at).toBe(2);
    expect(after(withoutStep(project, one, 0))[0].steps).toEqual([{ at: 3, pause: true }]);
    expect(after(added(project, { name: 'two', steps: [] })).map((r) => r.name)).toEqual(['one', 'two']);
    expect(after(changed(project, 'one', 'renamed', { ...one, name: 'uno' }))[0].name).toBe('uno');
    expect(after(removed(project, 'one'))).toEqual([]);
    expect(freeName(project, 'one')).toBe('one 2');
  });
  it('each kind of step is a sentence', () => {
    expect(
      [...one.steps, { at: 0, publish: { channel: 'tension', key: 'east' } } as const].map(stepText),
    ).toEqual([
      'ridge:mast raises onGust (speed = 3) for Rescuer by host',
      'the game pauses',
      'publish to tension ["east"]',
    ]);
    expect(stepText({ at: 0, expect: { at: 'ridge:brake', action: 'engage', times: 1 } })).toBe(
      'expect ridge:brake has done engage 1 time',
    );
  });
});
