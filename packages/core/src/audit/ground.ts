import type { Expansion } from '../expand/expansion.js';
import { BLOCKED, resolveByText } from '../expand/resolve.js';
import { overridesOf } from '../expand/values.js';
import { BIND, HEAR, isEvent, PUBLISH, type Graph } from '../graph/graph.js';
import { mutedBindings } from '../graph/plans.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Asset, Value } from '../project/types.js';
import { thresholds, type Thresholds } from './policy.js';

/** Answers for assets by name; an asset that has changed is another object, so its answers fall away with it. */
export type AssetMemo = WeakMap<Asset, Map<string, unknown>>;

/** What the audit stands on: the graph, and questions about instances and bindings that need no walk through it. */
export class AuditGround {
  readonly x: Expansion;
  readonly index: ProjectIndex;
  readonly limits: Thresholds;

  constructor(
    readonly g: Graph,
    /** ISO date. */
    readonly today: string,
    /** What was worked out for assets before the last edit and still holds; null: nothing is kept. */
    private readonly kept: AssetMemo | null = null,
  ) {
    this.x = g.x;
    this.index = g.x.index;
    this.limits = thresholds(this.index.project.policy);
  }

  /** Works a thing out for one asset, or takes it over from before the last edit if the asset is the very same. */
  perAsset<T>(name: string, asset: AssetIndex, make: () => T): T {
    if (!this.kept) return make();
    let own = this.kept.get(asset.decl);
    if (!own) this.kept.set(asset.decl, (own = new Map<string, unknown>()));
    if (!own.has(name)) own.set(name, make());
    return own.get(name) as T;
  }

  private memo = new Map<string, unknown>();
  /** Works a thing out at its first use. Whoever asks in a loop keeps the answer outside of it. */
  protected once<T>(name: string, make: () => T): T {
    if (!this.memo.has(name)) this.memo.set(name, make());
    return this.memo.get(name) as T;
  }

  private readonly byPath: Map<string, number>[] = [];
  /** The asset that a path of an owner names by the text alone; negative if none. Each path is resolved once. */
  assetAtPath(owner: number, path: string): number {
    // Most paths are the name of one placement of the owner.
    if (path === '.') return owner;
    const asset = this.index.assets[owner];
    const slot = asset.placementAt.get(path);
    if (slot !== undefined) {
      const placed = asset.placed[slot];
      return placed < 0 || placed === owner ? BLOCKED : placed;
    }
    const known = (this.byPath[owner] ??= new Map<string, number>());
    let at = known.get(path);
    if (at === undefined) known.set(path, (at = resolveByText(this.index, this.x.standIns, owner, path)));
    return at;
  }
  /** For each asset its number of instances. */
  get copies(): Int32Array {
    return this.once('copies', () => {
      const copies = new Int32Array(this.index.assets.length);
      for (const asset of this.x.asset) copies[asset]++;
      return copies;
    });
  }
  private lists: Int32Array[] | null = null;
  private get byAsset(): Int32Array[] {
    return (this.lists ??= this.once('byAsset', () => {
      const lists = [...this.copies].map((n) => new Int32Array(n));
      const next = new Int32Array(lists.length);
      for (let i = 0; i < this.x.count; i++) lists[this.x.asset[i]][next[this.x.asset[i]]++] = i;
      return lists;
    }));
  }
  /** All instances of an asset, in expansion order. */
  instancesOf(asset: number): Int32Array {
    return this.byAsset[asset];
  }
  /** All instances that one authored placement yields. */
  instancesOfPlacement(asset: number, slot: number): number[] {
    const { x } = this;
    return [...this.instancesOf(asset)].map((i) => x.children[x.childBase[i] + slot]).filter((i) => i >= 0);
  }
  overridesOf(instance: number): Record<string, Value> {
    return overridesOf(this.x, instance) ?? {};
  }
  private mutes: Uint8Array | null = null;
  /** For each asset 1 if some placement mutes bindings of it; most are muted nowhere. */
  private get mutedSomewhere(): Uint8Array {
    if (this.mutes) return this.mutes;
    const mutes = new Uint8Array(this.index.assets.length);
    for (const { placements, placed } of this.index.assets) {
      placements.forEach((p, slot) => {
        if (placed[slot] >= 0 && p.muted && p.muted.length > 0) mutes[placed[slot]] = 1;
      });
    }
    return (this.mutes = mutes);
  }
  /** The expanded owners in whose copy an authored binding is not muted. */
  ownersOf(asset: number, binding: number): Int32Array {
    if (this.mutedSomewhere[asset] === 0) return this.instancesOf(asset);
    const { id } = this.index.assets[asset].bindings[binding];
    return this.instancesOf(asset).filter((i) => !mutedBindings(this.x, i)?.has(id));
  }
  /** Rules pass over a binding that is disabled, or muted in every copy. */
  isJudged(asset: number, binding: number): boolean {
    if (this.index.assets[asset].bindings[binding].enabled === false) return false;
    if (this.mutedSomewhere[asset] === 0) return true;
    const instances = this.instancesOf(asset);
    if (instances.length === 0) return true;
    const { id } = this.index.assets[asset].bindings[binding];
    return instances.some((i) => !mutedBindings(this.x, i)?.has(id));
  }

  /** For each event 1 if a bind or publish edge leaves it; for each action 1 if a bind or hear edge enters it. */
  get bound(): Uint8Array {
    return this.once('bound', () => {
      const { g } = this;
      const bound = new Uint8Array(g.nodes);
      for (let n = 0; n < g.nodes; n++) {
        for (let e = g.first[n]; e < g.first[n + 1]; e++) {
          const kind = g.meta[e] >> 2;
          if (kind === BIND || kind === PUBLISH) bound[n] = 1;
          if (kind === BIND || kind === HEAR) bound[g.head[e]] = 1;
        }
      }
      return bound;
    });
  }
  /** Bound or driven, also by a binding whose other end is missing: that is one fault and has its own finding. */
  get boundAnyway(): Uint8Array {
    return this.once('boundAnyway', () => {
      const { bound, g } = this;
      return g.countsAsBound.map((counts, n) => counts | bound[n]);
    });
  }

  /** Calls `take` for every bound event, with its instance and its number in the asset. */
  eachBoundEvent(take: (node: number, instance: number, event: number) => void): void {
    const { x, bound } = this;
    for (let i = 0; i < x.count; i++) {
      const events = x.assetOf(i).events.length;
      for (let e = 0; e < events; e++) if (bound[x.nodeBase[i] + e] === 1) take(x.nodeBase[i] + e, i, e);
    }
  }
  /** Calls `take` for every event that something outside the wiring raises, of instances that are not spawned. */
  eachOutsideEvent(take: (node: number, instance: number, event: number) => void): void {
    const { x } = this;
    for (let i = 0; i < x.count; i++) {
      if (x.isSpawned(i)) continue;
      const { events } = x.assetOf(i);
      for (let e = 0; e < events.length; e++) {
        if (events[e].cause.type !== 'raised') take(x.nodeBase[i] + e, i, e);
      }
    }
  }
  isEvent(node: number): boolean {
    return isEvent(this.g, node);
  }
}
