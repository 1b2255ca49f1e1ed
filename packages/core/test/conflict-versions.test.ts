import { describe, expect, it } from '@jest/globals';
import { applyChanges, overlap, conflictVersions, type Change, type Project } from '../src/index.js';

const BASE: Project = {
  format: 'oquel.project/1',
  name: 'Ridge',
  channels: [{ name: 'tension' }],
  policy: { maxChain: 5 },
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [{ id: 'mast', asset: 'Mast', at: [1, 2] }],
      bindings: [
        { id: 'gust', from: { at: 'mast', event: 'onGust' }, to: { at: 'mast', action: 'turn' } },
        { id: 'calm', from: { at: 'mast', event: 'onCalm' }, to: { at: 'mast', action: 'turn' } },
      ],
    },
    {
      id: 'Mast',
      kind: 'prefab',
      events: [
        { name: 'onGust', cause: { type: 'code' } },
        { name: 'onCalm', cause: { type: 'code' } },
      ],
      actions: [{ name: 'turn' }],
    },
  ],
};
const replaced = (delay: number, id = 'gust'): Change => ({
  op: 'replace',
  list: 'bindings',
  asset: 'ridge',
  id,
  item: { ...BASE.assets[0].bindings!.find((b) => b.id === id)!, delay },
});
const moved = (at: [number, number]): Change => ({
  op: 'replace',
  list: 'placements',
  asset: 'ridge',
  id: 'mast',
  item: { id: 'mast', asset: 'Mast', at },
});
const removed: Change = { op: 'remove', list: 'bindings', asset: 'ridge', id: 'gust' };
const events = (limit: number): Change => ({
  op: 'set',
  asset: 'Mast',
  part: 'events',
  value: [{ name: 'onGust', cause: { type: 'code' }, limit }, BASE.assets[1].events![1]],
});
const policy = (maxChain: number): Change => ({ op: 'set', part: 'policy', value: { maxChain } });

/** What a conflict shows: theirs is stored, yours is done over it. */
function sides(theirs: Change[], yours: Change[]): ReturnType<typeof conflictVersions> {
  const stored = applyChanges(BASE, theirs).project;
  return conflictVersions(stored, applyChanges(stored, yours).project, overlap(theirs, yours));
}

describe('both sides of an edit that met another', () => {
  it.each<[string, Change[], Change[], string | null, string | null]>([
    ['a binding', [replaced(1)], [replaced(2)], 'do mast.turn after 1s', 'do mast.turn after 2s'],
    ['one that you took away', [replaced(1)], [removed], 'do mast.turn after 1s', null],
    ['a placement', [moved([5, 5])], [moved([9, 9])], 'mast: Mast at 5, 5', 'mast: Mast at 9, 9'],
    [
      'what is declared',
      [events(1)],
      [events(3)],
      'event onGust, when the game’s code, at most 1',
      'at most 3',
    ],
    ['a part of the project', [policy(6)], [policy(7)], 'policy maxChain: 6', 'policy maxChain: 7'],
  ])('are shown for %s', (_, theirs, yours, wasText, isText) => {
    const found = sides(theirs, yours);
    expect(found).toHaveLength(1);
    if (wasText === null) expect(found[0].theirs).toBeNull();
    else expect(found[0].theirs).toContain(wasText);
    if (isText === null) expect(found[0].yours).toBeNull();
    else expect(found[0].yours).toContain(isText);
  });
  it('are shown for what you put back that is gone with them', () => {
    const gone = applyChanges(BASE, [removed]).project;
    const text = 'when mast.onGust do mast.turn';
    const sideOf = { asset: 'ridge', id: 'gust' };
    expect(conflictVersions(gone, BASE, ['bindings/ridge/gust'])).toEqual([
      { ...sideOf, theirs: null, yours: text },
    ]);
    expect(conflictVersions(BASE, gone, ['bindings/ridge/gust'])).toEqual([
      { ...sideOf, theirs: text, yours: null },
    ]);
  });
  it.each<[string, string[]]>([
    ['bindings/ridge/gust', ['ridge gust']],
    ['bindings/ridge/mast', []],
    ['bindings/Mast/gust', []],
    ['placements/ridge/mast', ['ridge mast']],
    ['placements/ridge/gust', []],
    ['asset/ridge', ['ridge gust', 'ridge mast']],
    ['events/Mast', ['Mast onGust']],
    ['events/ridge', []],
    ['policy', [' policy maxChain']],
  ])('are those that are named: %s', (name, expected) => {
    const yours = applyChanges(BASE, [replaced(2), moved([9, 9]), events(3), policy(7)]).project;
    const found = conflictVersions(BASE, yours, [name]).map((s) => `${s.asset} ${s.id}`);
    expect(found.sort()).toEqual(expected);
  });
  it('leave out what only one of them changed', () => {
    const found = sides([replaced(1), replaced(4, 'calm')], [replaced(2), moved([3, 3])]);
    expect(found.map((s) => [s.asset, s.id])).toEqual([['ridge', 'gust']]);
  });
  it('are places where one changed the order and the other the same list', () => {
    const order: Change = { op: 'move', list: 'bindings', asset: 'ridge', id: 'calm', index: 0 };
    const [side] = sides([replaced(4, 'calm')], [order]);
    expect(side.theirs).toMatch(/after 4s, as number [12]$/);
    expect(side.yours).toMatch(/after 4s, as number [12]$/);
  });
});
