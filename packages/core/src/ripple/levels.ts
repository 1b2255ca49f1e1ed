import { isAction, isEvent, type Graph } from '../graph/graph.js';

/** What a walk has met: its nodes, and their edges by local numbers, those of node i at `first[i]` up to `first[i + 1]`. */
export interface Part {
  readonly nodes: Int32Array;
  readonly first: Int32Array;
  readonly to: Int32Array;
  readonly edge: Int32Array;
}

/** The level of a node that is reached from one at a level: an action a hop further, a channel half a hop, an event none. */
function levelAfter(g: Graph, node: number, from: number): number {
  if (isAction(g, node)) return (from >> 1) * 2 + 2;
  return isEvent(g, node) ? from : (from >> 1) * 2 + 1;
}

/**
 * For each node twice the hops of the shortest way from the first `starts` nodes. A step adds two levels at the most, so
 * buckets by level serve as the queue (Dial, 1969). Cost: nodes + edges.
 */
export function shortestLevels(g: Graph, { nodes, first, to }: Part, starts: number): Int32Array {
  const level = new Int32Array(nodes.length).fill(-1);
  const buckets: number[][] = [[]];
  for (let i = 0; i < starts; i++) buckets[(level[i] = 0)].push(i);
  for (let at = 0; at < buckets.length; at++) {
    const bucket = buckets[at];
    for (const i of bucket) {
      if (level[i] !== at) continue;
      for (let e = first[i]; e < first[i + 1]; e++) {
        const next = to[e];
        const reached = levelAfter(g, nodes[next], at);
        if (level[next] >= 0 && level[next] <= reached) continue;
        level[next] = reached;
        while (buckets.length <= reached) buckets.push([]);
        buckets[reached].push(next);
      }
    }
  }
  return level;
}

/**
 * Components are numbered so that edges lead to smaller numbers: from the highest down, each is entered at the highest
 * level that leads to it. Inside of a cycle nodes lie as far from its entries as the shortest way goes.
 */
export function longestLevels(
  g: Graph,
  { nodes, first, to }: Part,
  c: { of: Int32Array; count: number; starts: Int32Array; members: Int32Array },
  starts: number,
): Int32Array {
  const level = new Int32Array(nodes.length).fill(-1);
  const entry = new Int32Array(nodes.length).fill(-1);
  const leave = (i: number, at: number): void => {
    for (let e = first[i]; e < first[i + 1]; e++) {
      const next = to[e];
      if (c.of[next] !== c.of[i] && entry[next] < at) entry[next] = at;
    }
  };
  const step = (i: number, from: number): number => (i < starts ? 0 : levelAfter(g, nodes[i], from));
  for (let i = 0; i < starts; i++) entry[i] = 0;
  for (let k = c.count - 1; k >= 0; k--) {
    const members = c.members.subarray(c.starts[k], c.starts[k + 1]);
    let base = 0;
    for (const i of members) base = Math.max(base, entry[i]);
    let weight = 0;
    const queue: number[] = [];
    for (const i of members) {
      if (isAction(g, nodes[i]) && i >= starts) weight++;
      if (entry[i] >= 0) {
        level[i] = step(i, members.length === 1 ? entry[i] : base);
        queue.push(i);
      }
    }
    for (let q = 0; q < queue.length; q++) {
      const i = queue[q];
      for (let e = first[i]; e < first[i + 1]; e++) {
        const next = to[e];
        if (c.of[next] !== k || level[next] >= 0) continue;
        level[next] = step(next, level[i]);
        queue.push(next);
      }
    }
    const out = members.length === 1 ? level[members[0]] : (base >> 1) * 2 + 2 * weight;
    for (const i of members) leave(i, out);
  }
  return level;
}
