import { describe, expect, it } from '@jest/globals';
import { applyChanges, buildGraph, expand, indexProject, stronglyConnected } from '../src/index.js';
import { neverRaisedNodes } from '../src/audit/never-raised-nodes.js';
import { AuditContext } from '../src/audit/context.js';
import { liveness, reviseLiveness } from '../src/audit/live.js';
import { chainLengths, heaviestPath, reviseChains } from '../src/graph/chains.js';
import { componentsHold } from '../src/graph/components.js';
import { fanOuts, reviseFanOuts } from '../src/graph/fan-out.js';
import type { Graph } from '../src/graph/graph.js';
import { patchGraph, type GraphDelta } from '../src/graph/patch.js';
import { reachBounds, reviseReachBounds } from '../src/graph/reach-bounds.js';
import { publishersTo } from '../src/audit/kept.js';
import { alignLists } from '../src/util/align-lists.js';
import { Random } from './random.js';
import { randomBindingChange } from './random-change.js';
import { randomProject } from './random-project.js';

interface Step {
  seed: number;
  before: Graph;
  /** Null where the graph had to be built anew. */
  delta: GraphDelta | null;
  scratch: Graph;
}

/** Random edits of bindings in random projects, each with the graph before and after. */
function* steps(seeds: number, edits: number): Iterable<Step> {
  for (let seed = 0; seed < seeds; seed++) {
    const r = new Random(seed);
    let project = randomProject(seed);
    let before = buildGraph(expand(indexProject(project)));
    for (let i = 0; i < edits; i++) {
      const change = randomBindingChange(r, project);
      if (!change) break;
      project = applyChanges(project, [change]).project;
      const index = indexProject(project);
      const delta = patchGraph(before, before.x.withBindingsOf(index));
      const scratch = buildGraph(expand(index));
      yield { seed, before, delta, scratch };
      before = delta?.graph ?? scratch;
    }
  }
}

/** A graph with its keys as values: the numbers of values depend on the order in which they were met. */
function plain(g: Graph): unknown {
  const key = (n: number): unknown => (n < 0 ? n : g.values.value(n));
  const records = (list: Int32Array, stride: number): unknown[] =>
    Array.from({ length: list.length / stride }, (_, r) =>
      [...list.subarray(r * stride, (r + 1) * stride)].map((n, k) => (k === 2 ? key(n) : n)),
    );
  return {
    nodes: g.nodes,
    channels: [...g.channelOf].map((c, i) => [c, key(g.keyOf[i])]),
    first: g.first,
    head: g.head,
    meta: g.meta,
    ref: g.ref,
    faulty: g.faulty,
    selections: g.selections,
    publications: records(g.publications, 4),
    hearings: records(g.hearings, 5),
    countsAsBound: g.countsAsBound,
    expandedBindings: g.expandedBindings,
  };
}

describe('a graph patched after an edit of bindings', () => {
  it('is the graph built anew, and most edits can be patched', () => {
    let patched = 0;
    let rebuilt = 0;
    for (const { seed, delta, scratch } of steps(300, 6)) {
      if (!delta) rebuilt++;
      else {
        patched++;
        expect({ seed, graph: plain(delta.graph) }).toEqual({ seed, graph: plain(scratch) });
      }
    }
    expect(patched).toBeGreaterThan(3 * rebuilt);
  });

  it('has components that hold only if they are those found anew', () => {
    let held = 0;
    for (const { seed, before, delta } of steps(150, 6)) {
      const c = stronglyConnected(before);
      if (!delta || !componentsHold(c, delta)) continue;
      held++;
      const anew = stronglyConnected(delta.graph);
      const sameParts = new Map<number, number>();
      for (let n = 0; n < delta.graph.nodes; n++) {
        expect({ seed, n, part: sameParts.get(c.of[n]) ?? anew.of[n] }).toEqual({
          seed,
          n,
          part: anew.of[n],
        });
        sameParts.set(c.of[n], anew.of[n]);
        for (let e = delta.graph.first[n]; e < delta.graph.first[n + 1]; e++) {
          expect(c.of[delta.graph.head[e]]).toBeLessThanOrEqual(c.of[n]);
        }
      }
      expect(sameParts.size).toBe(anew.count);
    }
    expect(held).toBeGreaterThan(200);
  });

  it('has the chains, reaches and fan-outs of a graph built anew', () => {
    let revised = 0;
    for (const { seed, before, delta } of steps(300, 6)) {
      const c = stronglyConnected(before);
      if (!delta || !componentsHold(c, delta)) continue;
      const { graph: g, tails } = delta;
      const chains = reviseChains(g, c, chainLengths(before, c), tails);
      const bounds = reviseReachBounds(g, c, reachBounds(before, c, 4), tails, 4);
      const events = [...tails.filter((n) => n < g.channelBase), ...publishersTo(g, tails)];
      expect({ seed, chains }).toEqual({ seed, chains: chainLengths(g, c) });
      expect({ seed, bounds }).toEqual({ seed, bounds: reachBounds(g, c, 4) });
      expect({ seed, fan: reviseFanOuts(g, fanOuts(before), events) }).toEqual({ seed, fan: fanOuts(g) });
      if (tails.length > 0) revised++;
    }
    expect(revised).toBeGreaterThan(100);
  });

  it.each([true, false])('has the same nodes alive as one built anew (sleep counts: %s)', (sleep) => {
    let revised = 0;
    let lost = 0;
    for (const { seed, before, delta } of steps(400, 6)) {
      if (!delta) continue;
      const extra = (g: Graph): number[] =>
        sleep ? [] : neverRaisedNodes(new AuditContext(g, '2026-11-25'));
      const old = liveness(before, sleep, extra(before));
      const now = reviseLiveness(old, delta, sleep, extra(delta.graph));
      if (!now) continue;
      const { live, blocked, reached } = liveness(delta.graph, sleep, extra(delta.graph));
      expect({ seed, live: now.live, blocked: now.blocked, reached: now.reached }).toEqual({
        seed,
        live,
        blocked,
        reached,
      });
      revised++;
      if (live.some((alive, n) => alive < old.live[n])) lost++;
    }
    expect(revised).toBeGreaterThan(500);
    expect(lost).toBeGreaterThan(20);
  });

  it('has an evidence of the heaviest path that does not depend on how components are numbered', () => {
    for (const { seed, before, delta } of steps(60, 4)) {
      const c = stronglyConnected(before);
      if (!delta || !componentsHold(c, delta)) continue;
      const { graph: g } = delta;
      const anew = stronglyConnected(g);
      for (let n = 0; n < g.nodes; n++) {
        const path = heaviestPath(g, c, chainLengths(g, c), n);
        expect({ seed, n, path }).toEqual({ seed, n, path: heaviestPath(g, anew, chainLengths(g, anew), n) });
      }
    }
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
