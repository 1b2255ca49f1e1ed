import { describe, expect, it } from '@jest/globals';
import {
  asItsAsset,
  buildGraph,
  differencesOf,
  differs,
  expand,
  indexProject,
  loadedTogether,
  meetingOn,
  muting,
  renameName,
  applyChanges,
  type Change,
  selectedNow,
  rotateArea,
  rotatePoint,
  type Area,
  type Binding,
  type Project,
  type Step,
} from '../src/index.js';
import { ref } from './refs.js';
import { BIND, HEAR } from '../src/graph/graph.js';
import { randomProject } from './random-project.js';

describe('what a selection takes now', () => {
  it('is what its edges lead to, over random projects', () => {
    let compared = 0;
    for (let seed = 1; seed <= 500; seed++) {
      const project = randomProject(seed);
      const index = indexProject(project);
      const x = expand(index);
      const g = buildGraph(x);
      for (const owner of index.assets) {
        owner.bindings.forEach((binding, at) => {
          const { from, to } = binding;
          if (!('every' in to) || binding.enabled === false) return;
          const heads = new Map<number, Set<number>>();
          for (let n = 0; n < g.nodes; n++) {
            for (let e = g.first[n]; e < g.end[n]; e++) {
              const kind = (g.meta[e] >> 2) & 7;
              if (g.ref[e] < 0 || (kind !== BIND && kind !== HEAR)) continue;
              const of = x.ownerOf(g.ref[e]);
              if (x.asset[of] !== owner.at || g.ref[e] - x.bindingBase[of] !== at) continue;
              heads.set(of, (heads.get(of) ?? new Set()).add(g.instanceOf[g.head[e]]));
            }
          }
          // A binding with a fault, or one that hears a channel nobody speaks on, has no edges to compare with.
          if (heads.size === 0 || 'channel' in from) return;
          const now = selectedNow(x, owner.at, from, to)!;
          const muted = (i: number): boolean => x.placementOf(i)?.muted?.includes(binding.id) === true;
          const owners = [...x.asset].flatMap((a, i) => (a === owner.at ? [i] : []));
          if (owners.some(muted)) return;
          compared++;
          expect(now.copies).toBe(owners.length);
          expect(now.total).toBe([...heads.values()].reduce((n, s) => n + s.size, 0));
          const first = heads.get(owners[0]) ?? new Set<number>();
          expect(now.first.map((f) => f.address).sort()).toEqual([...first].map((i) => x.address(i)).sort());
        });
      }
    }
    expect(compared).toBeGreaterThan(40);
  });

  it('tells paths as the owner names them, and counts over copies', () => {
    const index = indexProject(line);
    const x = expand(index);
    const owner = index.assetAt.get('Line')!;
    const now = selectedNow(x, owner, { at: '.', event: 'onA' }, { every: 'Lamp', action: 'go' })!;
    expect(now).toMatchObject({ copies: 2, total: 4, least: 2, most: 2 });
    expect(now.first.map((f) => f.path)).toEqual(['lamp-1', 'lamp-2']);
    const keyed = selectedNow(
      x,
      owner,
      { at: '.', event: 'onA' },
      { every: 'Lamp', action: 'go', match: { property: 'line', equals: { property: 'line' } } },
    )!;
    expect([keyed.total, keyed.first.map((f) => f.address)]).toEqual([2, ['ridge:east/lamp-1']]);
    expect(selectedNow(x, owner, { at: '.', event: 'onA' }, { every: 'Nobody', action: 'go' })).toBeNull();
  });
});

const own: Binding = { id: 'own', from: { at: '.', event: 'onA' }, to: { at: 'lamp-1', action: 'go' } };
const line: Project = {
  format: 'oquel.project/1',
  name: 'Veyra',
  loadSets: [
    { name: 'ascent', scenes: ['ridge', 'refuge'] },
    { name: 'alone', scenes: ['ridge'] },
  ],
  channels: [{ name: 'weather' }],
  rehearsals: [
    {
      name: 'storm',
      steps: [
        { at: 0, raise: { at: 'ridge:east', event: 'onA' } },
        { at: 1, expect: { at: 'ridge:east/lamp-1', property: 'line', is: 'east' } },
        { at: 1, expect: { at: 'ridge:east/lamp-2', action: 'go', times: 1 } },
        { at: 2, publish: { channel: 'weather' } },
      ],
    },
  ],
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        {
          id: 'east',
          asset: 'Line',
          properties: { line: 'east' },
          muted: ['own', 'lost'],
          area: { circle: 3 },
        },
        { id: 'west', asset: 'Line', properties: { line: 'west', power: 3 } },
      ],
      bindings: [{ id: 'hear', from: { channel: 'weather' }, to: { at: 'east', action: 'go' } }],
    },
    { id: 'refuge', kind: 'scene' },
    { id: 'office', kind: 'scene', persistent: true },
    { id: 'yard', kind: 'scene' },
    {
      id: 'Line',
      kind: 'prefab',
      area: { circle: 2 },
      properties: [
        { name: 'line', type: 'string', default: 'none', isKey: true },
        { name: 'power', type: 'int', default: 3 },
      ],
      events: [{ name: 'onA', cause: { type: 'code' } }],
      actions: [{ name: 'go' }],
      placements: [
        { id: 'lamp-1', asset: 'Lamp', properties: { line: 'east' } },
        { id: 'lamp-2', asset: 'Lamp', properties: { line: 'west' } },
      ],
      bindings: [own, { id: 'say', from: { at: '.', event: 'onA' }, to: { channel: 'weather' } }],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      properties: [{ name: 'line', type: 'string', default: 'none' }],
      actions: [{ name: 'go' }],
    },
  ],
};

