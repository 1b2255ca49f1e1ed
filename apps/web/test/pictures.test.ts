import { describe, expect, it } from '@jest/globals';
import {
  indexProject,
  type HeaviestStep,
  type Placement,
  type Project,
  type Ripple,
  type RippleLayout,
} from '@oquel/core';
import type { Thing } from '../src/parts/plan/thing.js';
import { boxesOf } from '../src/parts/plan/boxes.js';
import { rippleHref } from '../src/parts/ripple-href.js';
import { selectedText } from '../src/parts/selected-text.js';
import { creating, dropping, rotating } from '../src/views/plan/stage-edits.js';
import { litChain } from '../src/views/ripple/lit-chain.js';
import { onScreen, ribbonPath, type EntryLine, type Region } from '../src/views/ripple/geometry.js';

describe('a widget as boxes', () => {
  const thing = (path: string): Thing => ({ path, label: path }) as Thing;
  const said = (boxes: ReturnType<typeof boxesOf>): unknown =>
    boxes.map((b) => [b.thing.path, b.leaves, ...(said(b.inside) as unknown[])]);
  it('holds each part in what contains it, with its share of the room', () => {
    expect(said(boxesOf(['.', 'a', 'a/x', 'a/y', 'b', 'b/z', 'b/z/deep'].map(thing)))).toEqual([
      ['.', 3, ['a', 2, ['a/x', 1], ['a/y', 1]], ['b', 1, ['b/z', 1, ['b/z/deep', 1]]]],
    ]);
  });
  it('is empty for nothing, and shows parts whose container is left out', () => {
    expect(boxesOf([])).toEqual([]);
    expect(said(boxesOf(['a', 'a/x'].map(thing)))).toEqual([['a', 1, ['a/x', 1]]]);
  });
});

describe('what of a ripple is in sight', () => {
  const columns = [0, 156, 312].map((x, hop) => ({ hop, seconds: 0, x, width: 156, entries: 0 }));
  // 3 columns of 40 rows; each entry leads to one of the next column.
  const key = (c: number, r: number): string => `${c}/${r}`;
  const entries = columns.flatMap((_, c) => Array.from({ length: 40 }, (_, r) => ({ key: key(c, r) })));
  const links = [0, 1].flatMap((c) =>
    Array.from({ length: 40 }, (_, r) => ({
      from: key(c, r),
      to: key(c + 1, (r * 7) % 40),
      returns: r === 5,
      count: r,
    })),
  );
  const ripple = { entries, links } as unknown as Ripple;
  const layout: RippleLayout = {
    columns,
    ticks: [],
    x: Float64Array.from(entries, (_, i) => columns[Math.floor(i / 40)].x),
    w: new Float64Array(entries.length).fill(156),
    y: Float64Array.from(entries, (_, i) => (i % 40) * 50),
    h: new Float64Array(entries.length).fill(60),
    base: new Float64Array(entries.length).fill(32),
    notes: entries.map(() => ({ by: '', asks: '', returns: [], moreReturns: 0 })),
    width: 468,
    height: 2000,
  };
  const at = new Map(entries.map((e, i) => [e.key, i]));
  const ends = Int32Array.from(links.flatMap((l) => [at.get(l.from)!, at.get(l.to)!]));
  const regions: Region[] = [
    { left: 0, top: 0, right: 468, bottom: 2000 },
    { left: 0, top: 500, right: 200, bottom: 700 },
    { left: 320, top: 0, right: 400, bottom: 100 },
    { left: 900, top: 0, right: 1000, bottom: 100 },
  ];
  it.each(regions)('in %j is all that touches it, and no return', (r) => {
    const shown = onScreen(ripple, layout, ends, r);
    const touches = (i: number): boolean => {
      const [x, width] = [layout.x[i], layout.w[i]];
      return x <= r.right && x + width >= r.left && layout.y[i] <= r.bottom && layout.y[i] + 60 >= r.top;
    };
    expect(shown.entries).toEqual(entries.map((_, i) => i).filter(touches));
    for (const k of shown.links) expect(links[k].returns).toBe(false);
    // A link whose ends are both in sight is drawn.
    links.forEach((l, k) => {
      if (!l.returns && touches(at.get(l.from)!) && touches(at.get(l.to)!)) expect(shown.links).toContain(k);
    });
  });
  it('a ribbon runs from the end of a line to the next; one that runs far shows its ends alone', () => {
    const line = (x1: number, x2: number, y: number): EntryLine => ({ x1, x2, y });
    const from = line(-50, 0, 0);
    expect(ribbonPath(from, line(100, 150, 50))).toBe('M0 0C50 0 50 50 100 50');
    expect(ribbonPath(from, line(100, 150, 5000))).toBe('M0 0l18 10M82 4990L100 5000');
    // At the same second it runs down beside both; a little later from where the first begins.
    expect(ribbonPath(from, line(-50, 0, 50))).toBe('M-50 0C-64 0 -64 50 -50 50');
    expect(ribbonPath(from, line(-20, 30, 60))).toBe('M-48 0C-48 40 -36 60 -20 60');
  });
  it('the chain that is lit numbers its hops, once for each time that it comes by', () => {
    const step = (k: string, first: number, last = first): HeaviestStep => ({
      key: k,
      hops: [first, last],
      after: 0,
    });
    const steps = [step('s', 0), step('a', 1), step('#', 0), step('b', 2, 4), step('a', 5)];
    const { keys, pairs, hops } = litChain({ steps, hops: 5, text: '5 hops', seconds: 0 });
    expect([...keys]).toEqual(['s', 'a', '#', 'b']);
    expect([...pairs]).toEqual(['s|a', 'a|#', '#|b', 'b|a']);
    expect([...hops]).toEqual([
      ['a', '1, 5'],
      ['b', '2 to 4'],
    ]);
  });
});

