import type { ChangeSet } from '../edit/change.js';
import { withInside } from '../edit/inside.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import type { Placement, Property, Value } from '../project/types.js';
import { valuesOfType } from '../project/type-values.js';
import { nearest } from '../project/nearest.js';
import { changePlacement, placementOf, type ProposeFixes } from './proposal.js';
import { own } from '../util/own.js';

/** Places the nearest asset, or nothing. */
export const fixUnknownAsset: ProposeFixes = (index, finding) => {
  const found = placementOf(index, finding);
  if (!found) return [];
  const { owner, placement } = found;
  const placeable = index.assets.filter((a) => a.decl.kind !== 'scene').map((a) => a.decl.id);
  const asset = owner.decl.id;
  return [
    ...nearest(placement.asset, placeable).map((name) =>
      changePlacement(owner, { ...placement, asset: name }, `Place a ${name}`),
    ),
    {
      label: `Remove the placement ${placement.id}`,
      changes: [{ op: 'remove', list: 'placements', asset, id: placement.id }],
    },
  ];
};

/** A muted binding, override or peer that is not there: the nearest name, or none. */
export const fixName: ProposeFixes = (index, finding) => {
  const found = placementOf(index, finding);
  if (!found) return [];
  const { owner, placement, slot } = found;
  const placed = index.assets[owner.placed[slot]];
  const { subject } = finding;
  const change = (item: Placement, label: string): ChangeSet => changePlacement(owner, item, label);
  if (finding.class === 'muted' && 'name' in subject && placed) {
    const others = (placement.muted ?? []).filter((m) => m !== subject.name);
    return [
      ...nearest(subject.name, placed.bindingAt.keys()).map((name) =>
        change({ ...placement, muted: [...others, name] }, `Mute ${name}`),
      ),
      change({ ...placement, muted: others }, `Do not mute ${subject.name}`),
    ];
  }
  if (finding.class === 'peer' && 'name' in subject) {
    const rename = (peer: string | undefined): Placement => {
      const next = { ...placement };
      for (const role of ['authority', 'operator'] as const) {
        if (next[role] !== subject.name) continue;
        if (peer === undefined) delete next[role];
        else next[role] = peer;
      }
      return next;
    };
    const peers = (index.project.peers ?? []).map((p) => p.name);
    return [
      ...nearest(subject.name, peers).map((peer) => change(rename(peer), `It belongs to ${peer}`)),
      change(rename(undefined), 'It belongs to the peer around it'),
    ];
  }
  if (finding.class === 'override' && 'name' in subject && placement.inside) {
    const { [subject.name]: _gone, ...others } = placement.inside;
    const { inside: _all, ...bare } = placement;
    const item = Object.keys(others).length > 0 ? { ...bare, inside: others } : bare;
    return [change(item, `Set nothing at ${subject.name}`)];
  }
  if ('property' in subject && placement.inside && subject.property.includes('.')) {
    const dot = subject.property.lastIndexOf('.');
    const [path, name] = [subject.property.slice(0, dot), subject.property.slice(dot + 1)];
    const item = withInside(placement, path, name, undefined);
    return [change(item, `Do not set ${name} of ${path}`)];
  }
  if (!('property' in subject) || !placement.properties) return [];
  const { [subject.property]: value, ...others } = placement.properties;
  const bare = change({ ...placement, properties: others }, `Do not override ${subject.property}`);
  if (finding.class !== 'override' || !placed) return [bare];
  const renamed = nearest(subject.property, placed.propertyAt.keys()).map((name) =>
    change({ ...placement, properties: { ...others, [name]: value } }, `Override ${name}`),
  );
  return [...renamed, bare];
};