describe('how a placement differs from its prefab', () => {
  const index = indexProject(line);
  const [east, west] = index.assets[0].placements;
  it('tells mutes, areas and values that are not the default', () => {
    expect(differencesOf(index, east)).toEqual({
      values: [{ property: 'line', value: 'east', usual: 'none', isKey: true }],
      muted: [
        { id: 'own', binding: own },
        { id: 'lost', binding: undefined },
      ],
      area: { circle: 3 },
    });
    expect(differs(differencesOf(index, east))).toBe(true);
  });
  it('takes a key, and a default that is written out, for no difference', () => {
    expect(differs(differencesOf(index, west))).toBe(false);
  });
  it('is taken back whole, but for keys, or mute by mute', () => {
    expect(asItsAsset(index, east)).toEqual({ id: 'east', asset: 'Line', properties: { line: 'east' } });
    expect(muting(muting(west, 'own', true), 'own', false)).toEqual(west);
    expect(muting(east, 'lost', false)).toMatchObject({ muted: ['own'] });
  });
});

describe('what else is on a channel, and what is loaded with what', () => {
  const index = indexProject(line);
  const scene = (id: string): (typeof index.assets)[number] => index.assets[index.assetAt.get(id)!];
  it('lists who publishes and who hears', () => {
    const { publish, hear } = meetingOn(index, 'weather');
    expect(publish.map((u) => [u.owner.decl.id, u.binding.id])).toEqual([['Line', 'say']]);
    expect(hear.map((u) => [u.owner.decl.id, u.binding.id])).toEqual([['ridge', 'hear']]);
  });
  it.each([
    ['ridge', 'ridge', { always: true, sets: [], without: [] }],
    ['ridge', 'office', { always: true, sets: [], without: [] }],
    ['ridge', 'refuge', { always: false, sets: ['ascent'], without: ['alone'] }],
    ['ridge', 'yard', { always: false, sets: [], without: ['ascent', 'alone'] }],
    ['office', 'refuge', { always: false, sets: ['ascent'], without: ['alone'] }],
  ])('%s and %s', (from, to, expected) => {
    expect(loadedTogether(index, scene(from), scene(to))).toEqual(expected);
  });
});

describe('rehearsals go along with new names', () => {
  const index = indexProject(line);
  const asset = (id: string): (typeof index.assets)[number] => index.assets[index.assetAt.get(id)!];
  const steps = (changes: Change[]): Step[] => applyChanges(line, changes).project.rehearsals![0].steps;
  it('of placements, at any depth', () => {
    expect(
      steps(renameName(index, ref('placement', asset('ridge'), 'east'), 'north')).map((s) =>
        JSON.stringify(s),
      ),
    ).toEqual([
      '{"at":0,"raise":{"at":"ridge:north","event":"onA"}}',
      '{"at":1,"expect":{"at":"ridge:north/lamp-1","property":"line","is":"east"}}',
      '{"at":1,"expect":{"at":"ridge:north/lamp-2","action":"go","times":1}}',
      '{"at":2,"publish":{"channel":"weather"}}',
    ]);
    expect(steps(renameName(index, ref('placement', asset('Line'), 'lamp-2'), 'far'))[2]).toMatchObject({
      expect: { at: 'ridge:east/far' },
    });
  });
  it('of events, actions and properties, where they mean those', () => {
    expect(steps(renameName(index, ref('event', asset('Line'), 'onA'), 'onB'))[0]).toMatchObject({
      raise: { event: 'onB' },
    });
    expect(steps(renameName(index, ref('action', asset('Lamp'), 'go'), 'shine'))[2]).toMatchObject({
      expect: { action: 'shine' },
    });
    expect(steps(renameName(index, ref('property', asset('Lamp'), 'line'), 'rope'))[1]).toMatchObject({
      expect: { property: 'rope' },
    });
    expect(steps(renameName(index, ref('action', asset('Line'), 'go'), 'run'))).toEqual(
      line.rehearsals![0].steps,
    );
  });
});

describe('turning', () => {
  it.each<[string, Area, number, Area]>([
    ['a circle stays', { circle: 2 }, 15, { circle: 2 }],
    ['a rectangle by a quarter', { rect: [4, 2] }, 90, { rect: [2, 4] }],
    ['a rectangle by a quarter back', { rect: [4, 2] }, -90, { rect: [2, 4] }],
    ['a rectangle by a half', { rect: [4, 2] }, 180, { rect: [4, 2] }],
    [
      'a polygon by a quarter',
      {
        polygon: [
          [1, 0],
          [2, 3],
          [0, 1],
        ],
      },
      90,
      {
        polygon: [
          [0, 1],
          [-3, 2],
          [-1, 0],
        ],
      },
    ],
    [
      'a rectangle by 45 degrees becomes a polygon',
      { rect: [2, 2] },
      45,
      {
        polygon: [
          [0, -1.414],
          [1.414, 0],
          [0, 1.414],
          [-1.414, 0],
        ],
      },
    ],
  ])('%s', (_, area, degrees, expected) => expect(rotateArea(area, degrees)).toEqual(expected));
  it('of a point goes about the centre, and four quarters end where they began', () => {
    expect(rotatePoint([3, 1], [1, 1], 90)).toEqual([1, 3]);
    let p: readonly [number, number] = [7.25, -3.5];
    for (let i = 0; i < 4; i++) p = rotatePoint(p, [1.5, 2], 90);
    expect(p).toEqual([7.25, -3.5]);
  });
});