describe('edits of the stage', () => {
  const project: Project = {
    format: 'oquel.project/1',
    name: 'Veyra',
    assets: [
      {
        id: 'ridge',
        kind: 'scene',
        placements: [
          { id: 'a', asset: 'Mat', at: [0, 0] },
          { id: 'b', asset: 'Mat', at: [4, 2], area: { circle: 3 } },
          { id: 'c', asset: 'Lamp', at: [9, 9] },
        ],
      },
      { id: 'Mat', kind: 'prefab', area: { rect: [4, 2] } },
      { id: 'Lamp', kind: 'prefab' },
    ],
  };
  const index = indexProject(project);
  const [ridge] = index.assets;
  const items = (changes: ReturnType<typeof rotating>['changes']): Placement[] =>
    changes.flatMap((c) => (c.op === 'replace' && c.list === 'placements' ? [c.item] : []));
  it('rotating a group turns places about the middle and areas about themselves', () => {
    expect(items(rotating(index, ridge, ['a', 'b'], 90).changes)).toEqual([
      { id: 'a', asset: 'Mat', at: [3, -1], area: { rect: [2, 4] } },
      { id: 'b', asset: 'Mat', at: [1, 3], area: { circle: 3 } },
    ]);
  });
  it('rotating one thing moves nothing, and what has nothing to turn stays', () => {
    expect(items(rotating(index, ridge, ['a'], 90).changes)).toEqual([
      { id: 'a', asset: 'Mat', at: [0, 0], area: { rect: [2, 4] } },
    ]);
    expect(rotating(index, ridge, ['c'], 90).changes).toEqual([]);
    expect(rotating(index, ridge, ['b'], 45).changes).toEqual([]);
  });
  it('assets come last and go by name', () => {
    expect(creating(index, 'widget', 'Dial').changes).toEqual([
      { op: 'add', index: 3, item: { id: 'Dial', kind: 'widget' } },
    ]);
    expect(creating(index, 'scene', 'hut').changes).toMatchObject([{ item: { size: [60, 40] } }]);
    expect(dropping(ridge)).toEqual({
      label: 'removed ridge',
      changes: [{ op: 'drop', asset: 'ridge' }],
    });
  });
});

it.each([
  [{ at: 'ridge:mast-2', name: 'onGust' }, 'forward', 'at=ridge%3Amast-2&name=onGust'],
  [{ asset: 'Cabin' }, 'backward', 'asset=Cabin&way=back'],
  [{ channel: 'tension', key: 'east' }, 'forward', 'channel=tension&key=%22east%22'],
  [{ channel: 'tension', key: 1 }, 'forward', 'channel=tension&key=1'],
] as const)('the ripple of %j, %s, has an address', (start, way, query) => {
  expect(rippleHref('/p/1', start, way)).toBe(`/p/1/ripple?${query}`);
});

it.each([
  [{ copies: 0, total: 0, least: 0, most: 0 }, 'it is not placed anywhere'],
  [{ copies: 1, total: 0, least: 0, most: 0 }, 'takes nobody now'],
  [{ copies: 1, total: 4, least: 4, most: 4 }, 'takes 4 now'],
  [{ copies: 3, total: 6, least: 2, most: 2 }, 'takes 2 now in each of 3 copies'],
  [{ copies: 3, total: 4, least: 0, most: 3 }, 'takes 0 to 3 now in each of 3 copies'],
])('a selection of %j says "%s"', (now, text) => {
  expect(selectedText({ ...now, first: [] })).toBe(text);
});
