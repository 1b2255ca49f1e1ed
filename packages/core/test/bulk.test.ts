import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  askableByAll,
  indexProject,
  planBulk,
  printBinding,
  type Binding,
  type BulkChange,
  type Project,
} from '../src/index.js';

const bindings: Binding[] = [
  { id: 'a', from: { at: 'mast', event: 'onGust' }, to: { at: 'brake-1', action: 'engage' }, delay: 1 },
  {
    id: 'b',
    from: { at: 'mast', event: 'onGust' },
    to: { every: 'Brake', action: 'engage' },
    enabled: false,
  },
  { id: 'c', from: { at: 'mast', event: 'onGust' }, to: { channel: 'tension', key: 'east' }, limit: 1 },
  { id: 'd', from: { channel: 'tension' }, to: { at: 'brake-1', action: 'engage' } },
];
const project: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  channels: [{ name: 'tension', payload: [{ name: 'pull', type: 'float' }] }],
  assets: [
    { id: 'ridge', kind: 'scene', placements: [{ id: 'mast', asset: 'Mast' }], bindings },
    {
      id: 'Mast',
      kind: 'prefab',
      properties: [{ name: 'calm', type: 'bool', default: true }],
      events: [{ name: 'onGust', cause: { type: 'code' }, payload: [{ name: 'speed', type: 'float' }] }],
    },
  ],
};
const index = indexProject(project);
const [owner] = index.assets;
const rows = bindings.map((binding) => ({ owner, binding }));

describe('one change to many bindings', () => {
  it.each<[BulkChange, string[], string[]]>([
    [{ part: 'enabled', value: true }, ['when mast.onGust do every Brake.engage'], []],
    [
      { part: 'enabled', value: false },
      [
        'when mast.onGust do brake-1.engage after 1s off',
        'when mast.onGust do #tension["east"] once off',
        'when #tension do brake-1.engage off',
      ],
      [],
    ],
    [{ part: 'limit', value: null }, ['when mast.onGust do #tension["east"]'], []],
    [{ part: 'delay', value: 0 }, ['when mast.onGust do brake-1.engage'], []],
    [
      { part: 'action', value: 'release' },
      [
        'when mast.onGust do brake-1.release after 1s',
        'when mast.onGust do every Brake.release off',
        'when #tension do brake-1.release',
      ],
      ['c: it publishes to a channel'],
    ],
    [
      { part: 'receiver', value: 'brake-2' },
      ['when mast.onGust do brake-2.engage after 1s', 'when #tension do brake-2.engage'],
      ['b: it does not name one receiver', 'c: it does not name one receiver'],
    ],
    [
      { part: 'key', value: { property: 'line' } },
      ['when mast.onGust do #tension[@line] once', 'when #tension[@line] do brake-1.engage'],
      ['a: it goes over no channel', 'b: it goes over no channel'],
    ],
    [
      { part: 'key', value: null },
      ['when mast.onGust do #tension once'],
      ['a: it goes over no channel', 'b: it goes over no channel'],
    ],
    [
      { part: 'if', value: [{ payload: 'speed', is: { over: 3 } }], also: false },
      [
        'when mast.onGust do brake-1.engage if $speed > 3 after 1s',
        'when mast.onGust do every Brake.engage if $speed > 3 off',
        'when mast.onGust do #tension["east"] if $speed > 3 once',
      ],
      ['d: nothing carries "speed"'],
    ],
    [
      { part: 'if', value: [{ property: 'calm', is: 'no' }], also: true },
      [],
      ['a', 'b', 'c', 'd'].map((b) =>
        b === 'd' ? 'd: the sender has no property "calm"' : `${b}: calm: expected bool, found string`,
      ),
    ],
    [{ part: 'if', value: [], also: false }, [], []],
  ])('%j', (change, lines, left) => {
    const plan = planBulk(index, rows, change);
    expect(plan.steps.map((s) => printBinding(s.after!))).toEqual(lines);
    expect(plan.left.map((l) => `${l.binding.id}: ${l.why}`)).toEqual(left);
    const { project: after, inverse } = applyChanges(project, plan.changes);
    expect(after.assets[0].bindings!.map(printBinding)).toEqual(expect.arrayContaining(lines));
    expect(applyChanges(after, inverse).project).toEqual(project);
  });

  it('asks besides what is asked already, and nothing twice; or nothing any more', () => {
    const high = { payload: 'speed', is: { over: 3 } };
    const calm = { property: 'calm', is: false };
    const asking = { ...bindings[0], if: [high] };
    const also = planBulk(index, [{ owner, binding: asking }], {
      part: 'if',
      value: [high, calm],
      also: true,
    });
    expect(also.steps.map((s) => s.after!.if)).toEqual([[high, calm]]);
    const none = planBulk(index, [{ owner, binding: asking }], { part: 'if', value: [], also: false });
    expect(none.steps.map((s) => s.after)).toEqual([bindings[0]]);
  });

  it('knows what all of them can ask', () => {
    expect(askableByAll(index, rows.slice(0, 3))).toEqual(['$speed', '@calm']);
    expect(askableByAll(index, rows)).toEqual([]);
    expect(askableByAll(index, rows.slice(3))).toEqual(['$pull']);
  });

  it('takes them away', () => {
    const plan = planBulk(index, rows.slice(1, 3), { part: 'remove' });
    expect(applyChanges(project, plan.changes).project.assets[0].bindings!.map((b) => b.id)).toEqual([
      'a',
      'd',
    ]);
  });
});
