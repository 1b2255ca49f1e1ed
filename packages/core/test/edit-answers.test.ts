import { describe, expect, it } from '@jest/globals';
import { indexProject, type Binding, type Placement } from '../src/index.js';
import { insertBehind, oneForEachValue } from '../src/edit/for-each-value.js';
import {
  carriedOver,
  freePlacementId,
  holdersOf,
  metres,
  placementEditsOf,
  placementStem,
} from '../src/edit/placement-edits.js';
import { assetAtAddress, bindingsOf, loadedTogether, meetingOn } from '../src/edit/wiring.js';
import { heard, said, scene, lamp, project, indexOf } from './lamp-project.js';

describe('what is loaded at the same time', () => {
  const scenes = [scene('quay'), scene('shed'), scene('pier', { persistent: true })];
  const both = (sets: [string, string[]][], from: string, to: string): object => {
    const loadSets = sets.map(([name, held]) => ({ name, scenes: held }));
    const index = indexProject(project(scenes, { loadSets }));
    const at = (id: string): Parameters<typeof loadedTogether>[1] => index.assets[index.assetAt.get(id)!];
    return loadedTogether(index, at(from), at(to));
  };
  it.each<[string, [string, string[]][], string, string, object]>([
    ['one scene', [['day', ['quay']]], 'quay', 'quay', { always: true, sets: [], without: [] }],
    ['no load sets', [], 'quay', 'shed', { always: true, sets: [], without: [] }],
    ['a persistent one', [['day', ['quay']]], 'quay', 'pier', { always: true, sets: [], without: [] }],
    [
      'from a persistent one',
      [
        ['day', ['quay']],
        ['night', ['shed']],
      ],
      'pier',
      'shed',
      { always: false, sets: ['night'], without: ['day'] },
    ],
    ['apart in one set', [['day', ['quay']]], 'quay', 'shed', { always: false, sets: [], without: ['day'] }],
    [
      'sometimes',
      [
        ['day', ['quay', 'shed']],
        ['night', ['quay']],
        ['dawn', ['shed']],
      ],
      'quay',
      'shed',
      { always: false, sets: ['day'], without: ['night'] },
    ],
  ])('%s', (_, sets, from, to, expected) => {
    expect(both(sets, from, to)).toEqual(expected);
  });
});

describe('wiring that is looked up', () => {
  const index = indexOf(lamp());
  const [owner] = index.assets;
  it('by channel, by event, by address', () => {
    expect(meetingOn(index, 'dusk')).toEqual({
      publish: [{ owner, binding: said }],
      hear: [{ owner, binding: heard }],
    });
    expect(meetingOn(index, 'dawn')).toEqual({ publish: [], hear: [] });
    expect(bindingsOf(owner, 'lamp-1', 'onLit')).toEqual([said]);
    expect([bindingsOf(owner, 'lamp-1', 'onOut'), bindingsOf(owner, '.', 'onLit')]).toEqual([[], []]);
  });
  it.each<[string, string | null]>([
    ['quay:.', 'quay'],
    ['quay:lamp-1', 'Lamp'],
    ['quay:lamp-1/bulb', 'Bulb'],
    ['quay:lamp-1/~Moth', 'Moth'],
    ['quay:lamp-1/~Moth#12', 'Moth'],
    ['quay:lamp-2', null],
    ['shed:lamp-1', null],
    ['lamp-1', null],
  ])('the asset at %s', (address, id) => {
    expect(assetAtAddress(index, address)?.decl.id ?? null).toBe(id);
  });
});

describe('copies of placements', () => {
  const index = indexOf(lamp(), lamp({ id: 'lamp-3', properties: { line: 'west' } }), lamp({ id: '7' }));
  const [owner] = index.assets;
  const wired = (from: string, to: string): Binding => ({
    id: 'b',
    from: { at: from, event: 'onLit' },
    to: { at: to, action: 'light' },
  });
  it('have free ids of the same stem', () => {
    expect(freePlacementId(owner, 'lamp-1')).toBe('lamp-2');
    expect(freePlacementId(owner, 'lamp-1', new Set(['lamp-2']))).toBe('lamp-4');
    expect([freePlacementId(owner, 'mast'), freePlacementId(owner, '12')]).toEqual(['mast-1', 'thing-1']);
    expect(freePlacementId(owner, 'm'.repeat(80))).toBe(`${'m'.repeat(56)}-1`);
    expect(['WindMast', 'Gate_2B', 'lamp'].map(placementStem)).toEqual(['wind-mast', 'gate-2-b', 'lamp']);
  });
  it.each<[string, string, string, string]>([
    ['lamp-1', '.', 'lamp-2', '.'],
    ['lamp-1/bulb', 'lamp-3', 'lamp-2/bulb', 'lamp-3'],
    ['quay:lamp-1', 'shed:lamp-1', 'quay:lamp-2', 'shed:lamp-1'],
  ])('are named where what they copy was: %s, %s', (from, to, now, then) => {
    const copies = new Map([['lamp-1', 'lamp-2']]);
    expect(carriedOver(owner, wired(from, to), copies)).toEqual(wired(now, then));
    expect(carriedOver(owner, heard, copies).to).toEqual({ at: 'lamp-2', action: 'light' });
    expect(carriedOver(owner, said, copies).to).toEqual(said.to);
  });
  it('hold a value by their own or by default', () => {
    expect(holdersOf(index, owner, 'Lamp', 'line', 'east')).toEqual(['lamp-1', '7']);
    expect(holdersOf(index, owner, 'Lamp', 'line', 'west')).toEqual(['lamp-3']);
    expect(holdersOf(index, owner, 'Lamp', 'hue', 1)).toEqual([]);
    expect(holdersOf(index, owner, 'Mast', 'line', 'east')).toEqual([]);
  });
  it('are changed together, but for those that stay as they are', () => {
    const dark = (p: Placement): Placement => (p.id === '7' ? p : { ...p, asleep: true });
    expect(placementEditsOf(owner, ['lamp-1', '7'], dark)).toEqual([
      { op: 'replace', list: 'placements', asset: 'quay', id: 'lamp-1', item: lamp({ asleep: true }) },
    ]);
    expect([metres(1.00049), metres(1.0006), metres(-0.1 - 0.2)]).toEqual([1, 1.001, -0.3]);
  });
});

describe('one binding for each value', () => {
  const index = indexOf(lamp());
  const [owner] = index.assets;
  const { id, ...rest } = said;
  it('takes the place of the first, and the others follow it', () => {
    const asked: Binding = {
      ...said,
      if: [
        { payload: 'hour', is: 'noon' },
        { property: 'lit', is: true },
      ],
    };
    const changes = oneForEachValue(owner, asked, 'hour', ['dawn', 'dusk']);
    const lit = { property: 'lit', is: true };
    expect(changes).toEqual([
      {
        op: 'replace',
        list: 'bindings',
        asset: 'quay',
        id,
        item: { ...rest, id, if: [{ payload: 'hour', is: 'dawn' }, lit] },
      },
      {
        op: 'insert',
        list: 'bindings',
        asset: 'quay',
        index: 1,
        item: { ...rest, id: 'said-2', if: [{ payload: 'hour', is: 'dusk' }, lit] },
      },
    ]);
    expect(oneForEachValue(owner, asked, 'hour', [])).toEqual([]);
  });
  it('stands right behind it', () => {
    const places = (of: Binding): number[] =>
      insertBehind(owner, of, [said, heard]).map((c) => ('index' in c ? c.index : -1));
    expect([places(said), places(heard)]).toEqual([
      [1, 2],
      [2, 3],
    ]);
  });
});
