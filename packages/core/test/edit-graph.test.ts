import { describe, expect, it } from '@jest/globals';
import {
  applyChanges,
  buildGraph,
  expand,
  indexProject,
  reindexProject,
  type Project,
} from '../src/index.js';
import { Facts, type FactChanges } from '../src/audit/facts/facts.js';
import { ComponentEdits } from '../src/graph/component-edits.js';
import { componentsOf } from '../src/graph/components.js';
import { GraphEditor } from '../src/graph/edit-graph.js';
import type { GraphDelta } from '../src/graph/graph-delta.js';
import {
  compareNodes,
  isChannel,
  NO_KEY,
  UNUSED,
  type BindingRecords,
  type Graph,
} from '../src/graph/graph.js';
import { Incoming } from '../src/graph/incoming.js';
import { canonicalJson } from '../src/project/canonical.js';
import { distinct } from '../src/project/distinct.js';
import { alignLists } from '../src/util/align-lists.js';
import { nodeRef } from '../src/audit/names.js';
import { Random, seeds } from './random.js';
import { randomBindingChange } from './random-change.js';
import { expectSame } from './expect-same.js';
import { randomProject } from './random-project.js';

interface Step {
  at: { seed: number; i: number };
  /** The graph that is edited in place, after the edit. */
  g: Graph;
  editor: GraphEditor;
  delta: GraphDelta;
  /** One that was built anew. */
  scratch: Graph;
}

/** Random edits of bindings in random projects, some of several bindings at once. */
function* steps(count: number, edits: number, open: (g: Graph, incoming: Incoming) => void): Iterable<Step> {
  for (let seed = 0; seed < count; seed++) {
    const r = new Random(seed);
    let project = distinct(randomProject(seed));
    let editor = opened(project, open);
    for (let i = 0; i < edits; i++) {
      for (let k = r.int(3); k >= 0; k--) {
        const change = randomBindingChange(r, project);
        if (change) project = applyChanges(project, [change]).project;
      }
      const { g } = editor;
      const delta = editor.edit(reindexProject(g.x.index, project));
      // A prefab has room for a few bindings more.
      if (delta)
        yield {
          at: { seed, i },
          g,
          editor,
          delta,
          scratch: buildGraph(expand(indexProject(project), 'for edits')),
        };
      else editor = opened(project, open);
    }
  }
}
function opened(project: Project, open: (g: Graph, incoming: Incoming) => void): GraphEditor {
  const g = buildGraph(expand(indexProject(project), 'for edits'));
  const incoming = new Incoming(g);
  const editor = new GraphEditor(g, incoming);
  open(g, incoming);
  return editor;
}

/** Names for the nodes of a graph; those of channel nodes depend on the order in which they were named. */
function nodeName(g: Graph, n: number): string {
  return canonicalJson(nodeRef(g, n));
}
function isThere(g: Graph, n: number): boolean {
  if (g.action[n] === UNUSED) return false;
  return !isChannel(g, n) || g.channels.channel[-1 - g.instanceOf[n]] >= 0;
}
function nodesOf(g: Graph): number[] {
  const nodes = Array.from({ length: g.nodes }, (_, n) => n).filter((n) => isThere(g, n));
  return nodes.sort((a, b) => compareNodes(g, a, b));
}

