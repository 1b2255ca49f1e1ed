import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  indexProject,
  parsePlacement,
  printPlacement,
  printStage,
  readStage,
  type AssetIndex,
  type Placement,
  type ProjectIndex,
  type Project,
} from '../src/index.js';
import { Random } from './random.js';
import { randomProject } from './random-project.js';

const project: Project = {
  format: 'oquel.project/1',
  name: 'Harbour',
  assets: [
    {
      id: 'quay',
      kind: 'scene',
      size: [40, 30],
      placements: [
        { id: 'bell-1', asset: 'Bell', at: [3, 4], properties: { tone: 'deep' } },
        { id: 'gate-1', asset: 'Gate', at: [8, 4], asleep: true },
        { id: 'far', asset: 'Gate' },
      ],
      bindings: [
        {
          id: 'ring',
          from: { at: 'bell-1', event: 'onRung' },
          to: { at: 'gate-1', action: 'open' },
          limit: 1,
        },
        { id: 'out', from: { at: 'bell-1', event: 'onRung' }, to: { at: 'far', action: 'open' } },
        { id: 'tell', from: { at: 'gate-1', event: 'onOpen' }, to: { channel: 'harbour' } },
      ],
    },
    { id: 'deck', kind: 'scene', placements: [{ id: 'gate-1', asset: 'Gate', at: [8, 4] }] },
    { id: 'Bell', kind: 'prefab', events: [{ name: 'onRung', cause: { type: 'use' } }] },
    {
      id: 'Gate',
      kind: 'prefab',
      events: [{ name: 'onOpen', cause: { type: 'code' } }],
      actions: [{ name: 'open' }],
    },
    { id: 'Panel', kind: 'widget' },
  ],
};
const index = indexProject(project);
const find = (of: ProjectIndex, id: string): AssetIndex => of.assets[of.assetAt.get(id)!];
const owner = (id: string): AssetIndex => find(index, id);
const after = (id: string, text: string): Project['assets'][number] => {
  const { changes } = readStage(index, owner(id), text);
  return applyChanges(project, changes).project.assets.find((a) => a.id === id)!;
};

describe('a line that places', () => {
  const cases: [string, Placement][] = [
    ['place bell-1 of Bell', { id: 'bell-1', asset: 'Bell' }],
    ['place bell-1 of Bell at 3, -4.5', { id: 'bell-1', asset: 'Bell', at: [3, -4.5] }],
    [
      'place "2nd bell" of "Big Bell" area circle 3',
      { id: '2nd bell', asset: 'Big Bell', area: { circle: 3 } },
    ],
    [
      'place a of B area 4 x 0.5 asleep entry',
      { id: 'a', asset: 'B', area: { rect: [4, 0.5] }, asleep: true, entry: true },
    ],
    [
      'place a of B area polygon (0, 0) (3, 0) (3, 3)',
      {
        id: 'a',
        asset: 'B',
        area: {
          polygon: [
            [0, 0],
            [3, 0],
            [3, 3],
          ],
        },
      },
    ],
    ['place a of B awake no entry muted ()', { id: 'a', asset: 'B', asleep: false, entry: false, muted: [] }],
    [
      'place a of B authority host operator guest muted (ring, "2")',
      { id: 'a', asset: 'B', authority: 'host', operator: 'guest', muted: ['ring', '2'] },
    ],
    [
      'place a of B with (line = "east", at = [1, 2], on = true)',
      { id: 'a', asset: 'B', properties: { line: 'east', at: [1, 2], on: true } },
    ],
    [
      'place a of B inside lamp/bulb with (glow = 2) inside "odd path" with ()',
      { id: 'a', asset: 'B', inside: { 'lamp/bulb': { glow: 2 }, 'odd path': {} } },
    ],
    ['place a of B inside () note "two\\nlines"', { id: 'a', asset: 'B', inside: {}, note: 'two\nlines' }],
  ];
  it.each(cases)('%s', (line, placement) => {
    expect(parsePlacement(line)).toEqual({ value: placement });
    expect(printPlacement(placement)).toBe(line);
  });

  it.each([
    ['place of Bell', 9, '"of" and a prefab or widget'],
    ['place bell of', 13, 'a prefab or widget'],
    ['place bell of Bell at 3', 23, '"," and a number'],
    ['place bell of Bell area circle 0', 31, 'more than 0 metres'],
    ['place bell of Bell area polygon (0, 0) (1, 1)', 45, 'at least three corners, such as (0, 0)'],
    [
      'place bell of Bell loud',
      19,
      'at, area, asleep, entry, authority, operator, muted, with, inside, note, or the end',
    ],
    ['place bell of Bell with (tone "deep")', 30, '"="'],
  ])('%s stops at %i', (line, at, expected) => {
    const read = parsePlacement(line);
    expect('fault' in read && [read.fault.at, read.fault.expected]).toEqual([at, expected]);
  });

  it('reads back as the very same placement', () => {
    for (let seed = 1; seed <= 150; seed++) {
      for (const { placements = [] } of randomProject(seed).assets)
        for (const p of placements) expect(parsePlacement(printPlacement(p))).toEqual({ value: p });
    }
  });
});

