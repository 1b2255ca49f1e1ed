import { describe, expect, it } from '@jest/globals';
import { indexProject, type Binding, type Finding, type ProofTrack, type Project } from '@oquel/core';
import { placeLabels, type LabelWish } from '../src/parts/plan/labels.js';
import { extent, fit, roundStep, toScreen, zoomAt } from '../src/parts/plan/viewport.js';
import { groupFindings } from '../src/views/audit/grouping.js';
import { layProof, wrapped } from '../src/views/audit/proof-layout.js';
import { chipsOf, findCandidates, type Candidate } from '../src/views/wire/candidates.js';
import { checkDraft, draftOf, EMPTY_DRAFT, withDraft, wiringOf } from '../src/views/wire/draft.js';

describe('the viewport', () => {
  it('shows the whole plan, and keeps the point under the pointer when zooming', () => {
    const area = { x: 0, y: 0, width: 110, height: 66 };
    const v = fit(area, 730, 724);
    for (const corner of [
      [0, 0],
      [110, 66],
    ] as const) {
      const [x, y] = toScreen(v, corner);
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(730);
      expect(y).toBeGreaterThanOrEqual(0);
      expect(y).toBeLessThanOrEqual(724);
    }
    const under = [(300 - v.x) / v.scale, (200 - v.y) / v.scale] as const;
    const [x, y] = toScreen(zoomAt(v, 3, 300, 200), under);
    expect(x).toBeCloseTo(300);
    expect(y).toBeCloseTo(200);
  });
  it.each([
    [6, 56, 10],
    [60, 56, 1],
    [0.5, 56, 200],
    [200, 56, 0.5],
  ])('rules at %d px a metre, %d px apart, every %d m', (scale, px, step) => {
    expect(roundStep(scale, px)).toBeCloseTo(step);
  });
  it('takes what its things need where the scene has no size', () => {
    expect(
      extent(undefined, [
        [-5, 2],
        [10, 4],
      ]),
    ).toEqual({ x: -8, y: -3, width: 21, height: 10 });
    expect(extent([60, 40], [[500, 500]])).toEqual({ x: 0, y: 0, width: 60, height: 40 });
  });
});

describe('labels', () => {
  const wish = (id: string, x: number, y: number, rank = 1): LabelWish => ({
    id,
    text: 'brake-10',
    x,
    y,
    radius: 13,
    rank,
  });
  it('give way to one another, the important one first, and are left out where there is no room', () => {
    const crowd = Array.from({ length: 40 }, (_, i) =>
      wish(`t${i}`, 100 + (i % 8) * 12, 100 + Math.floor(i / 8) * 12, i === 39 ? 5 : 1),
    );
    const placed = placeLabels(crowd);
    expect(placed.size).toBeLessThan(crowd.length);
    const alone = placeLabels([wish('a', 100, 100)]);
    expect(alone.get('a')).toMatchObject({ anchor: 'start' });
    const two = placeLabels([wish('a', 100, 100), wish('b', 150, 100, 5)]);
    expect(two.get('a')).toMatchObject({ anchor: 'end' });
    // Nothing is cut by the edge of the pane: a name stands on the other side there, or not at all.
    const pane = { width: 160, height: 200 };
    expect(placeLabels([wish('bell-12', 130, 100)], pane).get('bell-12')).toMatchObject({ anchor: 'end' });
    expect(placeLabels([wish('bell-12', 20, 10)], { width: 40, height: 20 }).size).toBe(0);
  });
});

describe('names near dots', () => {
  const mast = { id: 'mast', text: 'mast-10', x: 100, y: 100, radius: 10, rank: 1 };
  const dot = (x: number, y: number): { x: number; y: number; radius: number } => ({ x, y, radius: 9 });
  const ring = [dot(130, 100), dot(70, 100), dot(100, 123), dot(100, 80)];
  it('stand where no dot is', () => {
    expect(placeLabels([mast], undefined, ring.slice(0, 1)).get('mast')).toMatchObject({ anchor: 'end' });
    expect(placeLabels([mast], undefined, ring.slice(0, 2)).get('mast')).toMatchObject({ anchor: 'middle' });
  });
  it('are left out among dots, but for those that are needed', () => {
    expect(placeLabels([mast], undefined, ring).size).toBe(0);
    expect(placeLabels([{ ...mast, isNeeded: true }], undefined, ring).get('mast')).toMatchObject({
      anchor: 'start',
    });
  });
});