/** A graph in names, with its edges in their order. */
function plain(g: Graph): unknown {
  const { x } = g;
  const names = new Map<number, string>();
  const named = (n: number): string => {
    const name = names.get(n) ?? nodeName(g, n);
    names.set(n, name);
    return name;
  };
  const key = (n: number): unknown => (n < 0 ? n : g.values.value(n));
  const rows = (list: readonly number[], stride: number): unknown[] =>
    Array.from({ length: list.length / stride }, (_, r) =>
      list.slice(r * stride, (r + 1) * stride).map((n, k) => (k === 2 ? key(n) : n)),
    );
  const records = (r: BindingRecords): unknown => ({
    ...r,
    publications: rows(r.publications, 4),
    hearings: rows(r.hearings, 5),
  });
  const authored = [...g.records].map(([number, r]) => {
    const asset = x.slots.assetOf(number);
    return [`${asset}/${x.slots.position(asset, number - x.slots.base[asset])}`, records(r)] as const;
  });
  return {
    edges: nodesOf(g).map((n) => {
      const edges = [];
      for (let e = g.first[n]; e < g.end[n]; e++) {
        const by = g.ref[e] < 0 ? g.ref[e] : `${x.ownerOf(g.ref[e])}/${x.positionOf(g.ref[e])}`;
        edges.push([named(g.head[e]), g.meta[e], by]);
      }
      // Whoever listens without a key has an edge from each node of the channel, in the order in which they were named.
      return [named(n), edges];
    }),
    count: g.edges,
    records: Object.fromEntries(authored),
    counted: g.countsAsBound,
    expandedBindings: g.expandedBindings,
  };
}

