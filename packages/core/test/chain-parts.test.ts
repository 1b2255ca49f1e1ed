import { describe, expect, it } from '@jest/globals';
import {
  audit,
  buildGraph,
  expand,
  indexProject,
  proofTracks,
  type Asset,
  type Binding,
  type EventDecl,
  type Evidence,
  type Graph,
  type Project,
} from '../src/index.js';
import { chainParts, chainText, shortestRound } from '../src/graph/chain-parts.js';
import { chainLengths, heaviestPath } from '../src/graph/chains.js';
import { componentsOf } from '../src/graph/components.js';
import { shortestPath, type GraphPath } from '../src/graph/paths.js';
import { waysTo } from '../src/graph/ways-to.js';
import { Random, seeds } from './random.js';

/** A relay passes on what reaches it; a button begins. */
const PARTS: Asset[] = [
  { id: 'Button', kind: 'prefab', events: [{ name: 'onGo', cause: { type: 'press' } }] },
  {
    id: 'Relay',
    kind: 'prefab',
    events: [{ name: 'onGo', cause: { type: 'raised' } }],
    actions: [{ name: 'go', effects: [{ raise: 'onGo' }] }],
  },
];
/** Relays wired as `a-b` says: a's event to b's action. The button is `x`. */
function wired(...pairs: string[]): Graph {
  const names = [...new Set(pairs.flatMap((p) => p.split('-')))].filter((n) => n !== 'x');
  const bindings = pairs.map((pair, i): Binding => {
    const [from, to] = pair.split('-');
    return { id: `b${i}`, from: { at: from, event: 'onGo' }, to: { at: to, action: 'go' } };
  });
  const placements = [{ id: 'x', asset: 'Button' }, ...names.map((id) => ({ id, asset: 'Relay' }))];
  const yard: Asset = { id: 'yard', kind: 'scene', placements, bindings };
  return buildGraph(
    expand(indexProject({ format: 'oquel.project/1', name: 'Yard', assets: [yard, ...PARTS] })),
  );
}
/** The node of a relay's event, or of its action. */
function nodeOf({ x }: Graph, id: string, action = 0): number {
  for (let i = 0; i < x.count; i++) if (x.address(i) === `yard:${id}`) return x.nodeBase[i] + action;
  throw new Error(id);
}

describe('a chain in words', () => {
  it.each<[string[], string]>([
    [['a-b'], '0 hops'],
    [['x-a'], '1 hop'],
    [['x-a', 'a-b', 'b-c'], '3 hops'],
    [['x-a', 'a-b', 'x-c'], '2 hops'],
    [['x-a', 'a-a'], 'a cycle of 1'],
    [['x-a', 'a-b', 'b-a'], 'a cycle of 2'],
    [['x-a', 'a-b', 'b-c', 'c-b'], '1 hop, then a cycle of 2'],
    [['x-a', 'a-b', 'b-c', 'c-b', 'c-d', 'd-e'], '1 hop, then a cycle of 2, then 2 hops'],
    [['x-a', 'a-b', 'b-a', 'b-c', 'c-d', 'd-e', 'e-c'], 'a cycle of 2, then a cycle of 3'],
    [['x-a', 'a-b', 'b-a', 'b-c', 'c-d', 'd-d'], 'a cycle of 2, then 1 hop, then a cycle of 1'],
  ])('%j: %s', (pairs, text) => {
    const g = wired(...pairs);
    const { components, order } = componentsOf(g);
    const chains = chainLengths(g, components, order);
    const parts = chainParts(g, components, chains, heaviestPath(g, components, chains, nodeOf(g, 'x')));
    expect(chainText(parts)).toBe(text);
    expect(parts.reduce((sum, p) => sum + p.hops, 0)).toBe(chains.length[nodeOf(g, 'x')]);
  });

  it('says where each stretch begins on the path', () => {
    const g = wired('x-a', 'a-b', 'b-c', 'c-b', 'c-d');
    const { components, order } = componentsOf(g);
    const chains = chainLengths(g, components, order);
    const path = heaviestPath(g, components, chains, nodeOf(g, 'x'));
    const nodes = [path.start, ...path.edges.map((e) => g.head[e])];
    const begin = chainParts(g, components, chains, path).map((p) => nodes[p.from]);
    expect(begin).toEqual([nodeOf(g, 'a', 1), nodeOf(g, 'b', 1), nodeOf(g, 'd', 1)]);
  });
});

