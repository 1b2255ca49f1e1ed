import { describe, expect, it } from '@jest/globals';
import {
  buildGraph,
  EDGE_CLASSES,
  EDGE_KINDS,
  expand,
  indexProject,
  isAction,
  isChannel,
  isEvent,
  readProject,
  type Graph,
} from '../src/index.js';
import { nodeRef } from '../src/audit/names.js';
import { chainLengths, heaviestPath } from '../src/graph/chains.js';
import { componentsOf, stronglyConnected } from '../src/graph/components.js';
import { cycleGroups, cyclicParts, shortestCycle } from '../src/graph/cycles.js';
import { fanOuts } from '../src/graph/fan-out.js';
import { channelNode, Naive } from './naive.js';
import { randomProject } from './random-project.js';

const SEEDS = Array.from({ length: 400 }, (_, i) => i + 1);
const graphOf = (seed: number): Graph => {
  const { project } = readProject(randomProject(seed));
  return buildGraph(expand(indexProject(project)));
};
function nodeName(g: Graph, node: number): string {
  const ref = nodeRef(g, node);
  return ref.at === undefined ? channelNode(ref.name, ref.key) : `${ref.at} ${ref.name}`;
}

describe('expansion and graph', () => {
  it('are those of a plain reading of the rules, on random projects', () => {
    for (const seed of SEEDS) {
      const project = randomProject(seed);
      const naive = new Naive(project);
      const g = graphOf(seed);
      const { x } = g;
      const addresses = Array.from({ length: x.count }, (_, i) => x.address(i));
      expect({ seed, addresses }).toEqual({ seed, addresses: naive.instances.map((i) => i.address) });
      const edges: string[] = [];
      for (let n = 0; n < g.nodes; n++) {
        for (let e = g.first[n]; e < g.end[n]; e++) {
          const [kind, cls] = [EDGE_KINDS[g.meta[e] >> 2], EDGE_CLASSES[g.meta[e] & 3]];
          edges.push(`${nodeName(g, n)} -> ${nodeName(g, g.head[e])} ${kind} ${cls}`);
        }
      }
      const expected = naive.edges().map((e) => `${e.tail} -> ${e.head} ${e.kind} ${e.class}`);
      expect({ seed, edges: edges.sort() }).toEqual({ seed, edges: expected.sort() });
    }
  });
});

/** Which nodes each node reaches, by doing it. */
function reaches(g: Graph, minClass = 0): Set<number>[] {
  return Array.from({ length: g.nodes }, (_, from) => {
    const seen = new Set<number>();
    const stack = [from];
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      for (let e = g.first[at]; e < g.end[at]; e++) {
        if ((g.meta[e] & 3) < minClass || seen.has(g.head[e])) continue;
        seen.add(g.head[e]);
        stack.push(g.head[e]);
      }
    }
    return seen;
  });
}

