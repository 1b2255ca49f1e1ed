import { stronglyConnected, type Components } from './components.js';
import { grown } from './edge-runs.js';
import type { GraphDelta } from './graph-delta.js';
import type { Graph } from './graph.js';
import type { Incoming } from './incoming.js';

/** So many components that are looked at on the way, and so narrow a rank, before all are found anew. */
const MAX_LOOKED_AT = 200_000;
const NARROWEST = 1e-9;

/**
 * Keeps components over edits of the graph. Ranks are kept by reordering what lies between the ends of a new edge (Pearce
 * and Kelly, "A dynamic topological sort algorithm for directed acyclic graphs", 2006); a new edge that closes a cycle joins
 * what lies on it; a component that loses an edge is looked at alone. Cost of an edit: what lies between the ends of new
 * edges that lead upwards, and the components that lose edges.
 */
export class ComponentEdits {
  /** A component owns the ranks from its own up to this much further, for the parts that it may fall into. */
  private width: Float64Array;
  private looked = 0;
  /** Edges that are in the graph already, but are not reckoned with yet. */
  private readonly pending = new Set<string>();

  constructor(
    private readonly g: Graph,
    private readonly incoming: Incoming,
    readonly components: Components,
    /** Nodes that have a component. */
    private known: number,
  ) {
    this.width = new Float64Array(components.rank.length).fill(1);
  }

  /** The components whose nodes changed, and those that are gone; null if all are to be found anew. */
  follow({ removed, added }: GraphDelta): { changed: Set<number>; gone: Set<number> } | null {
    this.newNodes();
    this.gone.clear();
    this.looked = 0;
    this.pending.clear();
    const { of } = this.components;
    const changed = new Set<number>();
    const split = new Set<number>();
    removed.tails.forEach((tail, i) => {
      if (of[tail] === of[removed.heads[i]] && this.components.groups.has(of[tail])) split.add(of[tail]);
    });
    const fresh: [number, number][] = [];
    added.tails.forEach((tail, i) => {
      const head = added.heads[i];
      const id = edgeId(tail, head);
      // What runs inside of one component before parts of it are found is found with them.
      if (of[tail] === of[head] || this.pending.has(id)) return;
      this.pending.add(id);
      fresh.push([tail, head]);
    });
    for (const component of split) if (!this.split(component, changed)) return null;
    for (const [tail, head] of fresh) {
      this.pending.delete(edgeId(tail, head));
      if (!this.insert(of[tail], of[head], changed)) return null;
    }
    return { changed, gone: new Set(this.gone) };
  }
  private readonly gone = new Set<number>();

  private newNodes(): void {
    const { g, components: c } = this;
    if (c.of.length < g.first.length) {
      c.of = grown(c.of, g.first.length);
      const before = c.rank.length;
      c.rank = grown(c.rank, g.first.length);
      this.width = grown(this.width, g.first.length);
      this.width.fill(1, before);
    }
    for (; this.known < g.nodes; this.known++) {
      c.of[this.known] = this.known;
      // Above all others: nothing leads to it yet, and what it leads to stands below.
      c.rank[this.known] = this.known;
    }
  }
  /** Finds the parts of a component that may have fallen apart. */
  private split(component: number, changed: Set<number>): boolean {
    const { g, components: c } = this;
    const members = c.groups.get(component)!;
    const local = new Map<number, number>();
    members.forEach((n, i) => local.set(n, i));
    const first = new Int32Array(members.length + 1);
    const head: number[] = [];
    members.forEach((n, i) => {
      for (let e = g.first[n]; e < g.end[n]; e++) {
        const to = local.get(g.head[e]);
        if (to !== undefined) head.push(to);
      }
      first[i + 1] = head.length;
    });
    const parts = stronglyConnected({
      nodes: members.length,
      first,
      end: first.subarray(1),
      head: Int32Array.from(head),
      meta: new Uint8Array(head.length),
    });
    if (parts.count === 1) return true;
    const [rank, width] = [c.rank[component], this.width[component] / parts.count];
    if (width < NARROWEST) return false;
    c.groups.delete(component);
    this.gone.add(component);
    for (let k = 0; k < parts.count; k++) {
      const own = parts.members.slice(parts.starts[k], parts.starts[k + 1]).map((i) => members[i]);
      this.found(own, rank + k * width, width);
      changed.add(own[0]);
      this.gone.delete(own[0]);
    }
    return true;
  }
  private found(nodes: Int32Array, rank: number, width: number): void {
    const { components: c } = this;
    const [own] = nodes;
    for (const n of nodes) c.of[n] = own;
    c.rank[own] = rank;
    this.width[own] = width;
    if (nodes.length > 1) c.groups.set(own, nodes);
  }

