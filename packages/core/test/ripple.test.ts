import { describe, expect, it } from '@jest/globals';
import {
  AuditContext,
  buildGraph,
  entryText,
  expand,
  indexProject,
  layRipple,
  narrowed,
  reachedNames,
  rippleLines,
  rippleOf,
  RIPPLE_ROW,
  type Graph,
  type Project,
  type Ripple,
  type RippleAsk,
} from '../src/index.js';
import { bindingOfEdge, edgeDelay, effectOfEdge, isAction, isEvent } from '../src/graph/graph.js';
import { randomProject } from './random-project.js';

const graphOf = (project: Project): Graph => buildGraph(expand(indexProject(project)));

/** Edges as a plain list, turned round for the way back. */
function plainEdges(g: Graph, back: boolean): { from: number; to: number; us: number }[] {
  const edges = [];
  for (let n = 0; n < g.nodes; n++) {
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      const us = Math.round(edgeDelay(g, e, n) * 1e6);
      edges.push(back ? { from: g.head[e], to: n, us } : { from: n, to: g.head[e], us });
    }
  }
  return edges;
}
/** Microseconds of the quickest way to each node, by relaxing until nothing changes. */
function plainTimes(g: Graph, start: number, back: boolean): Map<number, number> {
  const times = new Map([[start, 0]]);
  const edges = plainEdges(g, back);
  for (let changed = true; changed;) {
    changed = false;
    for (const { from, to, us } of edges) {
      const at = times.get(from);
      if (at === undefined || at + us >= (times.get(to) ?? Infinity)) continue;
      times.set(to, at + us);
      changed = true;
    }
  }
  return times;
}

function range(from: number, to: number): number[] {
  return Array.from({ length: to - from }, (_, i) => from + i);
}
/** The node of an entry that stands for one event or action. */
function nodeNamed(g: Graph, { at, name, kind }: Ripple['entries'][number]): number {
  const instance = range(0, g.x.count).find((i) => g.x.address(i) === at[0])!;
  const { eventAt, actionAt, events } = g.x.assetOf(instance);
  const own = kind === 'event' ? eventAt.get(name)! : events.length + actionAt.get(name)!;
  return g.x.nodeBase[instance] + own;
}

