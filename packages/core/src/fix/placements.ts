import type { ChangeSet } from '../edit/change.js';
import type { Placement, Value } from '../project/types.js';
import { nearest } from './nearest.js';
import { changePlacement, placementOf, type Fixer } from './proposal.js';
import { own } from '../util/own.js';

/** Places the nearest asset, or nothing. */
export const fixUnknownAsset: Fixer = (index, finding) => {
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
      label: `Take ${placement.id} away`,
      changes: [{ op: 'remove', list: 'placements', asset, id: placement.id }],
    },
  ];
};

/** A muted binding, override or peer that is not there: the nearest name, or none. */
export const fixName: Fixer = (index, finding) => {
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
  if (!('property' in subject) || !placement.properties) return [];
  const { [subject.property]: value, ...others } = placement.properties;
  const bare = change({ ...placement, properties: others }, `Do not override ${subject.property}`);
  if (finding.class !== 'override' || !placed) return [bare];
  const renamed = nearest(subject.property, placed.propertyAt.keys()).map((name) =>
    change({ ...placement, properties: { ...others, [name]: value } }, `Override ${name}`),
  );
  return [...renamed, bare];
};

/** It does not begin asleep. */
export const fixAsleep: Fixer = (index, finding) => {
  const found = placementOf(index, finding);
  if (!found) return [];
  const { asleep: _asleep, ...awake } = found.placement;
  return [changePlacement(found.owner, awake, `Let ${awake.id} begin awake`)];
};

/** Every second holder of the value gets the next free number. */
export const fixSharedKey: Fixer = (index, finding) => {
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
