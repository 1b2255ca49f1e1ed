import type { LooseEdges } from './graph-delta.js';
import type { Graph } from './graph.js';
import type { Incoming } from './incoming.js';

/** An edge without its tail, as it stands in the graph's lists. */
export interface Edge {
  head: number;
  meta: number;
  ref: number;
}

/** Edges that are gone and may lie about before all are moved together: as many as there are edges, and so many more. */
const MOST_HOLES = 100_000;

/** Gives tails of a graph other edges, in place, and keeps what leads to each node. */
export class EdgeRuns {
  /** Edge numbers that are given. */
  private used: number;

  constructor(
    readonly g: Graph,
    readonly incoming: Incoming,
  ) {
    this.used = g.head.length;
  }

  /** A node without edges for a channel node of that own number. */
  newChannelNode(own: number): number {
    const { g } = this;
    if (g.nodes === g.first.length) this.makeRoom(g.nodes + (g.nodes >> 4) + 64);
    g.instanceOf[g.nodes] = -1 - own;
    return g.nodes++;
  }
  private makeRoom(nodes: number): void {
    const { g } = this;
    g.first = grown(g.first, nodes);
    g.end = grown(g.end, nodes);
    g.instanceOf = grown(g.instanceOf, nodes);
    g.action = grown(g.action, nodes);
    this.incoming.makeRoom(nodes);
  }

  /** Whether a tail has just these edges, in this order. */
  holds(tail: number, edges: readonly Edge[]): boolean {
    const { first, end, head, meta, ref } = this.g;
    if (end[tail] - first[tail] !== edges.length) return false;
    return edges.every((edge, i) => {
      const e = first[tail] + i;
      return head[e] === edge.head && meta[e] === edge.meta && ref[e] === edge.ref;
    });
  }
  /** Takes out the edges of a tail of which a test of their `ref` says yes. Cost: its edges, and what leads to their heads. */
  remove(tail: number, isGone: (ref: number) => boolean, removed: LooseEdges): void {
    const { first, end, head, meta, ref } = this.g;
    let to = first[tail];
    for (let e = first[tail]; e < end[tail]; e++) {
      if (isGone(ref[e])) {
        removed.tails.push(tail);
        removed.heads.push(head[e]);
        removed.refs.push(ref[e]);
        this.incoming.remove(head[e], tail);
        continue;
      }
      [head[to], meta[to], ref[to]] = [head[e], meta[e], ref[e]];
      to++;
    }
    this.g.edges -= end[tail] - to;
    end[tail] = to;
  }

  /** Sorts edges in among those of a tail, by running order. Those of a binding stay in the order given. Cost: both. */
  add(tail: number, edges: readonly Edge[], added: LooseEdges): void {
    const { g, incoming } = this;
    const all: Edge[] = [];
    for (let e = g.first[tail]; e < g.end[tail]; e++) {
      all.push({ head: g.head[e], meta: g.meta[e], ref: g.ref[e] });
    }
    for (const edge of edges) {
      all.push(edge);
      added.tails.push(tail);
      added.heads.push(edge.head);
      added.refs.push(edge.ref);
      incoming.add(edge.head, tail);
    }
    // Effects stand in the order of their action; no tail has edges of both.
    if (all.length > 0 && all[0].ref >= 0) {
      all.sort((a, b) => (a.ref === b.ref ? 0 : g.x.compareRunning(a.ref, b.ref)));
    }
    this.place(tail, all.length);
    all.forEach((edge, i) => {
      const e = g.first[tail] + i;
      g.head[e] = edge.head;
      g.meta[e] = edge.meta;
      g.ref[e] = edge.ref;
    });
    g.edges += edges.length;
  }
  private place(tail: number, count: number): void {
    const { g } = this;
    if (this.used + count > g.head.length) {
      const length = this.used + count + (this.used >> 3) + 1024;
      g.head = grown(g.head, length);
      g.ref = grown(g.ref, length);
      g.meta = grown(g.meta, length);
    }
    g.first[tail] = this.used;
    g.end[tail] = this.used += count;
  }

  /** Moves all edges together once there are too many holes among them. Cost: then, nodes + edges; spread over the edits, theirs. */
  compact(): void {
    const { g } = this;
    if (this.used <= 2 * g.edges + MOST_HOLES) return;
    const head = new Int32Array(g.edges + 1024);
    const meta = new Uint8Array(g.edges + 1024);
    const ref = new Int32Array(g.edges + 1024);
    let at = 0;
    for (let n = 0; n < g.nodes; n++) {
      const [from, to] = [g.first[n], g.end[n]];
      head.set(g.head.subarray(from, to), at);
      meta.set(g.meta.subarray(from, to), at);
      ref.set(g.ref.subarray(from, to), at);
      g.first[n] = at;
      g.end[n] = at += to - from;
    }
    this.used = at;
    Object.assign(g, { head, meta, ref });
  }
}

/** The same list with room for more. */
export function grown<T extends Int32Array | Uint8Array | Float64Array>(list: T, length: number): T {
  const more = new (list.constructor as new (length: number) => T)(length);
  more.set(list);
  return more;
}
