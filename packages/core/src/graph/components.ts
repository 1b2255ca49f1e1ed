import { IntList } from '../util/int-list.js';
import type { Graph } from './graph.js';

export interface NumberedComponents {
  /** Component of each node, numbered so that every edge between components leads to a smaller number. */
  readonly of: Int32Array;
  readonly count: number;
  /** Nodes grouped by component: those of component k are `members[starts[k]]` up to `starts[k + 1]`. */
  readonly members: Int32Array;
  readonly starts: Int32Array;
}

/** What a search for components needs of a graph. */
export type Links = Pick<Graph, 'nodes' | 'first' | 'end' | 'head' | 'meta'>;
/** Links of so many nodes by their tails and heads, all of one class. Cost: nodes and links. */
export function linksOf(nodes: number, pairs: readonly (readonly [tail: number, head: number])[]): Links {
  const first = new Int32Array(nodes + 1);
  for (const [tail] of pairs) first[tail + 1]++;
  for (let n = 0; n < nodes; n++) first[n + 1] += first[n];
  const at = first.slice(0, nodes);
  const head = new Int32Array(pairs.length);
  for (const [tail, to] of pairs) head[at[tail]++] = to;
  return { nodes, first, end: first.subarray(1), head, meta: new Uint8Array(pairs.length) };
}

/**
 * Strongly connected components over the edges of class `minClass` or stronger.
 * Tarjan, "Depth-first search and linear graph algorithms", 1972, with explicit stacks. Empty graph: none; a node alone
 * is a component, with or without a self-loop. Cost: nodes + edges.
 */
export function stronglyConnected(g: Links, minClass = 0): NumberedComponents {
  const { first, end, head, meta, nodes } = g;
  const of = new Int32Array(nodes).fill(-1);
  const order = new Int32Array(nodes); // 0 not met; else 1 + time of discovery
  const low = new Int32Array(nodes);
  const next = new Int32Array(nodes);
  const path = new IntList();
  const open = new IntList();
  const members = new Int32Array(nodes);
  const starts = new IntList();
  starts.push(0);
  let placed = 0;
  let time = 0;
  let count = 0;
  for (let root = 0; root < nodes; root++) {
    if (order[root] !== 0) continue;
    order[root] = low[root] = ++time;
    next[root] = first[root];
    path.push(root);
    open.push(root);
    while (path.length > 0) {
      const at = path.get(path.length - 1);
      if (next[at] < end[at]) {
        const e = next[at]++;
        const to = head[e];
        if ((meta[e] & 3) < minClass) continue;
        if (order[to] === 0) {
          order[to] = low[to] = ++time;
          next[to] = first[to];
          path.push(to);
          open.push(to);
        } else if (of[to] < 0 && order[to] < low[at]) low[at] = order[to];
        continue;
      }
      path.pop();
      if (path.length > 0) {
        const back = path.get(path.length - 1);
        if (low[at] < low[back]) low[back] = low[at];
      }
      if (low[at] === order[at]) {
        let member: number;
        do {
          member = open.pop();
          of[member] = count;
          members[placed++] = member;
        } while (member !== at);
        starts.push(placed);
        count++;
      }
    }
  }
  return { of, count, members, starts: starts.toArray() };
}

/**
 * Components by one of their nodes. What a component has is kept at that node; one of a single node is its own.
 */
export interface Components {
  /** Component of each node. */
  of: Int32Array;
  /** The nodes of each component that has several. */
  readonly groups: Map<number, Int32Array>;
  /** By component: edges between components lead to smaller ranks. */
  rank: Float64Array;
}

/** The components of a graph, and their nodes in ascending order of rank. Cost: nodes + edges. */
export function componentsOf(g: Graph): { components: Components; order: Int32Array } {
  const { of, count, members, starts } = stronglyConnected(g);
  const room = g.first.length;
  const components: Components = {
    of: new Int32Array(room),
    groups: new Map(),
    rank: new Float64Array(room),
  };
  const order = new Int32Array(count);
  for (let k = 0; k < count; k++) {
    const own = members[starts[k]];
    order[k] = own;
    components.rank[own] = k;
    if (starts[k + 1] - starts[k] > 1) components.groups.set(own, members.slice(starts[k], starts[k + 1]));
  }
  for (let n = 0; n < g.nodes; n++) components.of[n] = order[of[n]];
  return { components, order };
}

/** The nodes of a component. */
export function membersOf({ groups }: Components, component: number): Int32Array | readonly number[] {
  return groups.get(component) ?? [component];
}

/** Whether a component has an edge with both ends inside, a self-loop included. Cost: its edges, or one of each of several nodes. */
export function isCyclic(g: Graph, { groups, of }: Components, component: number): boolean {
  if (groups.has(component)) return true;
  for (let e = g.first[component]; e < g.end[component]; e++) if (of[g.head[e]] === component) return true;
  return false;
}