describe('names that find no room', () => {
  const bell = (id: string, x: number, kind = 'Bell'): LabelWish => ({
    id,
    text: id,
    kind,
    x,
    y: 100,
    radius: 13,
    rank: 1,
  });
  it('are counted at the nearest name of their kind, and none twice', () => {
    const wishes = Array.from({ length: 12 }, (_, i) => bell(`bell-${i}`, 100 + i * 14));
    const placed = placeLabels(wishes);
    const counted = [...placed.values()].reduce((n, p) => n + 1 + p.more, 0);
    expect(counted).toBeGreaterThan(placed.size);
    expect(counted).toBeLessThanOrEqual(12);
    // With room for the count, all are counted.
    const pair = placeLabels([
      bell('bell-1', 100),
      bell('bell-2', 104),
      bell('bell-3', 108),
      bell('bell-4', 112),
    ]);
    expect([...pair.values()].reduce((n, p) => n + 1 + p.more, 0)).toBe(4);
  });
  it('are not counted at a name of another kind, nor at one far away', () => {
    const crowd = Array.from({ length: 12 }, (_, i) =>
      bell(`bell-${i}`, 100 + i * 14, i === 0 ? 'Gate' : 'Bell'),
    );
    const gate = placeLabels(crowd).get('bell-0');
    expect(gate?.more ?? 0).toBe(0);
    const far = placeLabels([bell('bell-1', 100), bell('bell-2', 400)]);
    expect([...far.values()].map((p) => p.more)).toEqual([0, 0]);
  });
});

describe('the finder', () => {
  const c = (
    path: string,
    kind: string,
    distance: number | null,
    wired: string[] = [],
    tags: string[] = [],
  ): Candidate => ({ path, kind, distance, wired, tags });
  const all = [
    c('brake-1', 'TrackBrake', 18, ['engage'], ['safety']),
    c('brake-10', 'TrackBrake', 40, [], ['safety']),
    c('brake-2', 'TrackBrake', 40, [], ['safety']),
    c('horn-2', 'StormHorn', 5, [], ['safety', 'sound']),
    c('#tension', 'channel', null),
  ];
  const paths = (text: string, chip = '', order: 'near' | 'name' = 'near'): string[] =>
    findCandidates(all, text, chip, order).map((x) => x.path);
  it('puts what is not yet wired first, then the nearest, then by name as people count', () => {
    expect(paths('')).toEqual(['horn-2', 'brake-2', 'brake-10', '#tension', 'brake-1']);
    expect(paths('', '', 'name')).toEqual(['#tension', 'brake-2', 'brake-10', 'horn-2', 'brake-1']);
  });
  it('matches every word in path, asset or tag, and keeps to the chip', () => {
    expect(paths('track 2')).toEqual(['brake-2']);
    expect(paths('#sound')).toEqual(['horn-2']);
    expect(paths('', 'TrackBrake')).toHaveLength(3);
    expect(paths('', '#safety')).toHaveLength(4);
    expect(paths('zzz')).toEqual([]);
  });
  it('offers the most frequent assets and tags', () => {
    expect(chipsOf(all, 3)).toEqual([
      { name: '#safety', count: 4 },
      { name: 'TrackBrake', count: 3 },
      { name: '#sound', count: 1 },
    ]);
  });
});