describe('a ripple over random projects', () => {
  const cases: { g: Graph; ask: RippleAsk; node: number; ripple: Ripple }[] = [];
  for (let seed = 1; seed <= 60; seed++) {
    const g = graphOf(randomProject(seed));
    for (let i = 0; i < g.x.count; i++) {
      const { events, actions } = g.x.assetOf(i);
      const at = g.x.address(i);
      const names = [...events.slice(0, 2), ...actions.slice(0, 1)];
      for (const { name } of names) {
        const isEvent = events.some((e) => e.name === name);
        if (isEvent && actions.some((a) => a.name === name)) continue;
        const own = isEvent
          ? events.findIndex((e) => e.name === name)
          : events.length + actions.findIndex((a) => a.name === name);
        for (const way of ['on', 'back'] as const) {
          const ask: RippleAsk = { start: { at, name }, way, fold: Infinity };
          cases.push({ g, ask, node: g.x.nodeBase[i] + own, ripple: rippleOf(g, ask)! });
        }
      }
    }
  }

  it('holds every action and channel that can be reached, once, with the time of the quickest way', () => {
    let actions = 0;
    for (const { g, ask, node, ripple } of cases) {
      const times = plainTimes(g, node, ask.way === 'back');
      const expected = [...times]
        .filter(([n]) => n !== node && (isAction(g, n) || n >= g.channelBase))
        .map(([, us]) => us / 1e6)
        .sort((a, b) => a - b);
      const found = ripple.entries
        .filter((e) => e.hop > 0 && e.kind !== 'event')
        .map((e) => e.time)
        .sort((a, b) => a - b);
      expect(found).toEqual(expected);
      actions += expected.length;
      expect(new Set(ripple.entries.map((e) => e.key)).size).toBe(ripple.entries.length);
    }
    expect(actions).toBeGreaterThan(800);
  });

  it('leads on from column to column; only what returns leads back, and only that', () => {
    let returns = 0;
    for (const { ripple } of cases) {
      const hop = new Map(ripple.entries.map((e) => [e.key, e.hop]));
      for (const l of ripple.links) {
        expect(l.returns).toBe(hop.get(l.to)! <= hop.get(l.from)!);
        if (l.returns) returns++;
      }
      // Everything but the start is come to from an earlier column.
      const come = new Set(ripple.links.filter((l) => !l.returns).map((l) => l.to));
      for (const e of ripple.entries) if (e.hop > 0) expect(come.has(e.key)).toBe(true);
    }
    expect(returns).toBeGreaterThan(25);
  });

  it('is as long as the audit counts chains, where there is no cycle', () => {
    let compared = 0;
    for (const { g, ask, node, ripple } of cases) {
      if (ask.way === 'back' || isAction(g, node)) continue;
      const ctx = new AuditContext(g, '2026-11-24');
      const k = ctx.components.of[node];
      const { length, cyclic } = ctx.chains;
      if (cyclic[k] === 1 || ripple.links.some((l) => l.cycle)) {
        expect(ripple.longest).toBeLessThanOrEqual(length[k]);
        continue;
      }
      compared++;
      expect(ripple.longest).toBe(length[k]);
      const { heaviest } = rippleOf(g, ask, ctx)!;
      expect(heaviest!.hops).toBe(length[k]);
      const kinds = new Map(ripple.entries.map((e) => [e.key, e.kind]));
      expect(heaviest!.keys.filter((key) => kinds.get(key) === 'action')).toHaveLength(length[k]);
    }
    expect(compared).toBeGreaterThan(100);
  });

  it('folds copies at the same hop, and opens them again', () => {
    let folds = 0;
    for (const { g, ask, ripple } of cases) {
      const folded = rippleOf(g, { ...ask, fold: 2 })!;
      const count = (r: Ripple): number => r.entries.reduce((n, e) => n + e.count, 0);
      expect(count(folded)).toBe(count(ripple));
      const groups = folded.entries.filter((e) => e.count > 1);
      folds += groups.length;
      const opened = rippleOf(g, { ...ask, fold: 2, open: groups.map((e) => e.key) })!;
      expect(opened.entries).toHaveLength(ripple.entries.length);
    }
    expect(folds).toBeGreaterThan(50);
  });

  it('says of a link what must hold, unless some way on it asks nothing', () => {
    const counts = { asks: 0, free: 0 };
    for (const { g, ask, node, ripple } of cases) {
      if (ask.way === 'back') continue;
      const asks = (edge: number, tail: number): boolean =>
        (bindingOfEdge(g, edge)?.binding.if ?? []).length > 0 ||
        (g.ref[edge] < 0 && effectOfEdge(g, edge, tail).effect.when !== undefined);
      const edgesOf = (n: number): number[] => range(g.first[n], g.first[n + 1]);
      const nodes = new Map(ripple.entries.map((e) => [e.key, e.kind === 'channel' ? -1 : nodeNamed(g, e)]));
      for (const l of ripple.links) {
        const [from, to] = [nodes.get(l.from)!, nodes.get(l.to)!];
        if (from < 0 || to < 0) continue;
        const ways = edgesOf(from).flatMap((e): boolean[] => {
          if (g.head[e] === to) return [asks(e, from)];
          const next = g.head[e];
          if (next === node || !isEvent(g, next)) return [];
          return edgesOf(next)
            .filter((f) => g.head[f] === to)
            .map((f) => asks(e, from) || asks(f, next));
        });
        expect(ways.length).toBeGreaterThan(0);
        expect(l.asks.length > 0).toBe(!ways.includes(false));
        if (l.asks.length > 0) expect(['limited', 'conditional']).toContain(l.class);
        counts[l.asks.length > 0 ? 'asks' : 'free']++;
      }
    }
    expect(counts.asks).toBeGreaterThan(50);
    expect(counts.free).toBeGreaterThan(30);
  });

  it('is said in full by its list, each entry once', () => {
    for (const { ripple } of cases) {
      const lines = rippleLines(ripple);
      const entries = lines.filter((l) => l.kind === 'entry').map((l) => l.key);
      expect(entries.sort()).toEqual(ripple.entries.map((e) => e.key).sort());
      expect(lines.filter((l) => l.kind === 'returns')).toHaveLength(
        ripple.links.filter((l) => l.returns).length,
      );
    }
  });

  it('lies in rows and columns that do not overlap, in the order of hops or of time', () => {
    for (const { ripple } of cases) {
      for (const axis of ['hops', 'time'] as const) {
        const { columns, column, y } = layRipple(ripple, axis);
        const taken = new Set<string>();
        ripple.entries.forEach((_, i) => {
          expect(y[i] % RIPPLE_ROW).toBe(0);
          taken.add(`${column[i]}/${y[i]}`);
        });
        expect(taken.size).toBe(ripple.entries.length);
        const along = columns.map((c) => (axis === 'time' ? c.time : c.hop));
        expect(along).toEqual([...along].sort((a, b) => a - b));
      }
    }
  });
});

