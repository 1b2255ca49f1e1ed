import type { Value } from '../project/types.js';
import { ValueMap } from '../project/value.js';
import type { Expansion } from './expansion.js';
import { own } from '../util/own.js';

/** Numbers for values, so that keys compare as integers. Equal values have the same number. */
export class ValueTable {
  private readonly numbers = new ValueMap<number>();
  private readonly values: Value[] = [];

  number(value: Value): number {
    let n = this.numbers.get(value);
    if (n === undefined) {
      n = this.values.length;
      this.numbers.set(value, n);
      this.values.push(value);
    }
    return n;
  }
  value(n: number): Value {
    return this.values[n];
  }
}

/** The overrides that an instance begins with: its placement's, or those of the effect that spawns it. */
export function overridesOf(x: Expansion, instance: number): Record<string, Value> | undefined {
  const parent = x.parent[instance];
  if (parent < 0) return undefined;
  const placements = x.assetOf(parent).placements;
  const slot = x.slot[instance];
  if (slot < placements.length) return placements[slot].properties;
  return x.standIns.of(x.asset[parent])[slot - placements.length].effect.properties;
}

/** The value of a declared property before any effect: override or default; undefined if it is not declared. */
export function initialValue(x: Expansion, instance: number, property: string): Value | undefined {
  const asset = x.assetOf(instance);
  const at = asset.propertyAt.get(property);
  if (at === undefined) return undefined;
  const overrides = overridesOf(x, instance);
  const override = own(overrides ?? undefined, property);
  if (override !== undefined) return override;
  return asset.properties[at].default;
}