describe('drafts', () => {
  const project: Project = {
    format: 'oquel.project/1',
    name: 'Veyra',
    channels: [{ name: 'tension', payload: [{ name: 'tension', type: 'float' }] }],
    assets: [
      {
        id: 'ridge',
        kind: 'scene',
        bindings: [
          { id: 'onGust-brake-1-1', from: { at: '.', event: 'onGust' }, to: { at: '.', action: 'x' } },
        ],
      },
    ],
  };
  const index = indexProject(project);
  const scope = { index, payload: [{ name: 'speed', type: 'float' as const }], reader: index.assets[0] };
  const params = [{ name: 'force', type: 'float' as const }];
  it('say what is wrong in each field', () => {
    const { faults } = checkDraft(
      { ...EMPTY_DRAFT, args: { force: '$gone' }, limit: '1.5', delay: 'soon' },
      params,
      scope,
    );
    expect([...faults.keys()]).toEqual(['force', 'limit', 'delay']);
  });
  const from = { at: '.', event: 'onGust' };
  const engage = { at: 'brake-1', action: 'engage' };
  const force = { force: { payload: 'speed' } };
  const every = { every: 'Brake', action: 'engage' };
  it.each<Omit<Binding, 'id'>>([
    { from, to: { channel: 'tension', key: 'east' }, args: force, limit: 2, delay: 0.5, note: 'kept' },
    { from, to: engage, args: force, enabled: false },
    { from, to: engage, args: force, enabled: true, origin: 'authored', bind: 'load', release: 'own' },
    { from, to: engage, args: force, origin: 'code', bind: 'start', release: 'never' },
    { from, to: { ...every, match: 'all', within: 'project', pick: 'first', spawned: true }, args: force },
    { from, to: { ...every, match: { property: 'line', equals: { property: 'line' } } }, args: force },
    { from, to: { ...every, match: { property: 'line', equals: 'east' } }, args: force },
    { from: { channel: 'tension', key: { property: 'line' } }, to: engage, args: force },
  ])('come back from a binding as they went in: %j', (rest) => {
    const binding: Binding = { id: 'b', ...rest };
    const checked = checkDraft(draftOf(binding, params), params, scope);
    expect([...checked.faults.values()]).toEqual([]);
    expect(withDraft(binding, checked)).toEqual(binding);
  });
  it('wire many receivers as one edit with free ids, in their order', () => {
    const checked = checkDraft({ ...EMPTY_DRAFT, args: { force: '$speed' }, delay: '0' }, params, scope);
    const { changeSet, ids } = wiringOf(
      index.assets[0],
      { at: '.', event: 'onGust' },
      ['brake-1', 'cabin-3/brake-1'],
      'engage',
      checked,
    );
    expect(ids).toEqual(['onGust-brake-1-2', 'onGust-brake-1-3']);
    expect(changeSet.label).toBe('ridge: wired ..onGust to 2 receivers (engage)');
    expect(changeSet.changes).toMatchObject([
      {
        op: 'insert',
        index: 1,
        item: { to: { at: 'brake-1', action: 'engage' }, args: { force: { payload: 'speed' } } },
      },
      { op: 'insert', index: 2, item: { to: { at: 'cabin-3/brake-1' } } },
    ]);
  });
});

describe('a proof that is drawn', () => {
  const track = (names: readonly string[], closed = false): ProofTrack => ({
    title: 'Chain',
    closed,
    hops: names.length,
    more: 0,
    rows: names.map((name, i) => ({
      node: { type: 'action', at: name, name: 'x' },
      returns: closed && i === names.length - 1,
      hop: i + 1,
      name,
      via:
        i === 0
          ? ''
          : `when ${names[i - 1]}.onEnded do ${name}.begin(force = "a very long text", at = 12) once`,
      delay: 0,
    })),
  });
  it('keeps its order, each row below the one before with room for all that leads to it', () => {
    for (const width of [220, 620, 1400]) {
      const { rows, height } = layProof(track(['ridge:mast', 'ridge:lamp', 'ridge:bell'], true), width);
      rows
        .slice(1)
        .forEach(({ y, via }, i) => expect(y - rows[i].y).toBeGreaterThanOrEqual(20 + via.length * 15));
      expect(height).toBeGreaterThan(rows[2].y);
      // Nothing is cut.
      for (const { row, via } of rows) expect(via.join(' ')).toBe(row.via);
    }
  });
  it('is as wide as its longest name', () => {
    const long = `ridge:${'cabin-in-the-clouds/'.repeat(6)}lamp`;
    expect(layProof(track([long]), 300).width).toBeGreaterThan(long.length * 7.5);
  });
  it('breaks a word only where it is longer than a line', () => {
    expect(wrapped('aa bbb cccccccc d', 5)).toEqual(['aa', 'bbb', 'ccccc', 'ccc d']);
    expect(wrapped('', 5)).toEqual([]);
  });
});

describe('grouping findings', () => {
  const f = (rule: string, severity: Finding['severity'], at: string[] = []): Finding =>
    ({ rule, severity, subject: { asset: rule[0] }, occurrences: at }) as unknown as Finding;
  const all = [
    f('z-rule', 'error', ['ridge:a', 'refuge:b']),
    f('a-rule', 'warning', ['ridge:c']),
    f('z-rule', 'info', ['ridge:.']),
    f('b-rule', 'info'),
  ];
  it.each([
    ['rule', ['z-rule 2', 'a-rule 1', 'b-rule 1']],
    ['asset', ['z 2', 'a 1', 'b 1']],
    ['severity', ['errors 1', 'warnings 1', 'notes 2']],
    ['scene', ['several scenes 1', 'ridge 2', 'no scene 1']],
  ] as const)('by %s, those with errors first', (by, expected) => {
    expect(groupFindings(all, by).map((g) => `${g.name} ${g.findings.length}`)).toEqual(expected);
  });
});
