import {
  duplicationOf,
  freePlacementId,
  metres,
  placementStem,
  removalOf,
  renameName,
  placementEditsOf,
  rotateArea,
  rotatePoint,
  type Asset,
  type AssetIndex,
  type ChangeSet,
  type Finding,
  type Placement,
  type ProjectIndex,
  type Value,
  type Vec2,
  put,
} from '@oquel/core';

/** Edits of the stage as change sets with a sentence each. */

export function some(ids: readonly string[]): string {
  return ids.length === 1 ? ids[0] : `${ids.length} things`;
}

export function placing(
  owner: AssetIndex,
  asset: string,
  at: readonly [number, number],
): { changeSet: ChangeSet; id: string } {
  const id = freePlacementId(owner, placementStem(asset));
  const item: Placement = { id, asset, at: [metres(at[0]), metres(at[1])] };
  const scene = owner.decl.id;
  return {
    id,
    changeSet: {
      label: `${scene}: placed ${id}`,
      changes: [{ op: 'insert', list: 'placements', asset: scene, index: owner.placements.length, item }],
    },
  };
}
/** The same of a prefab or widget that is made with it, as one edit. */
export function placingNew(
  index: ProjectIndex,
  owner: AssetIndex,
  kind: 'prefab' | 'widget',
  asset: string,
  at: readonly [number, number],
): { changeSet: ChangeSet; id: string } {
  const placed = placing(owner, asset, at);
  const { changes } = creating(index, kind, asset);
  return {
    id: placed.id,
    changeSet: {
      label: `${owner.decl.id}: placed ${placed.id}, a new ${kind} ${asset}`,
      changes: [...changes, ...placed.changeSet.changes],
    },
  };
}

export function moving(
  owner: AssetIndex,
  ids: readonly string[],
  [dx, dy]: readonly [number, number],
): ChangeSet {
  const changes = placementEditsOf(owner, ids, (p) => {
    const [x, y] = p.at ?? [0, 0];
    return { ...p, at: [metres(x + dx), metres(y + dy)] };
  });
  return { label: `${owner.decl.id}: moved ${some(ids)}`, changes };
}

/** Rotates things as a group about their middle, each with its own area. Degrees, clockwise. */
export function rotating(
  index: ProjectIndex,
  owner: AssetIndex,
  ids: readonly string[],
  degrees: number,
): ChangeSet {
  const places = ids.map((id) => owner.placements[owner.placementAt.get(id)!].at ?? [0, 0]);
  const middle = (i: 0 | 1): number => {
    let [low, high] = [Infinity, -Infinity];
    for (const place of places) {
      low = Math.min(low, place[i]);
      high = Math.max(high, place[i]);
    }
    return (low + high) / 2;
  };
  const centre = [middle(0), middle(1)] as const;
  const changes = placementEditsOf(owner, ids, (p) => {
    const area = p.area ?? index.assets[index.assetAt.get(p.asset) ?? -1]?.decl.area;
    const turned = area && rotateArea(area, degrees);
    const own = turned && JSON.stringify(turned) !== JSON.stringify(area) ? { area: turned } : {};
    const at = ids.length > 1 ? { at: rotatePoint(p.at ?? [0, 0], centre, degrees) } : {};
    return { ...p, ...at, ...own };
  });
  return { label: `${owner.decl.id}: rotated ${some(ids)} by ${degrees} degrees`, changes };
}

/** Puts one thing at another place in the list: the order in which things begin. */
export function reordering(owner: AssetIndex, id: string, index: number): ChangeSet {
  const asset = owner.decl.id;
  return {
    label: `${asset}: moved ${id} in the list`,
    changes: [{ op: 'move', list: 'placements', asset, id, index }],
  };
}

