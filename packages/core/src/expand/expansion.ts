import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Placement } from '../project/types.js';
import type { BindingSlots } from './binding-slots.js';
import type { StandIns } from './stand-ins.js';
import { lowerBound } from '../util/lower-bound.js';

/** Bits of {@link Expansion.flags}. */
export const SPAWNED = 1;
/** Its own placement begins asleep. */
export const BEGINS_ASLEEP = 2;
/** It, or what contains it, begins asleep. */
export const ASLEEP_AT_START = 4;
/** A number that no instance has: room for one that an edit brings, or left behind by one that is gone. */
export const FREE = 8;

/** A placement that yields no instance because it would repeat an asset that contains it. */
export interface Stopped {
  parent: number;
  placement: number;
}

/**
 * The expanded project. Instances are numbered in expansion order: depth first, placements in array order, then the
 * stand-ins that an instance holds. All arrays have one entry for each number, except `children`. Where it was made for
 * edits, some numbers are free ({@link Expansion.isFree}); they stand between others, so that what comes keeps the order.
 */
export class Expansion {
  constructor(
    /** Replaced by an edit in place. */
    public index: ProjectIndex,
    readonly standIns: StandIns,
    /** One past the last number; with free ones among them. */
    readonly count: number,
    /** Number of the instance's asset. */
    readonly asset: Int32Array,
    /** The instance under whose address it stands (for a stand-in its holder); -1 for a scene. */
    readonly parent: Int32Array,
    /** Its slot in the parent's list of children: a placement's number, or placements + stand-in's number. */
    readonly slot: Int32Array,
    /** One past the last instance under its address. */
    readonly end: Int32Array,
    /** Where its children begin in `children`, one for each slot. */
    readonly childBase: Int32Array,
    /** Instance in each slot; -1 where a placement yields none. */
    public children: Int32Array,
    /** The instance that holds the stand-ins that it spawns: itself, or the holder of what it is spawned under. */
    readonly holder: Int32Array,
    readonly flags: Uint8Array,
    /** Numbers of authored bindings. */
    readonly slots: BindingSlots,
    /** Number of its first expanded binding: one for each slot of its asset; one entry more at the end. */
    readonly bindingBase: Int32Array,
    /** Number of its first node in the graph: events, then actions; one entry more at the end. */
    readonly nodeBase: Int32Array,
    readonly stopped: readonly Stopped[],
  ) {}

  isFree(instance: number): boolean {
    return (this.flags[instance] & FREE) !== 0;
  }
  private counted: { instances: number; nodes: number } | null = null;
  /** How many instances there are, and how many events and actions they have together. */
  get size(): { instances: number; nodes: number } {
    if (this.counted) return this.counted;
    let [instances, nodes] = [0, 0];
    for (let i = 0; i < this.count; i++) {
      if (this.isFree(i)) continue;
      const { events, actions } = this.assetOf(i);
      instances++;
      nodes += events.length + actions.length;
    }
    return (this.counted = { instances, nodes });
  }
  /** After an asset's events and actions became others. */
  recount(asset: number, before: AssetIndex): void {
    const { events, actions } = this.index.assets[asset];
    const more = events.length + actions.length - before.events.length - before.actions.length;
    if (this.counted) this.counted.nodes += more * this.instancesOf(asset).length;
  }
  private byAsset: Int32Array[] | null = null;
  /** All instances of an asset, in expansion order. Lists are made at the first call. */
  instancesOf(asset: number): Int32Array {
    return (this.byAsset ??= this.listByAsset())[asset];
  }
  private listByAsset(): Int32Array[] {
    const counts = new Int32Array(this.index.assets.length);
    for (let i = 0; i < this.count; i++) if (!this.isFree(i)) counts[this.asset[i]]++;
    const lists = Array.from(counts, (n) => new Int32Array(n));
    counts.fill(0);
    for (let i = 0; i < this.count; i++) {
      if (!this.isFree(i)) lists[this.asset[i]][counts[this.asset[i]]++] = i;
    }
    return lists;
  }

  assetOf(instance: number): AssetIndex {
    return this.index.assets[this.asset[instance]];
  }
  isSpawned(instance: number): boolean {
    return (this.flags[instance] & SPAWNED) !== 0;
  }
  isStandIn(instance: number): boolean {
    const parent = this.parent[instance];
    return parent >= 0 && this.slot[instance] >= this.assetOf(parent).placements.length;
  }
  /** The placement that made it; undefined for a scene and a stand-in. */
  placementOf(instance: number): Placement | undefined {
    const parent = this.parent[instance];
    return parent < 0 ? undefined : this.assetOf(parent).placements[this.slot[instance]];
  }
  /** The instance that contains it; -1 for a scene and a stand-in, which is contained in nothing. */
  containerOf(instance: number): number {
    return this.isStandIn(instance) ? -1 : this.parent[instance];
  }
  /** Whether `inner` is `outer` or contained in it. */
  contains(outer: number, inner: number): boolean {
    return inner >= outer && inner < this.end[outer] && this.isSpawned(inner) === this.isSpawned(outer);
  }
  sceneOf(instance: number): number {
    let at = instance;
    while (this.parent[at] >= 0) at = this.parent[at];
    return at;
  }
  /** What a `spawn` effect of an instance makes: the stand-in of that asset of its holder; -1 if there is none. */
  standInOf(instance: number, asset: number): number {
    const holder = this.holder[instance];
    const at = this.standIns.placeOf(this.asset[holder], asset);
    if (at < 0) return -1;
    return this.children[this.childBase[holder] + this.assetOf(holder).placements.length + at];
  }

