import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Placement, Value } from '../project/types.js';
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

/**
 * The overrides that an instance begins with: its placement's, or those of the effect that spawns it; over them what the
 * placements of what contains it say of what stands inside, the outermost last. Cost: how deep it stands, where any
 * placement says such things.
 */
export function overridesOf(x: Expansion, instance: number): Record<string, Value> | undefined {
  const parent = x.parent[instance];
  if (parent < 0) return undefined;
  const placement = placementOf(x, instance);
  if (!placement) {
    const slot = x.slot[instance] - x.assetOf(parent).placements.length;
    return x.standIns.of(x.asset[parent])[slot].effect.properties;
  }
  const { properties } = placement;
  return saysInside(x.index) ? fromOutside(x, instance, placement.id, properties) : properties;
}

function fromOutside(
  x: Expansion,
  instance: number,
  id: string,
  properties: Record<string, Value> | undefined,
): Record<string, Value> | undefined {
  let path = id;
  let all = properties;
  for (let around = x.parent[instance]; around >= 0; around = x.parent[around]) {
    const placement = placementOf(x, around);
    if (!placement) break;
    const said = own(placement.inside, path);
    if (said) all = { ...all, ...said };
    path = `${placement.id}/${path}`;
  }
  return all;
}
/** The placement that yields an instance; null for a scene and for what is spawned. */
function placementOf(x: Expansion, instance: number): Placement | null {
  const parent = x.parent[instance];
  return parent < 0 ? null : (x.assetOf(parent).placements[x.slot[instance]] ?? null);
}
const saying = new WeakMap<ProjectIndex, boolean>();
const sayingAssets = new WeakMap<AssetIndex, boolean>();
/** Whether any placement says something of what stands inside it. Cost: the placements, once; those that an edit changes, then. */
function saysInside(index: ProjectIndex): boolean {
  let says = saying.get(index);
  if (says === undefined) saying.set(index, (says = index.assets.some(assetSaysInside)));
  return says;
}
function assetSaysInside(asset: AssetIndex): boolean {
  let says = sayingAssets.get(asset);
  if (says === undefined) {
    sayingAssets.set(asset, (says = asset.placements.some((p) => p.inside !== undefined)));
  }
  return says;
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