/** A new scene, prefab or widget with nothing in it. */
export function creating(
  index: ProjectIndex,
  kind: Asset['kind'],
  id: string,
  size: Vec2 = [60, 40],
): ChangeSet {
  const item: Asset = kind === 'scene' ? { id, kind, size } : { id, kind };
  return { label: `${id}: a new ${kind}`, changes: [{ op: 'add', index: index.assets.length, item }] };
}
/** The same under another name, with all that it holds. */
export function copying(index: ProjectIndex, { decl }: AssetIndex): { changeSet: ChangeSet; id: string } {
  const stem = decl.id.replace(/-?\d+$/, '');
  let n = 2;
  const name = (): string => (decl.kind === 'scene' ? `${stem}-${n}` : `${stem}${n}`);
  while (index.assetAt.has(name())) n++;
  const id = name();
  const item: Asset = { ...decl, id };
  return {
    id,
    changeSet: {
      label: `${id}: a copy of ${decl.id}`,
      changes: [{ op: 'add', index: index.assets.length, item }],
    },
  };
}
export function renamingAsset(
  index: ProjectIndex,
  findings: readonly Finding[],
  id: string,
  to: string,
): ChangeSet {
  const changes = renameName(index, { kind: 'asset', asset: '', of: '', name: id }, to, findings);
  return { label: `renamed ${id} to ${to}`, changes };
}
export function dropping({ decl }: AssetIndex): ChangeSet {
  return { label: `removed ${decl.id}`, changes: [{ op: 'drop', asset: decl.id }] };
}

export function renaming(
  index: ProjectIndex,
  findings: readonly Finding[],
  owner: AssetIndex,
  id: string,
  to: string,
): ChangeSet {
  const asset = owner.decl.id;
  const changes = renameName(index, { kind: 'placement', asset, of: '', name: id }, to, findings);
  return { label: `${asset}: renamed ${id} to ${to}`, changes };
}

export function duplicating(
  owner: AssetIndex,
  ids: readonly string[],
  wired: boolean,
): { changeSet: ChangeSet; copies: string[] } {
  const { changes, copies } = duplicationOf(owner, ids, [2, 2], wired);
  const label = `${owner.decl.id}: duplicated ${some(ids)}${wired ? ' with their bindings' : ''}`;
  return { changeSet: { label, changes }, copies: [...copies.values()] };
}

export function removing(
  index: ProjectIndex,
  owner: AssetIndex,
  ids: readonly string[],
  wired: boolean,
): ChangeSet {
  return {
    label: `${owner.decl.id}: removed ${some(ids)} from the plan${wired ? ', with bindings' : ''}`,
    changes: removalOf(index, owner, ids, wired),
  };
}

/** Sets one part of many placements; undefined takes it away. */
export function setting<K extends keyof Placement>(
  owner: AssetIndex,
  ids: readonly string[],
  part: K,
  value: Placement[K] | undefined,
): ChangeSet {
  const changes = placementEditsOf(owner, ids, (p) => withPart(p, part, value));
  const how = value === undefined || value === false ? `took ${part} from` : `set ${part} of`;
  return { label: `${owner.decl.id}: ${how} ${some(ids)}`, changes };
}

/** Overrides one property of many placements; undefined gives the default back. */
export function overriding(
  owner: AssetIndex,
  ids: readonly string[],
  property: string,
  value: Value | undefined,
): ChangeSet {
  const changes = placementEditsOf(owner, ids, (p) => {
    const properties = { ...p.properties };
    if (value === undefined) delete properties[property];
    else put(properties, property, value);
    return withPart(p, 'properties', Object.keys(properties).length > 0 ? properties : undefined);
  });
  const to = value === undefined ? 'back to its default' : `to ${JSON.stringify(value)}`;
  return { label: `${owner.decl.id}: set ${property} of ${some(ids)} ${to}`, changes };
}

function withPart<K extends keyof Placement>(
  placement: Placement,
  part: K,
  value: Placement[K] | undefined,
): Placement {
  const { [part]: _, ...rest } = placement;
  return (value === undefined ? rest : { ...placement, [part]: value }) as Placement;
}
