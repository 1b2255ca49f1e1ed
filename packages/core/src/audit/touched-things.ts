import type { PlacementEdit } from '../expand/edit-instances.js';
import type { ThingsEdit } from '../graph/graph-delta.js';
import type { ProjectIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type { Binding, Placement, Project } from '../project/types.js';
import { alignLists } from '../util/align-lists.js';
import type { AnalysisInputs } from './inputs.js';

const NONE: readonly Placement[] = [];

/**
 * What an edit does that places other things in some assets, and the bindings that are to be resolved again for it: those with a
 * path through what comes or goes, and those that select assets of it. Null where it cannot be followed: something spawned has
 * these assets in it, or things contain themselves. Cost: the bindings' paths, and the placements and copies of those assets.
 */
export function thingsEdit(
  inputs: AnalysisInputs,
  assets: readonly number[],
  before: Project,
  after: Project,
): ThingsEdit | null {
  const { x, index } = inputs;
  if (x.stopped.length > 0 || assets.some((at) => inputs.spawned.has(at))) return null;
  const ids = new Set<string>();
  const selected = new Set<string>();
  const edits = assets.map((asset): PlacementEdit => {
    const [was, is] = [before, after].map((p) => p.assets[asset].placements ?? NONE);
    const { moved, gone, fresh } = alignLists(was, is);
    for (const p of [...gone.map((slot) => was[slot]), ...fresh.map((slot) => is[slot])]) {
      ids.add(p.id);
      for (const id of contained(index, after, p.asset)) selected.add(id);
    }
    return { asset, moved, gone, fresh };
  });
  if (assets.some((at) => selected.has(index.assets[at].decl.id))) return null;
  return { edits, partly: bindingsOf(inputs, assets, ids, selected) };
}

/** An asset and all that may stand in it, before the edit or after it, by id. */
function contained({ assets, assetAt }: ProjectIndex, after: Project, root: string): Set<string> {
  const found = new Set([root]);
  for (const id of found) {
    const at = assetAt.get(id);
    if (at === undefined) continue;
    for (const list of [assets[at].placements, after.assets[at].placements ?? NONE]) {
      for (const p of list) found.add(p.asset);
    }
  }
  return found;
}

function bindingsOf(
  inputs: AnalysisInputs,
  assets: readonly number[],
  ids: ReadonlySet<string>,
  selected: ReadonlySet<string>,
): Map<number, Set<number>> {
  const { x, index } = inputs;
  const found = new Map<number, Set<number>>();
  const take = (asset: number, position: number, owners: Set<number>): unknown =>
    found.set(x.slots.base[asset] + x.slots.slot(asset, position), owners);
  // Paths from an owner and what it selects inside of it lead down.
  const around = new Set<number>();
  for (const asset of assets) {
    for (const i of x.instancesOf(asset)) {
      for (let at = i; at >= 0 && !around.has(at); at = x.parent[at]) around.add(at);
    }
  }
  for (const at of assetsAround(index, assets)) {
    const owners = new Set(x.instancesOf(at).filter((i) => around.has(i)));
    index.assets[at].bindings.forEach((binding, position) => {
      if (namesOne(binding, ids) || ('every' in binding.to && selected.has(binding.to.every)))
        take(at, position, owners);
    });
  }
  for (const number of inputs.bindingsThat('lead far')) {
    const { from, to } = inputs.bindingAt(number)!;
    const isConcerned =
      [from, to].some((end) => 'at' in end && parsePath(end.at).segments.some((s) => ids.has(s))) ||
      ('every' in to && selected.has(to.every));
    if (isConcerned) found.set(number, new Set(x.instancesOf(x.slots.assetOf(number))));
  }
  return found;
}
function namesOne({ from, to }: Binding, ids: ReadonlySet<string>): boolean {
  return ('at' in from && leadsThrough(from.at, ids)) || ('at' in to && leadsThrough(to.at, ids));
}
/** Most paths are one name. */
function leadsThrough(path: string, ids: ReadonlySet<string>): boolean {
  return ids.has(path) || (path.includes('/') && parsePath(path).segments.some((s) => ids.has(s)));
}

/** These assets and all that have them inside. Cost: the placements of prefabs and widgets, and those of the scenes. */
export function assetsAround({ assets }: ProjectIndex, inner: readonly number[]): Set<number> {
  const found = new Set(inner);
  if (inner.every((at) => assets[at].decl.kind === 'scene')) return found;
  const within = new Map<number, Set<number>>();
  for (const { at, placed } of assets) {
    for (const to of placed) {
      const own = within.get(to);
      if (own) own.add(at);
      else within.set(to, new Set([at]));
    }
  }
  for (const at of found) for (const outer of within.get(at) ?? []) found.add(outer);
  return found;
}
