import { IntList } from '../../util/int-list.js';
import { BIND, type Graph } from '../../graph/graph.js';
import type { GraphDelta } from '../../graph/graph-delta.js';

/** The authored bindings that lead from one asset to another. */
export interface Way {
  readonly count: number;
  /** By the asset that owns them. */
  byOwner: () => ReadonlyMap<number, Iterable<number>>;
  /** The expanded owners in whose copies they do. */
  owners: () => Iterable<number>;
}

/** Two assets, neither a scene, that bindings tie to each other; the first has the smaller number. */
export interface AssetTie {
  readonly a: number;
  readonly b: number;
  readonly forth: Way;
  readonly back: Way;
}

/** Which authored bindings lead directly from one asset to another. Cost: the edges; of an edit, those that change. */
export class AssetTies {
  /** By from × assets + to. */
  private readonly ways = new Map<number, WayBindings>();
  private readonly assets: number;
  private readonly isScene: Uint8Array;

  constructor(private readonly g: Graph) {
    const { assets } = g.x.index;
    this.assets = assets.length;
    this.isScene = Uint8Array.from(assets, (a) => (a.decl.kind === 'scene' ? 1 : 0));
    for (let n = 0; n < g.nodes; n++) {
      for (let e = g.first[n]; e < g.end[n]; e++) {
        if (g.meta[e] >> 2 === BIND) this.add(n, g.head[e], g.ref[e]);
      }
    }
  }

  /** Numbers of all pairs that are tied in both directions. */
  *pairs(): Iterable<number> {
    for (const way of this.ways.keys()) {
      if (this.pairOf(way) === way && this.get(way)) yield way;
    }
  }
  /** Undefined for a pair that is not tied in both directions. */
  get(pair: number): AssetTie | undefined {
    const [a, b] = [Math.floor(pair / this.assets), pair % this.assets];
    const [forth, back] = [this.ways.get(pair), this.ways.get(this.reversed(pair))];
    return forth && back && forth.count > 0 && back.count > 0 ? { a, b, forth, back } : undefined;
  }
  /** The pairs that an edit changes. */
  follow({ removed, added }: GraphDelta): Set<number> {
    const changed = new Set<number>();
    for (const [edges, times] of [
      [removed, -1],
      [added, 1],
    ] as const) {
      edges.tails.forEach((tail, i) => {
        const way = this.wayOf(tail, edges.heads[i]);
        if (way < 0) return;
        changed.add(this.pairOf(way));
        if (times === 1) this.add(tail, edges.heads[i], edges.refs[i]);
        else this.ways.get(way)!.remove(edges.refs[i]);
      });
    }
    return changed;
  }

  private add(tail: number, head: number, ref: number): void {
    const way = this.wayOf(tail, head);
    if (way < 0) return;
    let bindings = this.ways.get(way);
    if (!bindings) this.ways.set(way, (bindings = new WayBindings(this.g)));
    bindings.add(ref);
  }
  /** The way of an edge, by its pair of assets; −1 for one that is passed over: only what is bound directly ties. */
  private wayOf(tail: number, head: number): number {
    const { g, isScene, assets } = this;
    const [sender, receiver] = [g.instanceOf[tail], g.instanceOf[head]];
    if (sender < 0 || receiver < 0 || g.action[head] === 0) return -1;
    const [from, to] = [g.x.asset[sender], g.x.asset[receiver]];
    return to === from || isScene[from] === 1 || isScene[to] === 1 ? -1 : from * assets + to;
  }
  private reversed(way: number): number {
    return (way % this.assets) * this.assets + Math.floor(way / this.assets);
  }
  private pairOf(way: number): number {
    return Math.min(way, this.reversed(way));
  }
}

/** The expanded bindings with an edge from one asset to another. They are sorted out once somebody asks. */
class WayBindings implements Way {
  private readonly unsorted = new IntList();
  /** By owning asset and authored binding, how many edges it has, in all copies. */
  private readonly authored = new Map<number, Map<number, number>>();
  private readonly edgesOf = new Map<number, number>();
  private distinct = 0;

  constructor(private readonly g: Graph) {}

  add(ref: number): void {
    this.unsorted.push(ref);
  }
  remove(ref: number): void {
    this.sort();
    const { x } = this.g;
    const [number, owner] = [x.authoredOf(ref), x.ownerOf(ref)];
    const own = this.authored.get(x.asset[owner])!;
    if (less(own, number)) this.distinct--;
    less(this.edgesOf, owner);
  }
  get count(): number {
    this.sort();
    return this.distinct;
  }
  byOwner(): ReadonlyMap<number, Iterable<number>> {
    this.sort();
    return new Map([...this.authored].map(([asset, own]) => [asset, own.keys()]));
  }
  owners(): Iterable<number> {
    this.sort();
    return this.edgesOf.keys();
  }

  private sort(): void {
    const { x } = this.g;
    for (const ref of this.unsorted.view()) {
      const [number, owner] = [x.authoredOf(ref), x.ownerOf(ref)];
      let own = this.authored.get(x.asset[owner]);
      if (!own) this.authored.set(x.asset[owner], (own = new Map<number, number>()));
      if (more(own, number)) this.distinct++;
      more(this.edgesOf, owner);
    }
    this.unsorted.length = 0;
  }
}

/** Counts one more; true if it is the first. */
function more(counts: Map<number, number>, key: number): boolean {
  const count = counts.get(key) ?? 0;
  counts.set(key, count + 1);
  return count === 0;
}
/** Counts one less; true if it was the last. */
function less(counts: Map<number, number>, key: number): boolean {
  const count = counts.get(key)! - 1;
  if (count === 0) counts.delete(key);
  else counts.set(key, count);
  return count === 0;
}