const bind = (id: string, from: string, to: string, more = {}): object => {
  const [a, event] = from.split('.');
  const [b, action] = to.split('.');
  return { id, from: { at: a, event }, to: { at: b, action }, ...more };
};
const storm = {
  format: 'oquel.project/1',
  name: 'Veyra',
  channels: [{ name: 'weather' }],
  assets: [
    {
      id: 'ridge',
      kind: 'scene',
      placements: [
        { id: 'mast', asset: 'Mast' },
        { id: 'lamp', asset: 'Lamp', asleep: true },
        ...[1, 2, 3, 4, 5].map((n) => ({ id: `horn-${n}`, asset: 'Horn' })),
      ],
      bindings: [
        {
          id: 'all',
          from: { at: 'mast', event: 'onGust' },
          to: { every: 'Horn', action: 'sound' },
          delay: 0.5,
        },
        { id: 'tell', from: { at: 'mast', event: 'onGust' }, to: { channel: 'weather', key: 'storm' } },
        { id: 'hear', from: { channel: 'weather', key: 'storm' }, to: { at: 'lamp', action: 'light' } },
        bind('round', 'lamp.onLit', 'mast.turn'),
        bind('back', 'mast.onTurned', 'lamp.light'),
      ],
    },
    {
      id: 'Mast',
      kind: 'prefab',
      tags: ['wind'],
      events: [
        { name: 'onGust', cause: { type: 'code' } },
        { name: 'onTurned', cause: { type: 'raised' } },
      ],
      actions: [{ name: 'turn', effects: [{ raise: 'onTurned', delay: 0.25 }] }],
    },
    {
      id: 'Lamp',
      kind: 'prefab',
      events: [{ name: 'onLit', cause: { type: 'raised' } }],
      actions: [{ name: 'light', whileAsleep: true, effects: [{ raise: 'onLit' }] }],
    },
    { id: 'Horn', kind: 'prefab', tags: ['sound'], actions: [{ name: 'sound' }] },
  ],
} as unknown as Project;

describe('a ripple of the storm', () => {
  const g = graphOf(storm);
  const on: RippleAsk = { start: { at: 'ridge:mast', name: 'onGust' }, way: 'on' };
  const said = (r: Ripple): string[] => rippleLines(r).map((l) => `${'  '.repeat(l.depth)}${l.text}`);

  it('says at the line what is asked', () => {
    const [ridge, ...others] = storm.assets;
    const bindings = ridge.bindings!.map((b) => ({ ...b, if: [{ property: 'calm', is: false }] }));
    const asking = graphOf({ ...storm, assets: [{ ...ridge, bindings }, ...others] });
    const r = rippleOf(asking, on)!;
    expect(r.links[0].asks).toEqual(['if @calm = false']);
    expect(rippleLines(r)[1].text).toBe('Horn.sound x 5, after 0.5s, if @calm = false');
  });
  it('reads in order, with copies folded and the return told with its class', () => {
    expect(said(rippleOf(g, on)!)).toEqual([
      'ridge:mast.onGust',
      '  Horn.sound x 5, after 0.5s',
      '  #weather["storm"]',
      '    ridge:lamp.light, asleep at first',
      '      ridge:mast.turn, by onLit',
      '        returns (delayed) to ridge:lamp.light',
    ]);
  });
  it('runs back to what could have caused it', () => {
    const back = rippleOf(g, { start: { at: 'ridge:lamp', name: 'light' }, way: 'back' })!;
    expect(said(back)).toEqual([
      'ridge:lamp.light, asleep at first',
      '  ridge:mast.turn, by onTurned, after 0.25s',
      '    returns (instant) to ridge:lamp.light',
      '  #weather["storm"]',
      '    ridge:mast.onGust, from outside',
    ]);
  });
  it('begins at an asset, an instance or a channel as well; null for what is not there', () => {
    const texts = (start: RippleAsk['start']): string[] | undefined =>
      rippleOf(g, { start, way: 'on' })
        ?.entries.filter((e) => e.hop === 0)
        .map(entryText);
    expect(texts({ asset: 'Mast' })).toEqual(['ridge:mast.onGust', 'ridge:mast.onTurned']);
    expect(texts({ at: 'ridge:lamp' })).toEqual(['ridge:lamp.onLit']);
    expect(texts({ channel: 'weather' })).toEqual(['#weather["storm"]']);
    for (const start of [{ at: 'ridge:nobody' }, { at: 'nowhere' }, { asset: 'X' }, { channel: 'x' }]) {
      expect(rippleOf(g, { start, way: 'on' })).toBeNull();
    }
  });
  it('marks what falls away in a trial', () => {
    const muted = structuredClone(storm);
    muted.assets[0].bindings![1].enabled = false;
    const kept = reachedNames(graphOf(muted), on);
    const gone = rippleOf(g, on, null, kept)!.entries.filter((e) => e.gone);
    expect(gone.map(entryText)).toEqual(['#weather["storm"]', 'ridge:lamp.light', 'ridge:mast.turn']);
  });
  it('is narrowed to an asset, scene or tag, with the ways that lead there', () => {
    const ripple = rippleOf(g, on)!;
    const texts = (filter: Parameters<typeof narrowed>[1]): string[] =>
      narrowed(ripple, filter).entries.map(entryText);
    expect(texts({ asset: 'Lamp' })).toEqual(['ridge:mast.onGust', '#weather["storm"]', 'ridge:lamp.light']);
    expect(texts({ tag: 'sound' })).toEqual(['ridge:mast.onGust', 'Horn.sound x 5']);
    expect(texts({ scene: 'refuge' })).toEqual(['ridge:mast.onGust']);
    expect(narrowed(ripple, {})).toBe(ripple);
  });
});
