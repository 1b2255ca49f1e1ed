import type { Area, Reachable } from '@oquel/core';

/** Something on the plan. */
export interface Thing {
  /** As a binding of the plan's owner names it. */
  path: string;
  /** What stands beside its mark. */
  label: string;
  /** Its asset's id. */
  asset: string;
  kind: 'scene' | 'prefab' | 'widget';
  /** Metres. */
  at: readonly [number, number];
  /** 0 for the owner of the plan itself, 1 for its own placements, more for nested ones. */
  depth: number;
  area?: Area;
  entry: boolean;
  asleep: boolean;
}

export function toThing(t: Reachable): Thing {
  return {
    path: t.path,
    label: t.path === '.' ? 'itself' : t.path,
    asset: t.asset.decl.id,
    kind: t.asset.decl.kind,
    at: t.at,
    depth: t.depth,
    area: t.placement?.area ?? t.asset.decl.area,
    entry: t.placement?.entry === true,
    asleep: t.asleep,
  };
}
