import { IntList } from '../util/int-list.js';
import type { Expansion } from './expansion.js';
import { initialValue, type ValueTable } from './values.js';

/** What one `every` asks for, in one copy of its owner. */
export interface Selection {
  asset: number;
  within: 'asset' | 'project';
  spawned: boolean;
  pick: 'all' | 'first';
  /** Only those whose property has the value of that number; null for all. */
  match: { property: string; value: number } | null;
}

/** Answers selections from lists that are made once for each property matched. */
export class Selector {
  private readonly byValue = new Map<string, Map<number, Int32Array>>();

  constructor(
    private readonly x: Expansion,
    private readonly values: ValueTable,
  ) {}

  /**
   * Calls `take` for each instance that is selected, in expansion order, until it returns true.
   * Cost: a search and the instances met.
   */
  each(owner: number, selection: Selection, take: (instance: number) => boolean | void): void {
    const { x } = this;
    const list = selection.match
      ? this.matching(selection.asset, selection.match)
      : this.x.instancesOf(selection.asset);
    const local = selection.within === 'asset';
    const end = local ? lowerBound(list, x.end[owner]) : list.length;
    // Below a spawned owner everything is spawned; what counts is a `~` segment below the owner.
    const leaveSpawned = !selection.spawned && !(local && x.isSpawned(owner));
    for (let i = local ? lowerBound(list, owner + 1) : 0; i < end; i++) {
      if (leaveSpawned && x.isSpawned(list[i])) continue;
      if (take(list[i]) === true || selection.pick === 'first') return;
    }
  }

  /** Looks at the values of an asset's instances anew. */
  forgetValues(asset: number): void {
    for (const id of this.byValue.keys()) if (id.startsWith(`${asset}/`)) this.byValue.delete(id);
  }

  private matching(asset: number, match: { property: string; value: number }): Int32Array {
    const id = `${asset}/${match.property}`;
    let groups = this.byValue.get(id);
    if (!groups) {
      const lists = new Map<number, IntList>();
      for (const instance of this.x.instancesOf(asset)) {
        const value = initialValue(this.x, instance, match.property);
        if (value === undefined) continue;
        const n = this.values.number(value);
        let list = lists.get(n);
        if (!list) lists.set(n, (list = new IntList(4)));
        list.push(instance);
      }
      groups = new Map([...lists].map(([n, list]) => [n, list.toArray()]));
      this.byValue.set(id, groups);
    }
    return groups.get(match.value) ?? NONE;
  }
}
const NONE = new Int32Array(0);

function lowerBound(list: Int32Array, value: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (list[mid] < value) low = mid + 1;
    else high = mid;
  }
  return low;
}
