import { describe, expect, it } from '@jest/globals';
import {
  AnalysisInputs,
  entryText,
  layRipple,
  rippleLines,
  rippleOf,
  type Graph,
  type Project,
  type Ripple,
  type RippleAsk,
} from '../src/index.js';
import { bindingOfEdge, edgeDelay, effectOfEdge, isAction, isChannel, isEvent } from '../src/graph/graph.js';
import { randomProject } from './random-project.js';
import { graphOf, bind } from './ripple-graphs.js';

/** Edges as a plain list, turned round for the way back. */
function plainEdges(g: Graph, back: boolean): { from: number; to: number; us: number }[] {
  const edges = [];
  for (let n = 0; n < g.nodes; n++) {
    for (let e = g.first[n]; e < g.end[n]; e++) {
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

/** Hops of the shortest way to each action, by relaxing until nothing changes. */
function plainHops(g: Graph, start: number, back: boolean): Map<number, number> {
  const hops = new Map([[start, 0]]);
  const edges = plainEdges(g, back);
  for (let changed = true; changed;) {
    changed = false;
    for (const { from, to } of edges) {
      const at = hops.get(from);
      if (at === undefined) continue;
      // A channel lies between two hops and is not one itself.
      const next = isAction(g, to) ? Math.floor(at) + 1 : isEvent(g, to) ? at : Math.floor(at) + 0.5;
      if (next >= (hops.get(to) ?? Infinity)) continue;
      hops.set(to, next);
      changed = true;
    }
  }
  return hops;
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
        for (const direction of ['forward', 'backward'] as const) {
          const ask: RippleAsk = { start: { at, name }, direction, fold: Infinity };
          cases.push({ g, ask, node: g.x.nodeBase[i] + own, ripple: rippleOf(g, ask)! });
        }
      }
    }
  }

  it('holds every action and channel that can be reached, once, with the time of the quickest way', () => {
    let actions = 0;
    for (const { g, ask, node, ripple } of cases) {
      const times = plainTimes(g, node, ask.direction === 'backward');
      const expected = [...times]
        .filter(([n]) => n !== node && (isAction(g, n) || isChannel(g, n)))
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

  it('stands at the hop of the shortest way, and knows the longest', () => {
    for (const { g, ask, node, ripple } of cases) {
      const hops = plainHops(g, node, ask.direction === 'backward');
      const expected = [...hops]
        .filter(([n]) => n !== node && (isAction(g, n) || isChannel(g, n)))
        .map(([, hop]) => hop)
        .sort((a, b) => a - b);
      const drawn = ripple.entries.filter((e) => e.hop > 0 && e.kind !== 'event');
      expect(drawn.map((e) => e.hop).sort((a, b) => a - b)).toEqual(expected);
      for (const e of drawn) expect(e.longest).toBeGreaterThanOrEqual(e.hop);
    }
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
      if (ask.direction === 'backward' || isAction(g, node)) continue;
      const { facts: ctx } = new AnalysisInputs(g, '2026-11-24');
      const k = node;
      const { length, cyclic } = ctx.chains;
      if (cyclic[k] === 1 || ripple.links.some((l) => l.cycle)) {
        expect(ripple.longest).toBeLessThanOrEqual(length[k]);
        continue;
      }
      compared++;
      expect(ripple.longest).toBe(length[k]);
      const { heaviest } = rippleOf(g, ask, ctx)!;
      expect(heaviest!.hops).toBe(length[k]);
      // Each hop stands at one step; the delays of the steps add up.
      const numbered = heaviest!.steps.flatMap(({ hops: [from, to] }) =>
        to === 0 ? [] : range(from, to + 1),
      );
      expect(numbered).toEqual(range(1, length[k] + 1));
      const sum = heaviest!.steps.reduce((s, { after }) => s + Math.round(after * 1e6), 0);
      expect(sum).toBe(Math.round(heaviest!.seconds * 1e6));
      const linked = new Set(rippleOf(g, ask, ctx)!.links.map((l) => `${l.from}|${l.to}`));
      heaviest!.steps.slice(1).forEach(({ key }, n) => {
        expect(linked.has(`${heaviest!.steps[n].key}|${key}`)).toBe(true);
      });
    }
    expect(compared).toBeGreaterThan(100);
  });

  it('folds copies at the same hop, and opens them again', () => {
    let folds = 0;
    for (const { g, ask, ripple } of cases) {
      const folded = rippleOf(g, { ...ask, fold: 2 })!;
      folds += folded.entries.filter((e) => e.folded).length;
      // Cycles hold copies, which open in their turn.
      const open = new Set<string>();
      let opened = folded;
      for (let more = true; more;) {
        const shut = opened.entries.filter((e) => e.folded);
        for (const e of shut) open.add(e.key);
        more = shut.length > 0;
        opened = rippleOf(g, { ...ask, fold: 2, open: [...open] })!;
      }
      expect(opened.entries).toHaveLength(ripple.entries.length);
      if (open.size > 0) expect(opened.entries.some((e) => e.within !== null)).toBe(true);
    }
    expect(folds).toBeGreaterThan(50);
  });

  it('says of a link what must hold, unless some way on it asks nothing', () => {
    const counts = { asks: 0, free: 0 };
    for (const { g, ask, node, ripple } of cases) {
      if (ask.direction === 'backward') continue;
      const asks = (edge: number, tail: number): boolean =>
        (bindingOfEdge(g, edge)?.binding.if ?? []).length > 0 ||
        (g.ref[edge] < 0 && effectOfEdge(g, edge, tail).effect.when !== undefined);
      const edgesOf = (n: number): number[] => range(g.first[n], g.end[n]);
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

  it('lies side by side without overlap, in the order of hops or true to the seconds', () => {
    for (const { ripple } of cases) {
      for (const axis of ['hops', 'time'] as const) {
        const { columns, ticks, x, y, w, h, width, height } = layRipple(ripple, axis);
        const order = ripple.entries.map((_, i) => i).sort((a, b) => x[a] - x[b]);
        order.forEach((a, n) => {
          expect(x[a] + w[a]).toBeLessThanOrEqual(width + 1e-6);
          expect(y[a] + h[a]).toBeLessThanOrEqual(height);
          for (const b of order.slice(n + 1)) {
            if (x[b] >= x[a] + w[a]) break;
            expect(y[b] >= y[a] + h[a] || y[a] >= y[b] + h[b]).toBe(true);
          }
        });
        const value = (i: number): number => ripple.entries[i][axis === 'time' ? 'time' : 'hop'];
        const along = order.map(value);
        expect(along).toEqual([...along].sort((a, b) => a - b));
        if (axis === 'hops') {
          expect(columns.reduce((n, c) => n + c.entries, 0)).toBe(ripple.entries.length);
          continue;
        }
        // An entry at the seconds of a tick stands at the tick: one scale for all.
        const last = ticks[ticks.length - 1];
        if (last.seconds > 0) {
          const scale = last.x / last.seconds;
          ripple.entries.forEach((e, i) => expect(x[i]).toBeCloseTo(e.time * scale, 4));
        }
      }
    }
  });
});

describe('a ripple in which one thing is reached soon and late', () => {
  const relay = {
    id: 'Relay',
    kind: 'prefab',
    events: [{ name: 'onOn', cause: { type: 'raised' } }],
    actions: [{ name: 'on', effects: [{ raise: 'onOn' }] }],
  };
  const yard = (placed: string[], bindings: object[]): Graph =>
    graphOf({
      format: 'oquel.project/1',
      name: 'Yard',
      assets: [
        { id: 'yard', kind: 'scene', placements: placed.map((id) => ({ id, asset: 'Relay' })), bindings },
        relay,
      ],
    } as unknown as Project);
  const start: RippleAsk = { start: { at: 'yard:a', name: 'onOn' }, direction: 'forward' };

  it('stands at its first hop, with its longest, and the longer way is a mark that is no return', () => {
    const g = yard(
      ['a', 'b', 'c'],
      [bind('1', 'a.onOn', 'b.on'), bind('2', 'b.onOn', 'c.on', { delay: 0.5 }), bind('3', 'a.onOn', 'c.on')],
    );
    const ripple = rippleOf(g, start, new AnalysisInputs(g, '2026-11-24').facts)!;
    const c = ripple.entries.find((e) => e.at[0] === 'yard:c')!;
    expect([c.hop, c.longest, c.time]).toEqual([1, 2, 0]);
    const longer = ripple.links.find((l) => l.returns)!;
    expect([longer.cycle, longer.delay]).toEqual([false, 0.5]);
    expect(ripple.heaviest!.steps.map((s) => [s.hops[0], s.after])).toEqual([
      [0, 0],
      [1, 0],
      [2, 0.5],
    ]);
    expect(ripple.heaviest!.text).toBe('2 hops');
    expect(rippleLines(ripple).map((l) => l.text)).toContain('also leads to yard:c.on (hop 1)');
  });
  it('says of a chain into a cycle how far it goes before it', () => {
    const g = yard(
      ['a', 'b', 'c', 'd'],
      [
        bind('1', 'a.onOn', 'b.on'),
        bind('2', 'b.onOn', 'c.on'),
        bind('3', 'c.onOn', 'd.on'),
        bind('4', 'd.onOn', 'c.on'),
      ],
    );
    const { heaviest, entries } = rippleOf(g, start, new AnalysisInputs(g, '2026-11-24').facts)!;
    expect([heaviest!.hops, heaviest!.text]).toEqual([3, '1 hop, then a cycle of 2']);
    expect(entries.map(entryText)).toEqual(['yard:a.onOn', 'yard:b.on', 'cycle of 2 (Relay)']);
  });
  it('folds a wide column by asset, and opens it to what it was', () => {
    const placed = Array.from({ length: 30 }, (_, i) => `r-${i}`);
    const actions = Array.from({ length: 15 }, (_, i) => ({ name: `go${i}` }));
    const g = graphOf({
      format: 'oquel.project/1',
      name: 'Yard',
      assets: [
        {
          id: 'yard',
          kind: 'scene',
          placements: [{ id: 'a', asset: 'Relay' }, ...placed.map((id) => ({ id, asset: 'Lamp' }))],
          bindings: placed.map((id, i) => bind(`b${i}`, 'a.onOn', `${id}.go${i % 15}`)),
        },
        relay,
        { id: 'Lamp', kind: 'prefab', actions },
      ],
    } as unknown as Project);
    const folded = rippleOf(g, start)!;
    expect(folded.entries.map(entryText)).toEqual(['yard:a.onOn', 'Lamp.15 actions x 30']);
    const opened = rippleOf(g, { ...start, open: [folded.entries[1].key] })!;
    expect(opened.entries).toHaveLength(31);
    expect(opened.entries[1].within).toBe(folded.entries[1].key);
  });
});