/** Each copy that keeps the default key gets a value that none has, set where it, or what contains it, is placed. */
export const fixDefaultKey: ProposeFixes = (index, finding) => {
  const { subject } = finding;
  if (!('property' in subject) || 'placement' in subject) return [];
  const asset = index.assets[index.assetAt.get(subject.asset) ?? -1] as AssetIndex | undefined;
  const decl = asset?.properties[asset.propertyAt.get(subject.property) ?? -1];
  if (!decl) return [];
  const used = usedValues(index, subject.property);
  const fresh = freshValues(index, decl, used);
  const items = new Map<string, { asset: string; item: Placement }>();
  // The first keeps the default.
  for (const address of finding.occurrences.slice(1)) {
    const { scene, segments } = parsePath(address);
    const owner = index.assets[index.assetAt.get(scene ?? '') ?? -1] as AssetIndex | undefined;
    const slot = owner?.placementAt.get(segments[0]);
    const next = fresh.next();
    if (!owner || slot === undefined || next.done === true) return [];
    const { value } = next;
    const key = `${scene}:${segments[0]}`;
    const before = items.get(key)?.item ?? owner.placements[slot];
    const path = segments.slice(1).join('/');
    const item =
      path === ''
        ? { ...before, properties: { ...before.properties, [subject.property]: value } }
        : withInside(before, path, subject.property, value);
    items.set(key, { asset: owner.decl.id, item });
  }
  const changes = [...items.values()].map(({ asset: of, item }) => ({
    op: 'replace' as const,
    list: 'placements' as const,
    asset: of,
    id: item.id,
    item,
  }));
  return changes.length === 0 ? [] : [{ label: `Give each its own ${subject.property}`, changes }];
};
/** Every value that some placement gives to a property of that name. Cost: the placements. */
function usedValues(index: ProjectIndex, property: string): Set<Value> {
  const used = new Set<Value>();
  for (const { placements } of index.assets) {
    for (const p of placements) {
      for (const values of [p.properties, ...Object.values(p.inside ?? {})]) {
        const value = own(values, property);
        if (value !== undefined) used.add(value);
      }
    }
  }
  return used;
}
/** Values of the property's type that are not used yet; for a boolean, a pair or a text there is no next one. */
function* freshValues(
  index: ProjectIndex,
  { type, default: first }: Property,
  used: Set<Value>,
): Iterator<Value> {
  if (typeof first === 'number') {
    for (let n = Math.floor(first) + 1; ; n++) if (!used.has(n)) yield n;
  }
  for (const value of valuesOfType(index, type)) {
    if (typeof value === 'string' && value !== first && !used.has(value)) yield value;
  }
}

/** It does not begin asleep. */
export const fixAsleep: ProposeFixes = (index, finding) => {
  const found = placementOf(index, finding);
  if (!found) return [];
  const { asleep: _asleep, ...awake } = found.placement;
  return [changePlacement(found.owner, awake, `Start ${awake.id} awake`)];
};

/** Every second holder of the value gets the next free number. */
export const fixSharedKey: ProposeFixes = (index, finding) => {
  const { subject } = finding;
  if (!('key' in subject) || typeof subject.key !== 'number') return [];
  const used = new Set<Value>();
  const holders: { asset: number; placement: Placement }[] = [];
  for (const owner of index.assets) {
    owner.placements.forEach((placement, slot) => {
      const placed = index.assets[owner.placed[slot]];
      if (placed?.decl.id !== subject.asset) return;
      const property = placed.properties[placed.propertyAt.get(subject.property) ?? -1];
      const value = own(placement.properties, subject.property) ?? property.default;
      used.add(value);
      if (value === subject.key) holders.push({ asset: owner.at, placement });
    });
  }
  let next = subject.key;
  const changes = holders.slice(1).map(({ asset, placement }) => {
    do next++;
    while (used.has(next));
    used.add(next);
    const item = { ...placement, properties: { ...placement.properties, [subject.property]: next } };
    return {
      op: 'replace' as const,
      list: 'placements' as const,
      asset: index.assets[asset].decl.id,
      id: item.id,
      item,
    };
  });
  return changes.length === 0 ? [] : [{ label: `Give each its own ${subject.property}`, changes }];
};