  /** Takes an edge between two components into account. */
  private insert(tail: number, head: number, changed: Set<number>): boolean {
    const { rank } = this.components;
    if (tail === head || rank[tail] > rank[head]) return true;
    const [low, high] = [rank[tail], rank[head]];
    const ahead = this.reach(head, (k) => rank[k] >= low, 'on');
    const behind = this.reach(tail, (k) => rank[k] <= high, 'back');
    if (this.looked > MAX_LOOKED_AT) return false;
    const joined = [...ahead].filter((k) => behind.has(k));
    const byRank = (a: number, b: number): number => rank[a] - rank[b];
    const both = new Set([...ahead, ...behind]);
    const places = [...both].sort(byRank).map((k) => ({ rank: rank[k], width: this.width[k] }));
    const inJoined = new Set(joined);
    const below = [...ahead].filter((k) => !inJoined.has(k)).sort(byRank);
    const above = [...behind].filter((k) => !inJoined.has(k)).sort(byRank);
    const order =
      joined.length === 0 ? [...below, ...above] : [...below, this.join(joined, changed), ...above];
    // What was joined leaves places free: those between.
    order.forEach((k, i) => {
      const place = places[i < below.length ? i : places.length - order.length + i];
      rank[k] = place.rank;
      this.width[k] = place.width;
    });
    return true;
  }
  private join(components: readonly number[], changed: Set<number>): number {
    const { components: c } = this;
    let length = 0;
    const groups = components.map((k) => c.groups.get(k) ?? Int32Array.of(k));
    for (const group of groups) length += group.length;
    const nodes = new Int32Array(length);
    let at = 0;
    for (const group of groups) {
      nodes.set(group, at);
      at += group.length;
    }
    for (const k of components) {
      c.groups.delete(k);
      changed.delete(k);
      this.gone.add(k);
    }
    this.found(nodes, 0, 0);
    changed.add(nodes[0]);
    this.gone.delete(nodes[0]);
    return nodes[0];
  }

  /** Components reached from one, itself included, as far as a test allows. */
  private reach(from: number, goesOn: (component: number) => boolean, way: 'on' | 'back'): Set<number> {
    const { of } = this.components;
    const seen = new Set([from]);
    const stack = [from];
    for (let k = stack.pop(); k !== undefined && this.looked <= MAX_LOOKED_AT; k = stack.pop()) {
      const own = k;
      this.looked++;
      this.eachNeighbour(own, way, (n) => {
        const to = of[n];
        if (to === own || seen.has(to) || !goesOn(to)) return;
        seen.add(to);
        stack.push(to);
      });
    }
    return seen;
  }
  private eachNeighbour(component: number, way: 'on' | 'back', take: (node: number) => void): void {
    const { g, incoming, pending } = this;
    const isPending = (tail: number, head: number): boolean =>
      pending.size > 0 && pending.has(edgeId(tail, head));
    for (const n of this.components.groups.get(component) ?? [component]) {
      if (way === 'on') {
        for (let e = g.first[n]; e < g.end[n]; e++) if (!isPending(n, g.head[e])) take(g.head[e]);
      } else {
        for (let i = 0; i < incoming.degree(n); i++) {
          const tail = incoming.tail(n, i);
          if (!isPending(tail, n)) take(tail);
        }
      }
    }
  }
}

function edgeId(tail: number, head: number): string {
  return `${tail}/${head}`;
}
