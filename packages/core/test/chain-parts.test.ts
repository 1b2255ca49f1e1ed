import { describe, expect, it } from '@jest/globals';
import { buildGraph, expand, indexProject, type Asset, type Binding, type Graph } from '../src/index.js';
import { chainParts, chainText, shortestRound } from '../src/graph/chain-parts.js';
import { chainLengths, heaviestPath } from '../src/graph/chains.js';
import { componentsOf } from '../src/graph/components.js';

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
});