describe('the shortest round of a node', () => {
  it.each<[string[], string, string[] | null]>([
    [['x-a', 'a-b'], 'a', null],
    [['x-a', 'a-a'], 'a', ['a', 'a']],
    [['x-a', 'a-b', 'b-a'], 'a', ['b', 'b', 'a', 'a']],
    [['x-a', 'a-b', 'b-c', 'c-a', 'a-d', 'd-a'], 'a', ['d', 'd', 'a', 'a']],
    [['x-a', 'a-d', 'd-a', 'a-b', 'b-c', 'c-a'], 'a', ['d', 'd', 'a', 'a']],
    [['x-a', 'a-d', 'd-a', 'a-b', 'b-a'], 'a', ['d', 'd', 'a', 'a']],
    [['x-a', 'a-d', 'd-a', 'a-b', 'b-c', 'c-a'], 'c', ['a', 'a', 'b', 'b', 'c', 'c']],
    [['x-a', 'a-b', 'b-c', 'c-b', 'c-d'], 'd', null],
  ])('%j, from %s', (pairs, from, expected) => {
    const g = wired(...pairs);
    const { components } = componentsOf(g);
    const round = shortestRound(g, components, nodeOf(g, from));
    const segment = (node: number): string => g.x.segment(g.instanceOf[node]);
    expect(round?.edges.map((e) => segment(g.head[e])) ?? null).toEqual(expected);
    if (!round) return;
    expect(round.start).toBe(nodeOf(g, from));
    expect(g.head[round.edges.at(-1)!]).toBe(round.start);
    round.edges.forEach((e, i) => {
      const tail = round.tails[i];
      expect(e >= g.first[tail] && e < g.end[tail]).toBe(true);
    });
  });

  it.each([
    ['is found among some thousand nodes', 2000, 4000],
    ['is not looked for among more', 6000, null],
  ])('%s', (_, relays, edges) => {
    const g = wired(...Array.from({ length: relays }, (_, i) => `a${i}-a${(i + 1) % relays}`));
    const { components } = componentsOf(g);
    expect(shortestRound(g, components, nodeOf(g, 'a7'))?.edges.length ?? null).toBe(edges);
  });
});

it('ways to a node of a component are those that a search from each other node finds', () => {
  let led = 0;
  for (let seed = 0; seed < seeds(20); seed++) {
    const r = new Random(seed);
    const g = wired(...Array.from({ length: 40 }, () => `a${r.int(15)}-a${r.int(15)}`));
    const { components: c } = componentsOf(g);
    for (const [k, members] of c.groups) {
      for (const target of members) {
        const ways = waysTo(g, c, target);
        for (const n of members) {
          const path: GraphPath = { start: n, edges: [], tails: [] };
          ways.lead(n, path);
          expect(path).toEqual(shortestPath(g, n, target, (m) => c.of[m] === k));
          led += path.edges.length;
        }
      }
    }
  }
  expect(led).toBeGreaterThan(1000);
});

it('the shortest round is the shortest of those that begin with each edge, the first of them', () => {
  let rounds = 0;
  for (let seed = 0; seed < seeds(20); seed++) {
    const r = new Random(seed);
    const g = wired(...Array.from({ length: 40 }, () => `a${r.int(15)}-a${r.int(15)}`));
    const { components: c } = componentsOf(g);
    for (let n = 0; n < g.nodes; n++) {
      let best: GraphPath | null = null;
      for (let e = g.first[n]; e < g.end[n]; e++) {
        const back = shortestPath(g, g.head[e], n, (m) => c.of[m] === c.of[n]);
        if (!back || (best && back.edges.length + 1 >= best.edges.length)) continue;
        best = { start: n, edges: [e, ...back.edges], tails: [n, ...back.tails] };
      }
      expect(shortestRound(g, c, n)).toEqual(best);
      if (best) rounds++;
    }
  }
  expect(rounds).toBeGreaterThan(10 * seeds(20));
});

it('a chain that runs into a cycle of thousands counts it, without a way round', () => {
  const actions = Array.from({ length: 6000 }, (_, i) => i);
  const yard: Asset = {
    id: 'yard',
    kind: 'scene',
    events: [
      { name: 'onGo', cause: { type: 'press' } },
      ...actions.map((i): EventDecl => ({ name: `on${i}`, cause: { type: 'raised' } })),
    ],
    actions: actions.map((i) => ({ name: `do${i}`, effects: [{ raise: `on${i}` }] })),
    bindings: [
      { id: 'go', from: { at: '.', event: 'onGo' }, to: { at: '.', action: 'do0' } },
      ...actions.map((i): Binding => {
        const to = { at: '.', action: `do${(i + 1) % actions.length}` };
        return { id: `b${i}`, from: { at: '.', event: `on${i}` }, to };
      }),
    ],
  };
  const project: Project = { format: 'oquel.project/1', name: 'Yard', assets: [yard] };
  const { findings } = audit(project, { today: '2026-11-24' });
  const { evidence } = findings.find((f) => f.rule === 'long-chain')!;
  const path = evidence as Extract<Evidence, { kind: 'path' }>;
  expect(path.parts).toEqual([{ hops: 6000, from: 1, cycle: [] }]);
  const tracks = proofTracks(indexProject(project), path);
  expect(tracks.map((t) => t.title)).toEqual(['Chain of a cycle of 6000 (no way round is drawn)']);
});
