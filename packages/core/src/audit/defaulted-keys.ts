import { overridesOf } from '../expand/values.js';
import type { AssetIndex } from '../project/index-project.js';
import type { AnalysisInputs } from './inputs.js';

/** Instances that do not override a key property which another of their asset overrides; two or more. */
export interface DefaultedKey {
  property: string;
  instances: number[];
}

/** What the rules on default and shared keys look at, of one asset. Spawned instances are left out. Cost: its instances. */
export function defaultedKeys(inputs: AnalysisInputs, asset: AssetIndex): DefaultedKey[] {
  const { x } = inputs;
  const found: DefaultedKey[] = [];
  for (const { name, isKey } of asset.properties) {
    if (isKey !== true) continue;
    const kept: number[] = [];
    let overridden = 0;
    for (const i of inputs.instancesOf(asset.at)) {
      if (x.isSpawned(i)) continue;
      const overrides = overridesOf(x, i);
      if (overrides && Object.hasOwn(overrides, name)) overridden++;
      else kept.push(i);
    }
    if (kept.length >= 2 && overridden > 0) found.push({ property: name, instances: kept });
  }
  return found;
}
