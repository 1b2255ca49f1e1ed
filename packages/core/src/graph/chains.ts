import { membersOf, type Components } from './components.js';
import { compareNodes, type Graph } from './graph.js';
import type { GraphPath } from './paths.js';
import { waysTo, type WaysTo } from './ways-to.js';

/** For each node what holds of its whole component. */
export interface Chains {
  /** The number of hops on the heaviest path that begins there, the component's own actions included. */
  length: Int32Array;
  /** 1 if some heaviest path meets a cycle: the length is then "or more". */
  cyclic: Uint8Array;
  /** 1 if the component has a cycle itself. */
  hasCycle: Uint8Array;
  /** How a heaviest path leaves a component of several nodes, where somebody has asked; none after an edit. */
  readonly exits: Map<number, Exit | null>;
}
interface Exit {
  edge: number;
  tail: number;
  /** The ways to the tail inside of the component. */
  ways: WaysTo | null;
}

/**
 * Heaviest paths over the condensation: a component weighs the number of actions in it. They are worked out in ascending
 * order of rank, so that whatever a component leads to comes before it. Cost: nodes + edges.
 */
export function chainLengths(g: Graph, c: Components, order: Int32Array): Chains {
  const room = c.of.length;
  const chains: Chains = {
    length: new Int32Array(room),
    cyclic: new Uint8Array(room),
    hasCycle: new Uint8Array(room),
    exits: new Map(),
  };
  const { groups } = c;
  const alone = [0];
  for (const k of order) {
    alone[0] = k;
    weigh(g, c, chains, groups.get(k) ?? alone, null);
  }
  return chains;
}

/** Works one component out again from those that it leads to; true if that changed it. The nodes that change are given. */
export function reviseChain(
  g: Graph,
  c: Components,
  chains: Chains,
  component: number,
  changed: Set<number>,
): boolean {
  return weigh(g, c, chains, membersOf(c, component), changed);
}

function weigh(
  g: Graph,
  { of, groups }: Components,
  { length, cyclic, hasCycle }: Chains,
  members: Int32Array | readonly number[],
  changed: Set<number> | null,
): boolean {
  const k = of[members[0]];
  const { first, end, head, action } = g;
  let best = 0;
  let cycleAhead = 0;
  let weight = 0;
  let cycle: 0 | 1 = groups.has(k) ? 1 : 0;
  for (let m = 0; m < members.length; m++) {
    const n = members[m];
    weight += action[n] & 1;
    for (let e = first[n]; e < end[n]; e++) {
      const to = head[e];
      if (of[to] === k) {
        cycle = 1;
        continue;
      }
      if (length[to] > best) {
        best = length[to];
        cycleAhead = cyclic[to];
      } else if (length[to] === best) cycleAhead |= cyclic[to];
    }
  }
  const [long, ahead] = [best + weight, cycle | cycleAhead];
  let isNew = false;
  for (let m = 0; m < members.length; m++) {
    const n = members[m];
    hasCycle[n] = cycle;
    if (length[n] === long && cyclic[n] === ahead) continue;
    length[n] = long;
    cyclic[n] = ahead;
    isNew = true;
    changed?.add(n);
  }
  return isNew;
}

/**
 * One heaviest path from a node, as edges. It leaves a component by the first edge that leads to a heaviest path, and
 * goes there the shortest way. Cost: the edges at its nodes; the first time since an edit, the components that it meets.
 */
export function heaviestPath(g: Graph, c: Components, chains: Chains, from: number): GraphPath {
  const path: GraphPath = { start: from, edges: [], tails: [] };
  let at = from;
  for (;;) {
    const exit = exitOf(g, c, chains, c.of[at]);
    if (!exit) return path;
    exit.ways?.lead(at, path);
    path.edges.push(exit.edge);
    path.tails.push(exit.tail);
    at = g.head[exit.edge];
  }
}

function exitOf(g: Graph, c: Components, chains: Chains, k: number): Exit | null {
  if (!c.groups.has(k)) return findExit(g, c, chains, k);
  let exit = chains.exits.get(k);
  if (exit === undefined) {
    exit = findExit(g, c, chains, k);
    if (exit) exit.ways = waysTo(g, c, exit.tail);
    chains.exits.set(k, exit);
  }
  return exit;
}
function findExit(g: Graph, c: Components, { length }: Chains, k: number): Exit | null {
  let best = 0;
  let edge = -1;
  let tail = -1;
  // Edges are compared by their tails and their places there: their numbers change with edits.
  for (const n of inOrder(g, membersOf(c, k))) {
    for (let e = g.first[n]; e < g.end[n]; e++) {
      const to = g.head[e];
      if (c.of[to] === k || length[to] <= best) continue;
      best = length[to];
      edge = e;
      tail = n;
    }
  }
  return edge < 0 ? null : { edge, tail, ways: null };
}
function inOrder(g: Graph, nodes: Int32Array | readonly number[]): Int32Array | readonly number[] {
  return nodes.length === 1 ? nodes : Int32Array.from(nodes).sort((a, b) => compareNodes(g, a, b));
}
