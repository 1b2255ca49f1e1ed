import { lowerBound } from '../util/lower-bound.js';
import type { Expansion } from './expansion.js';
import { InstanceGroups } from './instance-groups.js';
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
  /** Instances by the numbers of their values. */
  readonly byValue: InstanceGroups;

  constructor(
    private readonly x: Expansion,
    values: ValueTable,
  ) {
    this.byValue = new InstanceGroups(x, (instance, property) => {
      const value = initialValue(x, instance, property);
      return value === undefined ? -1 : values.number(value);
    });
  }

  /**
   * Calls `take` for each instance that is selected, in expansion order, until it returns true.
   * Cost: a search and the instances met.
   */
  each(owner: number, selection: Selection, take: (instance: number) => boolean | void): void {
    const { x } = this;
    const { asset, match } = selection;
    const list = match
      ? (this.byValue.of(asset, match.property).get(match.value) ?? NONE)
      : x.instancesOf(asset);
    const local = selection.within === 'asset';
    const end = local ? lowerBound(list, x.end[owner]) : list.length;
    // Below a spawned owner everything is spawned; what counts is a `~` segment below the owner.
    const leaveSpawned = !selection.spawned && !(local && x.isSpawned(owner));
    for (let i = local ? lowerBound(list, owner + 1) : 0; i < end; i++) {
      if (leaveSpawned && x.isSpawned(list[i])) continue;
      if (take(list[i]) === true || selection.pick === 'first') return;
    }
  }
}
const NONE = new Int32Array(0);