describe('on random graphs', () => {
  it('components are mutual reach, and edges between them lead to smaller numbers', () => {
    for (const seed of SEEDS.slice(0, 150)) {
      const g = graphOf(seed);
      const c = stronglyConnected(g);
      const r = reaches(g);
      const wrong: string[] = [];
      for (let a = 0; a < g.nodes; a++) {
        for (let b = 0; b < g.nodes; b++) {
          const together = a === b || (r[a].has(b) && r[b].has(a));
          if ((c.of[a] === c.of[b]) !== together) wrong.push(`${seed}: ${a} and ${b}`);
        }
        for (let e = g.first[a]; e < g.end[a]; e++)
          if (c.of[g.head[e]] > c.of[a]) wrong.push(`${seed}: edge ${e}`);
      }
      expect(wrong).toEqual([]);
    }
  });

  it('chains are the heaviest way through the condensation, and the path given has that weight', () => {
    for (const seed of SEEDS.slice(0, 150)) {
      const g = graphOf(seed);
      const { components: c, order } = componentsOf(g);
      const chains = chainLengths(g, c, order);
      const r = reaches(g);
      const memo = new Map<number, { length: number; cyclic: boolean }>();
      const weigh = (k: number): { length: number; cyclic: boolean } => {
        const known = memo.get(k);
        if (known) return known;
        const members = [...g.instanceOf.keys()].filter((n) => c.of[n] === k);
        const cyclic = members.some((n) => r[n].has(n));
        const nexts = new Set(
          members.flatMap((n) => [...g.head.subarray(g.first[n], g.end[n])].map((h) => c.of[h])),
        );
        nexts.delete(k);
        const ahead = [...nexts].map(weigh);
        const best = Math.max(0, ...ahead.map((a) => a.length));
        const result = {
          length: best + members.filter((n) => isAction(g, n)).length,
          cyclic: cyclic || ahead.some((a) => a.length === best && a.cyclic),
        };
        memo.set(k, result);
        return result;
      };
      for (let n = 0; n < g.nodes; n++) {
        const k = c.of[n];
        expect({ seed, n, length: chains.length[n] }).toEqual({ seed, n, length: weigh(k).length });
        expect(chains.cyclic[n] === 1).toBe(weigh(k).cyclic);
        const path = heaviestPath(g, c, chains, n);
        const components = new Set([n, ...path.edges.map((e) => g.head[e])].map((m) => c.of[m]));
        const weight = [...g.instanceOf.keys()].filter(
          (m) => isAction(g, m) && components.has(c.of[m]),
        ).length;
        expect(weight).toBe(chains.length[n]);
        // Each edge begins where the one before it ends, and belongs to that node.
        const at = [n, ...path.edges.map((e) => g.head[e])].slice(0, -1);
        expect([...path.tails]).toEqual(at);
        path.edges.forEach((e, i) => expect(e >= g.first[at[i]] && e < g.end[at[i]]).toBe(true));
      }
    }
  });

  it('fan-out counts the distinct actions reached directly', () => {
    for (const seed of SEEDS.slice(0, 150)) {
      const g = graphOf(seed);
      const fan = fanOuts(g);
      for (let n = 0; n < g.nodes; n++) {
        const direct = new Set<number>();
        for (const head of isEvent(g, n) ? g.head.subarray(g.first[n], g.end[n]) : []) {
          if (!isChannel(g, head)) direct.add(head);
          else for (const a of g.head.subarray(g.first[head], g.end[head])) direct.add(a);
        }
        expect(fan[n]).toBe(direct.size);
      }
    }
  });

  it('cycle levels hold exactly the own-class edges that lie on a cycle of the level', () => {
    for (const seed of SEEDS.slice(0, 150)) {
      const g = graphOf(seed);
      const groups = cyclicParts(g).flatMap((part) => cycleGroups(g, part));
      const found = groups.flatMap((group) => [...group.edges]).sort((a, b) => a - b);
      const expected: number[] = [];
      const levels = [0, 1, 2, 3].map((cls) => reaches(g, cls));
      for (let n = 0; n < g.nodes; n++) {
        for (let e = g.first[n]; e < g.end[n]; e++) {
          if (g.head[e] === n || levels[g.meta[e] & 3][g.head[e]].has(n)) expected.push(e);
        }
      }
      expect({ seed, found }).toEqual({ seed, found: expected.sort((a, b) => a - b) });
      for (const group of groups) {
        const cycle = shortestCycle(g, group);
        expect(cycle.edges.some((e) => (g.meta[e] & 3) === group.cls)).toBe(true);
        cycle.edges.forEach((e, i) => {
          expect(g.meta[e] & 3).toBeGreaterThanOrEqual(group.cls);
          expect(g.head[e]).toBe(cycle.tails[(i + 1) % cycle.tails.length]);
        });
      }
    }
  });

  it('does not recurse: a chain of 30 000 hops is walked', () => {
    const length = 30_000;
    const project = {
      format: 'oquel.project/1' as const,
      name: 'long',
      assets: [
        {
          id: 'ridge',
          kind: 'scene' as const,
          placements: Array.from({ length }, (_, i) => ({ id: `w${i}`, asset: 'Winch' })),
          bindings: Array.from({ length: length - 1 }, (_, i) => ({
            id: `b${i}`,
            from: { at: `w${i}`, event: 'onStopped' },
            to: { at: `w${i + 1}`, action: 'stop' },
          })),
        },
        {
          id: 'Winch',
          kind: 'prefab' as const,
          events: [{ name: 'onStopped', cause: { type: 'code' as const } }],
          actions: [{ name: 'stop', effects: [{ raise: 'onStopped' }] }],
        },
      ],
    };
    const g = buildGraph(expand(indexProject(project)));
    const { components, order } = componentsOf(g);
    expect(Math.max(...chainLengths(g, components, order).length)).toBe(length - 1 + 1);
  });
});
