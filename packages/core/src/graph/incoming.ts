import type { Graph } from './graph.js';

/**
 * For each node the tails of the edges that lead to it, one for each edge, in no order. What leads to a node is found at
 * the cost of that, and follows edits of the graph.
 */
export class Incoming {
  private first: Int32Array;
  private count: Int32Array;
  private room: Int32Array;
  private tailOf: Int32Array;
  private used: number;

  /** Cost: nodes + edges. */
  constructor(g: Graph) {
    const capacity = g.first.length;
    this.first = new Int32Array(capacity);
    this.count = new Int32Array(capacity);
    this.room = new Int32Array(capacity);
    const { first, end, head } = g;
    for (let n = 0; n < g.nodes; n++) for (let e = first[n]; e < end[n]; e++) this.room[head[e]]++;
    let at = 0;
    for (let n = 0; n < g.nodes; n++) {
      this.first[n] = at;
      at += this.room[n];
    }
    this.used = at;
    this.tailOf = new Int32Array(at + 1024);
    for (let n = 0; n < g.nodes; n++) {
      for (let e = first[n]; e < end[n]; e++) this.tailOf[this.first[head[e]] + this.count[head[e]]++] = n;
    }
  }

  /** Room for nodes up to that number. */
  makeRoom(nodes: number): void {
    for (const name of ['first', 'count', 'room'] as const) {
      const more = new Int32Array(nodes);
      more.set(this[name]);
      this[name] = more;
    }
  }
  degree(node: number): number {
    return this.count[node];
  }
  /** A tail by its place in the list of a node. */
  tail(node: number, i: number): number {
    return this.tailOf[this.first[node] + i];
  }
  /** The tails of a node; valid until the next change. */
  tails(node: number): Int32Array {
    return this.tailOf.subarray(this.first[node], this.first[node] + this.count[node]);
  }
  add(node: number, tail: number): void {
    if (this.count[node] === this.room[node]) this.move(node, 2 * this.room[node] + 2);
    this.tailOf[this.first[node] + this.count[node]++] = tail;
  }
  /** Takes out one edge from that tail. Cost: what leads to the node. */
  remove(node: number, tail: number): void {
    const { first, count, tailOf } = this;
    const last = first[node] + count[node] - 1;
    let at = first[node];
    while (tailOf[at] !== tail) at++;
    tailOf[at] = tailOf[last];
    count[node]--;
  }

  private move(node: number, room: number): void {
    if (this.used + room > this.tailOf.length) {
      const grown = new Int32Array(2 * this.tailOf.length + room);
      grown.set(this.tailOf);
      this.tailOf = grown;
    }
    this.tailOf.copyWithin(this.used, this.first[node], this.first[node] + this.count[node]);
    this.first[node] = this.used;
    this.room[node] = room;
    this.used += room;
  }
}
