import { markOf, monograms, type Area, type Mark, type ProjectIndex, type Reachable } from '@oquel/core';

/** Something on the plan. */
export interface Thing {
  /** As a binding of the plan's owner names it. */
  path: string;
  /** What stands beside its mark. */
  label: string;
  /** Its asset's id. */
  asset: string;
  kind: 'scene' | 'prefab' | 'widget';
  /** What it is, and the letters of its asset, which no other asset has. */
  mark: Mark;
  letters: string;
  /** Metres. */
  at: readonly [number, number];
  /** 0 for the owner of the plan itself, 1 for its own placements, more for nested ones. */
  depth: number;
  area?: Area;
  entry: boolean;
  asleep: boolean;
}

/** Things as the plans of a project draw them. */
export function thingsOf(index: ProjectIndex, reachable: readonly Reachable[]): Thing[] {
  const letters = lettersOf(index);
  return reachable.map((t) => toThing(t, letters));
}
/** Made once for each state of a project's list of assets. */
const known = new WeakMap<object, Map<string, string>>();
function lettersOf({ assetAt }: ProjectIndex): Map<string, string> {
  let letters = known.get(assetAt);
  if (!letters) known.set(assetAt, (letters = monograms([...assetAt.keys()])));
  return letters;
}

function toThing(t: Reachable, letters: ReadonlyMap<string, string>): Thing {
  return {
    path: t.path,
    label: t.path === '.' ? 'itself' : t.path,
    asset: t.asset.decl.id,
    kind: t.asset.decl.kind,
    mark: markOf(t.asset.decl),
    letters: letters.get(t.asset.decl.id) ?? '',
    at: t.at,
    depth: t.depth,
    area: t.placement?.area ?? t.asset.decl.area,
    entry: t.placement?.entry === true,
    asleep: t.asleep,
  };
}
