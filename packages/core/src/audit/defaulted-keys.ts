import { overridesOf } from '../expand/values.js';
import type { AuditGround } from './ground.js';

/** Instances that do not override a key property which another of their asset overrides; two or more. */
export interface DefaultedKey {
  asset: number;
  property: string;
  instances: number[];
}

/** What the rules on default and shared keys look at. Spawned instances are left out. */
export function defaultedKeys(ctx: AuditGround): DefaultedKey[] {
  const { x } = ctx;
  const found: DefaultedKey[] = [];
  for (const asset of ctx.index.assets) {
    for (const { name, isKey } of asset.properties) {
      if (isKey !== true) continue;
      const kept: number[] = [];
      let overridden = 0;
      for (const i of ctx.instancesOf(asset.at)) {
        if (x.isSpawned(i)) continue;
        const overrides = overridesOf(x, i);
        if (overrides && Object.hasOwn(overrides, name)) overridden++;
        else kept.push(i);
      }
      if (kept.length >= 2 && overridden > 0)
        found.push({ asset: asset.at, property: name, instances: kept });
    }
  }
  return found;
}
