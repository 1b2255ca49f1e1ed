import type { Expansion } from '../expand/expansion.js';
import type { InstanceGroups } from '../expand/instance-groups.js';
import { overridesOf } from '../expand/values.js';
import type { AssetIndex } from '../project/index-project.js';
import { own } from '../util/own.js';

/** Instances that do not override a key property which another of their asset overrides; two or more. */
export interface DefaultedKey {
  property: string;
  instances: Int32Array;
}

export const KEPT = 0;
const OVERRIDDEN = 1;
/** Whether an instance keeps the default of a property or has a value of its own, as a group; spawned ones are in none. */
export function ownOrDefault(x: Expansion, instance: number, property: string): number {
  if (x.isSpawned(instance)) return -1;
  return own(overridesOf(x, instance), property) === undefined ? KEPT : OVERRIDDEN;
}

/** What the rules on default and shared keys look at, of one asset. Cost: its key properties, once its groups are made. */
export function defaultedKeys(ownKeys: InstanceGroups, asset: AssetIndex): DefaultedKey[] {
  const found: DefaultedKey[] = [];
  for (const { name, isKey } of asset.properties) {
    if (isKey !== true) continue;
    const groups = ownKeys.of(asset.at, name);
    const kept = groups.get(KEPT);
    if (kept && kept.length >= 2 && groups.has(OVERRIDDEN)) found.push({ property: name, instances: kept });
  }
  return found;
}
