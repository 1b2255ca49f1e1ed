import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  EditRefused,
  indexProject,
  readChangeSet,
  type Asset,
  type Binding,
  type BrokenDocument,
  type Change,
  type Placement,
  type Project,
} from '../src/index.js';
import { changesGate } from '../src/edit/authority.js';
import { asItsAsset, differencesOf, differs, muting } from '../src/edit/differences.js';
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

const LAMP: Asset = {
  id: 'Lamp',
  kind: 'prefab',
  area: { circle: 2 },
  properties: [
    { name: 'line', type: 'string', default: 'east', isKey: true },
    { name: 'number', type: 'int', default: 0, unique: true },
    { name: 'lit', type: 'bool', default: false },
  ],
  events: [{ name: 'onLit', cause: { type: 'code' } }],
  actions: [{ name: 'light', effects: [{ spawn: 'Moth' }] }],
  placements: [{ id: 'bulb', asset: 'Bulb' }],
  bindings: [{ id: 'own', from: { at: '.', event: 'onLit' }, to: { at: '.', action: 'light' } }],
};
const BULB: Asset = {
  id: 'Bulb',
  kind: 'prefab',
  properties: [
    { name: 'watts', type: 'int', default: 40 },
    { name: 'code', type: 'string', default: '', isKey: true },
  ],
};
const MOTH: Asset = { id: 'Moth', kind: 'prefab' };
const heard: Binding = { id: 'heard', from: { channel: 'dusk' }, to: { at: 'lamp-1', action: 'light' } };
const said: Binding = { id: 'said', from: { at: 'lamp-1', event: 'onLit' }, to: { channel: 'dusk' } };
const scene = (id: string, more: Partial<Asset> = {}): Asset => ({ id, kind: 'scene', ...more });
const lamp = (more: Partial<Placement> = {}): Placement => ({ id: 'lamp-1', asset: 'Lamp', ...more });
const quay = (...placements: Placement[]): Asset => scene('quay', { placements, bindings: [said, heard] });
const project = (assets: Asset[], more: Partial<Project> = {}): Project => ({
  format: 'oquel.project/1',
  name: 'Quay',
  channels: [{ name: 'dusk' }],
  assets: [...assets, LAMP, BULB, MOTH],
  ...more,
});
const indexOf = (...placements: Placement[]): ReturnType<typeof indexProject> =>
  indexProject(project([quay(...placements)]));

describe('how a placement differs from its asset', () => {
  it.each<[string, Partial<Placement>, object, boolean]>([
    ['not at all', {}, {}, false],
    ['by a value', { properties: { lit: true } }, { values: [['lit', true, false, false]] }, true],
    ['not by the default', { properties: { lit: false } }, {}, false],
    ['by a key alone', { properties: { line: 'west' } }, { values: [['line', 'west', 'east', true]] }, false],
    ['by what is unique', { properties: { number: 7 } }, { values: [['number', 7, 0, true]] }, false],
    ['by an unknown name', { properties: { hue: 1 } }, { values: [['hue', 1, undefined, false]] }, true],
    [
      'inside',
      { inside: { bulb: { watts: 60, code: 'b' }, wick: { x: 1 } } },
      {
        values: [
          ['bulb.watts', 60, 40, false],
          ['bulb.code', 'b', '', true],
          ['wick.x', 1, undefined, false],
        ],
      },
      true,
    ],
    ['by one mute', { muted: ['own'] }, { muted: [['own', LAMP.bindings![0]]] }, true],
    ['by a mute of nothing', { muted: ['lost'] }, { muted: [['lost', undefined]] }, true],
    ['by its area', { area: { circle: 3 } }, { area: { circle: 3 } }, true],
    ['not by the same area', { area: { circle: 2 } }, {}, false],
  ])('%s', (_, more, expected, doesDiffer) => {
    const found = differencesOf(indexOf(lamp(more)), lamp(more));
    expect({
      values: found.values.map((v) => [v.property, v.value, v.usual, v.isKey]),
      muted: found.muted.map((m) => [m.id, m.binding]),
      area: found.area,
    }).toEqual({ values: [], muted: [], area: null, ...expected });
    expect(differs(found)).toBe(doesDiffer);
  });

  it('is taken back but for keys', () => {
    const at: [number, number] = [1, 2];
    const own = lamp({
      at,
      note: 'by the crane',
      muted: ['own'],
      area: { circle: 3 },
      properties: { line: 'west', number: 3, lit: true },
      inside: { bulb: { watts: 60, code: 'b' }, wick: { x: 1 } },
    });
    expect(asItsAsset(indexOf(own), own)).toEqual(
      lamp({
        at,
        note: 'by the crane',
        properties: { line: 'west', number: 3 },
        inside: { bulb: { code: 'b' } },
      }),
    );
    expect(asItsAsset(indexOf(), lamp({ properties: { lit: true } }))).toEqual(lamp());
  });

  it('mutes a binding once, and without any has no list', () => {
    const one = muting(lamp(), 'own', true);
    expect(one).toEqual(lamp({ muted: ['own'] }));
    expect(muting(one, 'own', true)).toEqual(one);
    const two = muting(one, 'b', true);
    expect(two.muted).toEqual(['own', 'b']);
    expect(muting(two, 'own', false).muted).toEqual(['b']);
    expect(muting(one, 'own', false)).toEqual(lamp());
  });
});

