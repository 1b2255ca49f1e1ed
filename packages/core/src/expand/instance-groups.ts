import { IntList } from '../util/int-list.js';
import { lowerBound } from '../util/lower-bound.js';
import type { Expansion } from './expansion.js';

type Groups = Map<number, Int32Array>;
/** After more changes than these, or more comparisons for each copy, lists are made anew when they are asked for. */
const MOST_CHANGES = 16;
const MOST_COMPARISONS = 2;

/**
 * The instances of assets in groups, by something that is read of one property: for each asset and property lists that are made
 * when somebody asks, and kept up with edits.
 */
export class InstanceGroups {
  private readonly known = new Map<number, Map<string, Groups>>();

  constructor(
    private readonly x: Expansion,
    /** The number of an instance's group; negative if it is in none. */
    private readonly groupOf: (instance: number, property: string) => number,
  ) {}

  /** By group, the instances of an asset in expansion order. Cost: at first, and after far-reaching edits, its instances. */
  of(asset: number, property: string): ReadonlyMap<number, Int32Array> {
    let own = this.known.get(asset);
    if (!own) this.known.set(asset, (own = new Map<string, Groups>()));
    let groups = own.get(property);
    if (!groups) own.set(property, (groups = this.make(asset, property)));
    return groups;
  }
  /** After some instances came, left, or may be in other groups. Cost: them times the groups, and the groups that change. */
  follow(instances: Iterable<number>): void {
    const byAsset = new Map<number, number[]>();
    for (const i of instances) {
      const own = byAsset.get(this.x.asset[i]);
      if (own) own.push(i);
      else if (this.known.has(this.x.asset[i])) byAsset.set(this.x.asset[i], [i]);
    }
    for (const [asset, changed] of byAsset) {
      const own = this.known.get(asset)!;
      const copies = this.x.instancesOf(asset).length;
      for (const [property, groups] of own) {
        const isFar =
          changed.length > MOST_CHANGES || changed.length * groups.size > MOST_COMPARISONS * copies;
        if (isFar) own.delete(property);
        else for (const i of changed) this.move(i, property, groups);
      }
    }
  }

  private make(asset: number, property: string): Groups {
    const lists = new Map<number, IntList>();
    for (const instance of this.x.instancesOf(asset)) {
      const n = this.groupOf(instance, property);
      if (n < 0) continue;
      const list = lists.get(n);
      if (list) list.push(instance);
      else lists.set(n, new IntList(1)).get(n)!.push(instance);
    }
    return new Map([...lists].map(([n, list]) => [n, list.toArray()]));
  }
  private move(instance: number, property: string, groups: Groups): void {
    for (const [n, list] of groups) {
      const at = lowerBound(list, instance);
      if (list[at] !== instance) continue;
      if (list.length === 1) groups.delete(n);
      else groups.set(n, spliced(list, at, 1, []));
    }
    const n = this.x.isFree(instance) ? -1 : this.groupOf(instance, property);
    if (n < 0) return;
    const list = groups.get(n) ?? NONE;
    groups.set(n, spliced(list, lowerBound(list, instance), 0, [instance]));
  }
}
const NONE = new Int32Array(0);

function spliced(list: Int32Array, at: number, without: number, put: readonly number[]): Int32Array {
  const all = new Int32Array(list.length - without + put.length);
  all.set(list.subarray(0, at));
  all.set(put, at);
  all.set(list.subarray(at + without), at + put.length);
  return all;
}