describe('things as lines', () => {
  it('are copied with the bindings that run between them alone', () => {
    expect(printStage(owner('quay'), ['bell-1', 'gate-1']).split('\n')).toEqual([
      'place bell-1 of Bell at 3, 4 with (tone = "deep")',
      'place gate-1 of Gate at 8, 4 asleep',
      'when bell-1.onRung do gate-1.open once named ring',
      'when gate-1.onOpen do #harbour named tell',
    ]);
  });

  it('come into another scene under names that are free, aside of what stands there', () => {
    const deck = after('deck', printStage(owner('quay'), ['bell-1', 'gate-1']));
    expect(deck.placements).toEqual([
      { id: 'gate-1', asset: 'Gate', at: [8, 4] },
      { id: 'bell-1', asset: 'Bell', at: [5, 6], properties: { tone: 'deep' } },
      { id: 'gate-2', asset: 'Gate', at: [10, 6], asleep: true },
    ]);
    expect(deck.bindings).toEqual([
      { id: 'ring', from: { at: 'bell-1', event: 'onRung' }, to: { at: 'gate-2', action: 'open' }, limit: 1 },
      { id: 'tell', from: { at: 'gate-2', event: 'onOpen' }, to: { channel: 'harbour' } },
    ]);
  });

  it.each([
    ['quay', 'place x of Nowhere', 'there is no prefab or widget Nowhere in this project'],
    ['quay', 'place x of deck', 'deck is a scene, which cannot be placed'],
    ['Gate', 'place x of Gate', 'Gate cannot be placed in itself'],
    ['Panel', 'place x of Bell', 'Panel is a widget, and holds widgets alone'],
    ['quay', 'place x of Bell\nplace x of Bell', 'x is placed by an earlier line'],
    ['quay', 'when bell-1.onRung do far.open', 'out is the same'],
    ['quay', 'hello', 'expected "when", found "hello"'],
  ])('%s leaves %j out: %s', (id, text, why) => {
    const { left } = readStage(index, owner(id), text);
    expect(left.map((l) => l.why)).toEqual([why]);
  });

  it('pasted where they came from make the same once more: nothing of a copy is lost', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = new Random(seed);
      const given = randomProject(seed);
      const of = indexProject(given);
      const scene = of.assets.find((a) => a.decl.kind === 'scene')!;
      const ids = scene.placements.filter(() => random.chance(0.6)).map((p) => p.id);
      const text = printStage(scene, ids);
      const { changes, placed, left } = readStage(of, scene, text);
      // Scenes and what is not there cannot be placed; that is said of their lines alone.
      const out = new Set(left.flatMap((l) => /^place (\S+)/.exec(l.text)?.[1] ?? []));
      const known = ids.filter((id) => !out.has(id));
      const kinds = [...out].map((id) => find(of, scene.placements[scene.placementAt.get(id)!].asset));
      expect(kinds.every((a) => a === undefined || a.decl.kind === 'scene')).toBe(true);
      expect(placed.length).toBe(known.length);
      const next = indexProject(applyChanges(given, changes).project);
      const bare = ({ id: _id, at: _at, ...rest }: Placement): object => rest;
      const there = find(next, scene.decl.id);
      const read = (id: string): Placement => there.placements[there.placementAt.get(id)!];
      expect(placed.map((id) => bare(read(id)))).toEqual(known.map((id) => bare(read(id))));
    }
  });

  it('get names quickly, however many are alike', () => {
    const line = 'place bell-1 of Bell';
    const text = Array.from({ length: 3000 }, (_, i) => line.replace('bell-1', `b-${i}`)).join('\n');
    const { placed } = readStage(index, owner('quay'), `${text}\n${text.replaceAll('place b-', 'place c-')}`);
    expect(new Set(placed).size).toBe(6000);
  });
});
