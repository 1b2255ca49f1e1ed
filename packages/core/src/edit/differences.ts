import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Area, Binding, Placement, Value } from '../project/types.js';
import { assetInside } from '../project/inside.js';
import { sameValue } from '../project/value.js';

/** In what a placement differs from the prefab or widget that it is one of. */
export interface Differences {
  /** Properties that are overridden with another value than the default, and what the default is. */
  values: { property: string; value: Value; usual: Value | undefined; isKey: boolean }[];
  /** Its asset's own bindings that are off here. */
  muted: { id: string; /** Undefined if the asset has none of that id. */ binding: Binding | undefined }[];
  area: Area | null;
}

/** Cost: the overrides and mutes of the placement. */
export function differencesOf(index: ProjectIndex, p: Placement): Differences {
  const asset: AssetIndex | undefined = index.assets[index.assetAt.get(p.asset) ?? -1];
  const values: Differences['values'] = Object.entries(p.properties ?? {}).flatMap(([property, value]) => {
    const decl = asset?.properties[asset.propertyAt.get(property) ?? -1];
    const usual = decl?.default;
    if (usual !== undefined && sameValue(value, usual)) return [];
    return [{ property, value, usual, isKey: decl?.isKey === true || decl?.unique === true }];
  });
  for (const [path, inner] of Object.entries(p.inside ?? {})) {
    const of = asset ? assetInside(index, asset, path) : null;
    for (const [property, value] of Object.entries(inner)) {
      const decl = of?.properties[of.propertyAt.get(property) ?? -1];
      const isKey = decl?.isKey === true || decl?.unique === true;
      values.push({ property: `${path}.${property}`, value, usual: decl?.default, isKey });
    }
  }
  const muted = (p.muted ?? []).map((id) => ({
    id,
    binding: asset?.bindings[asset.bindingAt.get(id) ?? -1],
  }));
  const same = p.area === undefined || JSON.stringify(p.area) === JSON.stringify(asset?.decl.area);
  return { values, muted, area: same ? null : p.area! };
}
/** Whether it differs in anything but keys, which are there to differ. */
export function differs({ values, muted, area }: Differences): boolean {
  return values.some((v) => !v.isKey) || muted.length > 0 || area !== null;
}

/** The placement as its asset is: without mutes, without its own area, without overrides but those of keys. */
export function asItsAsset(index: ProjectIndex, p: Placement): Placement {
  const asset: AssetIndex | undefined = index.assets[index.assetAt.get(p.asset) ?? -1];
  const isKey = (name: string): boolean => {
    const decl = asset?.properties[asset.propertyAt.get(name) ?? -1];
    return decl?.isKey === true || decl?.unique === true;
  };
  const { muted: _muted, area: _area, properties, inside, ...rest } = p;
  const keys = Object.entries(properties ?? {}).filter(([name]) => isKey(name));
  const inner = Object.entries(inside ?? {}).flatMap(([path, values]) => {
    const of = asset ? assetInside(index, asset, path) : null;
    const kept = Object.entries(values).filter(([name]) => {
      const decl = of?.properties[of.propertyAt.get(name) ?? -1];
      return decl?.isKey === true || decl?.unique === true;
    });
    return kept.length > 0 ? [[path, Object.fromEntries(kept)] as const] : [];
  });
  return {
    ...rest,
    ...(keys.length > 0 ? { properties: Object.fromEntries(keys) } : {}),
    ...(inner.length > 0 ? { inside: Object.fromEntries(inner) } : {}),
  };
}

/** The placement with one of its asset's own bindings off, or on again. */
export function muting(p: Placement, binding: string, off: boolean): Placement {
  const { muted = [], ...rest } = p;
  const next = off ? [...new Set([...muted, binding])] : muted.filter((id) => id !== binding);
  return next.length > 0 ? { ...rest, muted: next } : rest;
}