  /** `summit-refuge:cabin-3/lamp`; the scene itself is `summit-refuge:.`. Made on demand: cost is its depth. */
  address(instance: number): string {
    const names: string[] = [];
    let at = instance;
    for (; this.parent[at] >= 0; at = this.parent[at]) names.push(this.segment(at));
    return `${this.assetOf(at).decl.id}:${names.length === 0 ? '.' : names.reverse().join('/')}`;
  }
  /** The last segment of its address. */
  segment(instance: number): string {
    const parent = this.parent[instance];
    if (parent < 0) return '.';
    const placements = this.assetOf(parent).placements;
    const slot = this.slot[instance];
    return slot < placements.length ? placements[slot].id : `~${this.assetOf(instance).decl.id}`;
  }
  private owners: Int32Array | null = null;
  /** The owner of an expanded binding, by its number. The table is made at the first call. */
  ownerOf(binding: number): number {
    this.owners ??= spread(this.bindingBase);
    return this.owners[binding];
  }
  /** After free numbers were given out: the owners of the bindings from those of one instance up to another's. */
  renumbered(from: number, end: number): void {
    if (!this.owners) return;
    for (let i = from; i < end; i++) this.owners.fill(i, this.bindingBase[i], this.bindingBase[i + 1]);
  }
  /** After instances came and others left. Cost: the instances of their assets. */
  relisted(coming: readonly number[], leaving: ReadonlySet<number>): void {
    const { size } = this;
    const assets = new Set<number>();
    const count = (i: number, times: 1 | -1): void => {
      const { at, events, actions } = this.assetOf(i);
      assets.add(at);
      size.instances += times;
      size.nodes += times * (events.length + actions.length);
    };
    for (const i of coming) count(i, 1);
    for (const i of leaving) count(i, -1);
    if (!this.byAsset) return;
    for (const at of assets) {
      const old = this.byAsset[at];
      const stays = leaving.size === 0 ? old : old.filter((i) => !leaving.has(i));
      const came = coming.filter((i) => this.asset[i] === at);
      this.byAsset[at] = came.length === 0 ? stays : merged(stays, came);
    }
  }
  /** The number of an expanded binding, by its position in its owner. */
  numberOf(owner: number, position: number): number {
    return this.bindingBase[owner] + this.slots.slot(this.asset[owner], position);
  }
  /** Its position among the bindings of its owner. */
  positionOf(binding: number): number {
    const owner = this.ownerOf(binding);
    return this.slots.position(this.asset[owner], binding - this.bindingBase[owner]);
  }
  bindingOf(binding: number): Binding {
    return this.assetOf(this.ownerOf(binding)).bindings[this.positionOf(binding)];
  }
  /** The number of the authored binding that an expanded one is a copy of. */
  authoredOf(binding: number): number {
    const owner = this.ownerOf(binding);
    return this.slots.base[this.asset[owner]] + binding - this.bindingBase[owner];
  }
  /** Negative if the first of two expanded bindings runs before the second one. */
  compareRunning(a: number, b: number): number {
    return this.ownerOf(a) - this.ownerOf(b) || this.positionOf(a) - this.positionOf(b);
  }
}

/** An ascending list with numbers that come into it. Cost: the list, and where each of the few stands. */
function merged(list: Int32Array, coming: readonly number[]): Int32Array {
  const all = new Int32Array(list.length + coming.length);
  let from = 0;
  for (const [k, number] of Int32Array.from(coming).sort().entries()) {
    const to = lowerBound(list, number);
    all.set(list.subarray(from, to), from + k);
    all[to + k] = number;
    from = to;
  }
  all.set(list.subarray(from), from + coming.length);
  return all;
}
/** For `base[i]` up to `base[i + 1]` the number i; the last entry of `base` is the length. */
export function spread(base: Int32Array): Int32Array {
  const of = new Int32Array(base[base.length - 1]);
  for (let i = 0; i + 1 < base.length; i++) if (base[i + 1] > base[i]) of.fill(i, base[i], base[i + 1]);
  return of;
}