describe('a graph edited in place', () => {
  it('is the graph built anew, and so is what leads to each node', () => {
    let incoming!: Incoming;
    for (const { at, g, scratch } of steps(seeds(80), 6, (_, i) => (incoming = i))) {
      expectSame(plain(g), plain(scratch), at);
      const tails = (all: Incoming): number[][] =>
        Array.from({ length: g.nodes }, (_, n) => [...all.tails(n)].sort());
      expectSame(tails(incoming), tails(new Incoming(g)), at);
      const channels = g.x.index.project.channels ?? [];
      for (let c = 0; c < channels.length; c++) {
        for (const counts of ['published', 'heard'] as const) {
          expect(g[counts].any(c)).toBe(scratch[counts].any(c));
          expect(g[counts].has(c, NO_KEY)).toBe(scratch[counts].has(c, NO_KEY));
        }
      }
    }
  });

  it('says which edges came and went', () => {
    let before: string[] = [];
    const edges = (g: Graph): string[] =>
      nodesOf(g).flatMap((n) => Array.from(g.head.subarray(g.first[n], g.end[n]), (head) => `${n} ${head}`));
    for (const { at, g, delta } of steps(seeds(80), 6, (g) => (before = edges(g)))) {
      const expected = new Map<string, number>();
      const count = (edge: string, times: number): unknown =>
        expected.set(edge, (expected.get(edge) ?? 0) + times);
      before.forEach((e) => count(e, 1));
      delta.removed.tails.forEach((tail, i) => count(`${tail} ${delta.removed.heads[i]}`, -1));
      delta.added.tails.forEach((tail, i) => count(`${tail} ${delta.added.heads[i]}`, 1));
      const now = edges(g);
      now.forEach((e) => count(e, -1));
      expect({ at, left: [...expected].filter(([, n]) => n !== 0) }).toEqual({ at, left: [] });
      before = now;
    }
  });

  it('has the components of one built anew, and edges between them lead to smaller ranks', () => {
    let edits!: ComponentEdits;
    let joined = 0;
    const open = (g: Graph, incoming: Incoming): void => {
      edits = new ComponentEdits(g, incoming, componentsOf(g).components, g.nodes);
    };
    for (const { at, g, delta } of steps(seeds(250), 8, open)) {
      expect(edits.follow(delta)).not.toBeNull();
      const { of, rank, groups } = edits.components;
      const anew = componentsOf(g).components;
      const wrong: unknown[] = [];
      const pairs = new Map<number, number>();
      for (let n = 0; n < g.nodes; n++) {
        if ((pairs.get(of[n]) ?? anew.of[n]) !== anew.of[n]) wrong.push(n);
        pairs.set(of[n], anew.of[n]);
        for (let e = g.first[n]; e < g.end[n]; e++) {
          const to = of[g.head[e]];
          if (to !== of[n] && rank[to] >= rank[of[n]]) wrong.push([n, g.head[e]]);
        }
      }
      expect({ at, wrong, parts: new Set(pairs.values()).size }).toEqual({
        at,
        wrong: [],
        parts: pairs.size,
      });
      expect([...groups.values()].reduce((sum, own) => sum + own.length, 0)).toBe(
        [...anew.groups.values()].reduce((sum, own) => sum + own.length, 0),
      );
      joined += groups.size;
    }
    expect(joined).toBeGreaterThan(seeds(50));
  });

  it('has the facts of one built anew, and says which of them changed', () => {
    let facts!: Facts;
    let before: Record<string, number[]> = {};
    const MAX_REACH = 4;
    const noted = (g: Graph, f: Facts): Record<string, number[]> => {
      const nodes = Array.from({ length: g.nodes }, (_, n) => (isThere(g, n) ? n : -1));
      return {
        hasBinding: nodes.map((n) => f.hasBinding[n] ?? 0),
        length: nodes.map((n) => f.chains.length[n] ?? 0),
        cyclic: nodes.map((n) => f.chains.cyclic[n] ?? 0),
        bound: nodes.map((n) => f.reachBounds[n] ?? 0),
        livable: nodes.map((n) => f.livable.live[n] ?? 0),
        blocked: [...f.awake.blocked],
        gaps: nodes.map((n) => Number(f.spawnGaps.nodes.has(n))),
      };
    };
    const figures = (f: Facts): unknown => [
      f.longestChains.greatest,
      f.widths.greatest,
      f.cyclic.size,
      [...f.neverRaised].sort(),
    ];
    const changedBy: Record<string, keyof FactChanges> = {
      hasBinding: 'hasBinding',
      length: 'ahead',
      cyclic: 'ahead',
      bound: 'ahead',
      livable: 'livable',
      blocked: 'awake',
      gaps: 'spawnGaps',
    };
    const open = (g: Graph): void => {
      facts = new Facts(g, MAX_REACH);
      before = noted(g, facts);
    };
    const changes = new Map<string, number>();
    for (const { at, g, editor, delta } of steps(seeds(300), 8, open)) {
      const reported = facts.follow(delta, editor);
      const anew = new Facts(g, MAX_REACH);
      const now = noted(g, facts);
      expectSame(now, noted(g, anew), at);
      expectSame(figures(facts), figures(anew), at);
      const unreported: string[] = [];
      for (const [name, values] of Object.entries(now)) {
        values.forEach((value, n) => {
          const was = before[name][n] ?? 0;
          if (value === was || !isThere(g, n)) return;
          changes.set(name, (changes.get(name) ?? 0) + 1);
          // What leads nowhere and what nothing leads to is new with its channel.
          if (before[name][n] === undefined) return;
          if (!reported[changedBy[name]].has(n)) unreported.push(`${name} of ${n}`);
        });
      }
      expectSame(unreported, [], at);
      before = now;
    }
    // What wakes by wiring is looked at in a project of its own.
    const { blocked: _, ...others } = changedBy;
    for (const name of Object.keys(others)) expect([name, changes.get(name) ?? 0]).not.toEqual([name, 0]);
  });
});

describe('two states of a list', () => {
  it.each([
    ['nothing changed', 'abc', 'abc', [0, 1, 2], '', ''],
    ['one put in', 'abc', 'abxc', [0, 1, 3], '', 'x'],
    ['one taken out', 'abc', 'ac', [0, -1, 1], 'b', ''],
    ['one for another', 'abc', 'axc', [0, -1, 2], 'b', 'x'],
    ['the first moved to the end', 'abcd', 'bcda', [-1, 0, 1, 2], 'a', 'a'],
    ['the last moved to the front', 'abcd', 'dabc', [1, 2, 3, -1], 'd', 'd'],
    ['all taken out', 'ab', '', [-1, -1], 'ab', ''],
    ['all put in', '', 'ab', [], '', 'ab'],
  ])('%s', (_what, old, now, moved, gone, fresh) => {
    const a = alignLists([...old], [...now]);
    expect([...a.moved]).toEqual(moved);
    expect(a.gone.map((i) => old[i]).join('')).toBe(gone);
    expect(a.fresh.map((i) => now[i]).join('')).toBe(fresh);
  });
});
