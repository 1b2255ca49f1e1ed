import { parsePath } from '../project/path.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Placement, Value, Vec2 } from '../project/types.js';
import { sameValue } from '../project/value.js';
import type { Change } from './change.js';
import type { NameRef } from '../names/name.js';
import { usesOfNames, type BindingUse } from '../names/uses.js';
import { firstFree } from './first-free.js';
import { freeBindingId } from './wiring.js';
import { append } from '../util/append.js';
import { own } from '../util/own.js';

/** Every binding of the project that names one of these placements of an owner, or a way through it. Linear in the document. */
export function bindingsNaming(
  index: ProjectIndex,
  owner: AssetIndex,
  ids: ReadonlySet<string>,
): BindingUse[] {
  const asset = owner.decl.id;
  return usesOfNames(
    index,
    [...ids].map((name): NameRef => ({ kind: 'placement', asset, of: '', name })),
  ).bindings;
}

/** Takes placements off their owner; with `bindings` also the bindings of that owner that would name nothing then. */
export function removalOf(
  index: ProjectIndex,
  owner: AssetIndex,
  ids: readonly string[],
  bindings: boolean,
): Change[] {
  const asset = owner.decl.id;
  const naming = bindings ? bindingsNaming(index, owner, new Set(ids)) : [];
  return [
    ...naming.map((n): Change => ({
      op: 'remove',
      list: 'bindings',
      asset: n.owner.decl.id,
      id: n.binding.id,
    })),
    ...ids.map((id): Change => ({ op: 'remove', list: 'placements', asset, id })),
  ];
}

export interface Duplication {
  changes: Change[];
  /** For each placement the id of its copy. */
  copies: Map<string, string>;
}

/**
 * Copies placements of an owner as a group, moved by some metres. With `bindings` the owner's bindings that name them
 * are copied too: what names one of the group names its copy, what names anything else goes on naming that.
 */
export function duplicationOf(
  owner: AssetIndex,
  ids: readonly string[],
  [dx, dy]: Vec2,
  bindings: boolean,
): Duplication {
  const asset = owner.decl.id;
  const copies = new Map<string, string>();
  const taken = new Set<string>();
  for (const id of ids) {
    const copy = freePlacementId(owner, id, taken);
    taken.add(copy);
    copies.set(id, copy);
  }
  const changes = ids.map((id, i): Change => {
    const placement = owner.placements[owner.placementAt.get(id)!];
    const [x, y] = placement.at ?? [0, 0];
    const item: Placement = { ...placement, id: copies.get(id)!, at: [metres(x + dx), metres(y + dy)] };
    return { op: 'insert', list: 'placements', asset, index: owner.placements.length + i, item };
  });
  if (bindings) append(changes, bindingCopies(owner, copies));
  return { changes, copies };
}

function bindingCopies(owner: AssetIndex, copies: ReadonlyMap<string, string>): Change[] {
  const taken = new Set<string>();
  const changes: Change[] = [];
  for (const binding of owner.bindings) {
    const copy = carriedOver(owner, binding, copies);
    if (samePaths(copy, binding)) continue;
    const id = freeBindingId(owner, binding.id.replace(/-\d+$/, ''), taken);
    taken.add(id);
    changes.push({
      op: 'insert',
      list: 'bindings',
      asset: owner.decl.id,
      index: owner.bindings.length + changes.length,
      item: { ...copy, id },
    });
  }
  return changes;
}

/** The same binding of an owner with copies of placements in the place of those that it names. */
export function carriedOver<B extends Pick<Binding, 'from' | 'to'>>(
  owner: AssetIndex,
  binding: B,
  copies: ReadonlyMap<string, string>,
): B {
  const change = (path: string): string => {
    const { scene, segments } = parsePath(path);
    const here = scene === null || (scene === owner.decl.id && owner.decl.kind === 'scene');
    const copy = here && segments.length > 0 ? copies.get(segments[0]) : undefined;
    if (copy === undefined) return path;
    const carried = [copy, ...segments.slice(1)].join('/');
    return scene === null ? carried : `${scene}:${carried}`;
  };
  const { from, to } = binding;
  return {
    ...binding,
    from: 'at' in from ? { ...from, at: change(from.at) } : from,
    to: 'at' in to ? { ...to, at: change(to.at) } : to,
  };
}
function samePaths(a: Binding, b: Binding): boolean {
  const paths = ({ from, to }: Binding): string =>
    JSON.stringify(['at' in from ? from.at : null, 'at' in to ? to.at : null]);
  return paths(a) === paths(b);
}

/** A free id for a placement: the next number behind the same stem, such as `mast-4` after `mast-3`. */
export function freePlacementId(
  owner: AssetIndex,
  like: string,
  taken: ReadonlySet<string> = new Set(),
): string {
  const stem = like.replace(/-?\d+$/, '').slice(0, 56) || 'thing';
  const isTaken = (id: string): boolean => owner.placementAt.has(id) || taken.has(id);
  return firstFree(`${owner.decl.id} places ${stem}`, stem, taken, isTaken);
}
/** The stem of ids for placements of an asset: `WindMast` gives `wind-mast`. */
export function placementStem(asset: string): string {
  return asset
    .replace(/([a-z0-9])([A-Z])/g, '$1-$2')
    .replace(/_/g, '-')
    .toLowerCase();
}

/** Positions are kept in whole millimetres, so that moving there and back ends where it began. */
export function metres(value: number): number {
  return Math.round(value * 1000) / 1000;
}

/** Placements of the same asset in an owner that hold this value of a property, by override or by default. */
export function holdersOf(
  index: ProjectIndex,
  owner: AssetIndex,
  asset: string,
  property: string,
  value: Value,
): string[] {
  const placed = index.assets[index.assetAt.get(asset) ?? -1] as AssetIndex | undefined;
  const decl = placed?.properties[placed.propertyAt.get(property) ?? -1];
  if (!decl) return [];
  return owner.placements
    .filter((p) => p.asset === asset && sameValue(own(p.properties, property) ?? decl.default, value))
    .map((p) => p.id);
}

/** Changes that put other values into placements; one that comes out the same is left as it is. */
export function placementEditsOf(
  owner: AssetIndex,
  ids: readonly string[],
  change: (placement: Placement) => Placement,
): Change[] {
  return ids.flatMap((id): Change[] => {
    const before = owner.placements[owner.placementAt.get(id)!];
    const item = change(before);
    if (JSON.stringify(item) === JSON.stringify(before)) return [];
    return [{ op: 'replace', list: 'placements', asset: owner.decl.id, id, item }];
  });
}