describe('change sets from outside', () => {
  const remove = { op: 'remove', list: 'bindings', asset: 'quay', id: 'said' };
  it.each<[string, unknown, string]>([
    ['no object', 3, 'expected an object, found 3 at the top of the document'],
    ['no changes', { label: 'x', changes: [] }, 'expected '],
    ['an unknown op', { label: 'x', changes: [{ op: 'swap' }] }, '/changes/0/op'],
    ['an unknown list', { label: 'x', changes: [{ ...remove, list: 'events' }] }, '/changes/0/list'],
    [
      'an item that is none',
      { label: 'x', changes: [{ op: 'insert', list: 'bindings', asset: 'quay', index: 0, item: [] }] },
      'expected an object, found an empty list at /changes/0/item',
    ],
    ['nothing for an item', { label: 'x', changes: [{ op: 'add', index: 0, item: null }] }, 'found null at'],
    [
      'a place before the first',
      { label: 'x', changes: [{ op: 'move', list: 'bindings', asset: 'quay', id: 'said', index: -1 }] },
      '/changes/0/index',
    ],
    [
      'a part that an asset has not',
      { label: 'x', changes: [{ op: 'set', asset: 'quay', part: 'policy' }] },
      'expected one of tags, note,',
    ],
    [
      'a part that a project has not',
      { label: 'x', changes: [{ op: 'set', part: 'tags' }] },
      'found "tags" at /changes/0/part',
    ],
  ])('are refused where they are broken: %s', (_, value, text) => {
    let message = '';
    try {
      readChangeSet(value);
    } catch (error) {
      ({ message } = error as BrokenDocument);
    }
    expect(message).toContain(text);
  });

  it('are taken where they are whole', () => {
    const value = { label: 'Tidy', changes: [remove, { op: 'set', part: 'note', value: 'n' }] };
    expect(readChangeSet(value)).toEqual(value);
  });
});

describe('edits that are refused', () => {
  const base = project([quay(lamp())]);
  it.each<[string, unknown, EditRefused['reason'], string]>([
    [
      'a binding that is none',
      { op: 'replace', list: 'bindings', asset: 'quay', id: 'said', item: { id: 'said', from: 1, to: 2 } },
      'broken-item',
      'the binding is not valid: expected ',
    ],
    [
      'a placement without an asset',
      { op: 'insert', list: 'placements', asset: 'quay', index: 0, item: { id: 'b' } },
      'broken-item',
      'the placement is not valid: expected ',
    ],
    [
      'an asset of no kind',
      { op: 'add', index: 0, item: { id: 'b', kind: 'thing' } },
      'broken-item',
      'at /changes/1/item/kind',
    ],
    [
      'a part that is something else',
      { op: 'set', part: 'channels', value: 3 },
      'broken-item',
      'the channels is not valid: expected a list, found 3 at /changes/1/channels',
    ],
    ['no name', { op: 'set', part: 'name' }, 'broken-item', 'a project must have a name'],
    [
      'an id twice',
      { op: 'insert', list: 'bindings', asset: 'quay', index: 0, item: said },
      'id-taken',
      'quay already has a binding "said"',
    ],
    [
      'what is not there',
      { op: 'remove', list: 'placements', asset: 'quay', id: 'mast' },
      'no-item',
      'quay has no placement "mast"',
    ],
  ])('%s', (_, change, reason, text) => {
    let refused: EditRefused | null = null;
    try {
      applyChanges(base, [{ op: 'set', part: 'note', value: 'first' }, change as Change]);
    } catch (error) {
      refused = error as EditRefused;
    }
    expect(refused).toBeInstanceOf(EditRefused);
    expect(refused).toMatchObject({ change: 1, reason });
    expect(refused!.message).toContain(text);
  });

  it('leave the first part of an asset where it was when it is taken back', () => {
    const tagged = { tags: ['old'], id: 'shed', kind: 'scene', note: 'by the water' } as Asset;
    const before = project([tagged]);
    for (const change of [
      { op: 'set', asset: 'shed', part: 'tags', value: ['new'] },
      { op: 'set', asset: 'shed', part: 'tags' },
    ] as const) {
      const { project: after, inverse } = applyChanges(before, [change as unknown as Change]);
      expect(JSON.stringify(after)).not.toBe(JSON.stringify(before));
      expect(JSON.stringify(applyChanges(after, inverse).project)).toBe(JSON.stringify(before));
    }
  });
});

describe('what decides if a build passes', () => {
  const waiver = (by: string, proposed?: true): object => ({ fingerprint: 'f', by, reason: 'r', proposed });
  const base = project([], { waivers: [waiver('ann')] as Project['waivers'] });
  it.each<[string, object, boolean]>([
    ['the policy', { op: 'set', part: 'policy', value: {} }, true],
    ['a waiver more', { op: 'set', part: 'waivers', value: [waiver('ann'), waiver('bo')] }, true],
    ['no waivers', { op: 'set', part: 'waivers' }, true],
    ['a proposal', { op: 'set', part: 'waivers', value: [waiver('ann'), waiver('bo', true)] }, false],
    ['a note', { op: 'set', part: 'note', value: 'n' }, false],
    ['a part of an asset', { op: 'set', asset: 'Lamp', part: 'note', value: 'n' }, false],
    ['an asset', { op: 'drop', asset: 'Lamp' }, false],
  ])('%s', (_, change, decides) => {
    expect(changesGate(base, change as Change)).toBe(decides);
  });
});

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
