import { IntList } from '../util/int-list.js';
import type { Graph } from './graph.js';
import type { GraphDelta } from './patch.js';

export interface Components {
  /** Component of each node, numbered so that every edge between components leads to a smaller number. */
  readonly of: Int32Array;
  readonly count: number;
  /** Nodes grouped by component: those of component k are `members[starts[k]]` up to `starts[k + 1]`. */
  readonly members: Int32Array;
  readonly starts: Int32Array;
}

/** What a search for components needs of a graph. */
export type Links = Pick<Graph, 'nodes' | 'first' | 'head' | 'meta'>;

/**
 * Strongly connected components over the edges of class `minClass` or stronger.
 * Tarjan, "Depth-first search and linear graph algorithms", 1972, with explicit stacks. Empty graph: none; a node alone
 * is a component, with or without a self-loop. Cost: nodes + edges.
 */
export function stronglyConnected(g: Links, minClass = 0): Components {
  const { first, head, meta, nodes } = g;
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
      if (next[at] < first[at + 1]) {
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

/** For each component 1 if it has a cycle (an edge with both ends inside, a self-loop included). Linear in edges. */
export function cyclicComponents(g: Links, c: Components, minClass = 0): Uint8Array {
  const cyclic = new Uint8Array(c.count);
  for (let n = 0; n < g.nodes; n++) {
    const own = c.of[n];
    for (let e = g.first[n]; e < g.first[n + 1]; e++) {
      if ((g.meta[e] & 3) >= minClass && c.of[g.head[e]] === own) cyclic[own] = 1;
    }
  }
  return cyclic;
}

/**
 * Whether the components of a graph, numbers and all, hold for another one that lacks some of its edges and has others:
 * so if no edge inside a component is gone and every new one leads to a smaller number or stays inside. Cost: the edges
 * that changed, and those of the tails of removed ones.
 */
export function componentsHold({ of }: Components, { graph: g, removed, added }: GraphDelta): boolean {
  const still = (tail: number, head: number): boolean => {
    for (let e = g.first[tail]; e < g.first[tail + 1]; e++) if (g.head[e] === head) return true;
    return false;
  };
  return (
    added.tails.every((tail, i) => of[tail] >= of[added.heads[i]]) &&
    removed.tails.every((tail, i) => of[tail] !== of[removed.heads[i]] || still(tail, removed.heads[i]))
  );
}
