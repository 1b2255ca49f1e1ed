import { bindingEnds } from '../edit/binding-ends.js';
import { canonicalJson } from '../project/canonical.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';

export type RenamedKind =
  'asset' | 'event' | 'action' | 'property' | 'placement' | 'channel' | 'enum' | 'table';
/** Something that has another name now. */
export interface Rename {
  kind: RenamedKind;
  /** The asset that it belongs to, by its later id; empty for what belongs to the project. */
  asset: string;
  from: string;
  to: string;
}
/** Renames of what assets declare, each by the earlier name. */
export interface AssetRenames {
  event: Map<string, Rename>;
  action: Map<string, Rename>;
  property: Map<string, Rename>;
  placement: Map<string, Rename>;
}
/** Everything that got another name between two states of a project. Assets are looked up by their earlier id. */
export interface Renames {
  asset: Map<string, Rename>;
  channel: Map<string, Rename>;
  enum: Map<string, Rename>;
  table: Map<string, Rename>;
  inside: Map<string, AssetRenames>;
}

/**
 * Finds what was renamed: of names that are gone and names that are new, those pairs belong together which bindings and
 * placements of the same id now use one for the other, or whose declarations are the same but for the name (and stand in
 * the same place, where sameness alone would say little). Linear in both documents, but for the paths of bindings
 * that differ.
 */
export function findRenames(before: ProjectIndex, after: ProjectIndex): Renames {
  const asset = pairAssets(before, after);
  const votes = countVotes(before, after, asset);
  const renames: Renames = {
    asset,
    channel: named('channel', '', before.project.channels, after.project.channels, votes),
    enum: named('enum', '', before.project.enums, after.project.enums, votes),
    table: named('table', '', before.project.tables, after.project.tables, votes),
    inside: new Map(),
  };
  for (const old of before.assets) {
    const { id } = old.decl;
    const now = after.assets[after.assetAt.get(asset.get(id)?.to ?? id) ?? -1] as AssetIndex | undefined;
    if (!now || now.decl === old.decl) continue;
    const own = now.decl.id;
    const inside: AssetRenames = {
      event: named('event', own, old.events, now.events, votes),
      action: named('action', own, old.actions, now.actions, votes),
      property: named('property', own, old.properties, now.properties, votes),
      placement: pairPlacements(own, old, now, asset),
    };
    if (Object.values(inside).some((m: Map<string, Rename>) => m.size > 0)) renames.inside.set(id, inside);
  }
  return renames;
}

/** Every rename as a list: of the project, then of each asset. */
export function allRenames({ asset, channel, enum: enums, table, inside }: Renames): Rename[] {
  const own = [asset, channel, enums, table].flatMap((m) => [...m.values()]);
  const rest = [...inside.values()].flatMap((r) =>
    [r.event, r.action, r.property, r.placement].flatMap((m) => [...m.values()]),
  );
  return [...own, ...rest];
}

/** How often a later name stands where an earlier one stood, by kind, asset (its later id) and earlier name. */
type Votes = Map<string, Map<string, number>>;
function vote(votes: Votes, kind: RenamedKind, asset: string, from: string, to: string): void {
  const key = `${kind}/${asset}/${from}`;
  const of = votes.get(key) ?? new Map<string, number>();
  of.set(to, (of.get(to) ?? 0) + 1);
  votes.set(key, of);
}

/** Pairs what has no counterpart of its own name. */
function named<T extends { name: string }>(
  kind: RenamedKind,
  asset: string,
  before: readonly T[] = [],
  after: readonly T[] = [],
  votes: Votes,
): Map<string, Rename> {
  const pairs = new Map<string, Rename>();
  if (before === after) return pairs;
  const [had, has] = [new Set(before.map((d) => d.name)), new Set(after.map((d) => d.name))];
  const fresh = new Map(after.filter((d) => !had.has(d.name)).map((d) => [d.name, d]));
  before.forEach((d, i) => {
    if (has.has(d.name) || fresh.size === 0) return;
    const voted = [...(votes.get(`${kind}/${asset}/${d.name}`) ?? [])].filter(([to]) => fresh.has(to));
    const body = canonicalJson({ ...d, name: '' });
    const there = after[i] as T | undefined;
    const same = there && fresh.has(there.name) && canonicalJson({ ...there, name: '' }) === body;
    const to = voted.sort((a, b) => b[1] - a[1])[0]?.[0] ?? (same ? there.name : undefined);
    if (to === undefined) return;
    fresh.delete(to);
    pairs.set(d.name, { kind, asset, from: d.name, to });
  });
  return pairs;
}

/** Assets: by what is placed under the same id as before; else by the same contents, or most of the same contents. */
function pairAssets(before: ProjectIndex, after: ProjectIndex): Map<string, Rename> {
  const gone = before.assets.filter((a) => !after.assetAt.has(a.decl.id));
  const fresh = new Set(after.assets.filter((a) => !before.assetAt.has(a.decl.id)));
  const pairs = new Map<string, Rename>();
  if (gone.length === 0 || fresh.size === 0) return pairs;
  const votes: Votes = new Map();
  for (const old of before.assets) {
    const now = after.assets[after.assetAt.get(old.decl.id) ?? -1] as AssetIndex | undefined;
    if (!now || now.decl.placements === old.decl.placements) continue;
    for (const p of old.placements) {
      const q = now.placements[now.placementAt.get(p.id) ?? -1] as typeof p | undefined;
      if (q && q.asset !== p.asset) vote(votes, 'asset', '', p.asset, q.asset);
    }
  }
  const few = gone.length * fresh.size <= LIKENESSES;
  const alike = few ? null : byContents(fresh);
  for (const old of gone) {
    const { id, kind } = old.decl;
    const all = few ? [...fresh] : candidates(old, alike!, votes, after).filter((a) => fresh.has(a));
    const rivals = all.filter((a) => a.decl.kind === kind);
    const best = rivals
      .map((a) => ({
        a,
        score: likeness(old, a) + (votes.get(`asset//${id}`)?.get(a.decl.id) ?? 0),
      }))
      .sort((a, b) => b.score - a.score)[0] as { a: AssetIndex; score: number } | undefined;
    if (!best || best.score <= 0.5) continue;
    fresh.delete(best.a);
    pairs.set(id, { kind: 'asset', asset: '', from: id, to: best.a.decl.id });
  }
  return pairs;
}
/** Pairs of assets that are compared name by name; where there are more, only those are that are the very same inside. */
const LIKENESSES = 40_000;
function byContents(assets: Iterable<AssetIndex>): Map<string, AssetIndex[]> {
  const by = new Map<string, AssetIndex[]>();
  for (const asset of assets) {
    const contents = contentsOf(asset);
    const same = by.get(contents);
    if (same) same.push(asset);
    else by.set(contents, [asset]);
  }
  return by;
}
function contentsOf({ decl }: AssetIndex): string {
  return canonicalJson({ ...decl, id: '' });
}
/** What a gone asset may be now: what stands in its place, or one that is the same inside (each is tried once). */
function candidates(
  old: AssetIndex,
  alike: Map<string, AssetIndex[]>,
  votes: Votes,
  after: ProjectIndex,
): AssetIndex[] {
  const voted = [...(votes.get(`asset//${old.decl.id}`)?.keys() ?? [])].flatMap((id) => {
    const at = after.assetAt.get(id);
    return at === undefined ? [] : [after.assets[at]];
  });
  const same = alike.get(contentsOf(old))?.shift();
  return same ? [...voted, same] : voted;
}
/** The part of all names of two assets that both have, from 0 to 1; 0 for two that have none. */
function likeness(a: AssetIndex, b: AssetIndex): number {
  const lists = ['eventAt', 'actionAt', 'propertyAt', 'placementAt', 'bindingAt'] as const;
  let [both, all] = [0, 0];
  for (const list of lists) {
    const shared = [...a[list].keys()].filter((name) => b[list].has(name)).length;
    both += shared;
    all += a[list].size + b[list].size - shared;
  }
  return all === 0 ? 0 : both / all;
}

/** Placements: the same thing in the same place, or what the same bindings now speak of. */
function pairPlacements(
  asset: string,
  old: AssetIndex,
  now: AssetIndex,
  assets: ReadonlyMap<string, Rename>,
): Map<string, Rename> {
  const pairs = new Map<string, Rename>();
  if (old.decl.placements === now.decl.placements) return pairs;
  const fresh = now.placements.filter((p) => !old.placementAt.has(p.id));
  const gone = old.placements.filter((p) => !now.placementAt.has(p.id));
  if (fresh.length === 0 || gone.length === 0) return pairs;
  const byBody = new Map<string, string[]>();
  for (const p of fresh.toReversed()) {
    const body = canonicalJson({ ...p, id: '' });
    const same = byBody.get(body);
    if (same) same.push(p.id);
    else byBody.set(body, [p.id]);
  }
  const votes = segmentVotes(old, now);
  const assetOf = new Map(fresh.map((f) => [f.id, f.asset]));
  const taken = new Set<string>();
  for (const p of gone) {
    const placed = assets.get(p.asset)?.to ?? p.asset;
    const voted = [...(votes.get(p.id) ?? [])]
      .sort((a, b) => b[1] - a[1])
      .map(([id]) => id)
      .find((id) => assetOf.get(id) === placed && !taken.has(id));
    const body = canonicalJson({ ...p, id: '', asset: placed });
    const to = voted ?? lastFree(byBody.get(body), taken);
    if (to === undefined) continue;
    taken.add(to);
    pairs.set(p.id, { kind: 'placement', asset, from: p.id, to });
  }
  return pairs;
}
/** The last that is not taken; those after it are passed over for good. */
function lastFree(ids: string[] | undefined, taken: ReadonlySet<string>): string | undefined {
  for (let id = ids?.pop(); id !== undefined; id = ids?.pop()) if (!taken.has(id)) return id;
  return undefined;
}
/** How often the owner's bindings now begin a path with another placement, by the earlier one. */
function segmentVotes(old: AssetIndex, now: AssetIndex): Map<string, Map<string, number>> {
  const votes = new Map<string, Map<string, number>>();
  for (const [b, c] of commonBindings(old, now)) {
    for (const end of ['from', 'to'] as const) {
      const [e, f] = [b[end], c[end]];
      if (!('at' in e) || !('at' in f) || e.at === f.at) continue;
      const [from, to] = [e.at.split('/')[0], f.at.split('/')[0]];
      if (!old.placementAt.has(from) || now.placementAt.has(from)) continue;
      const of = votes.get(from) ?? new Map<string, number>();
      votes.set(from, of.set(to, (of.get(to) ?? 0) + 1));
    }
  }
  return votes;
}

function countVotes(before: ProjectIndex, after: ProjectIndex, assets: ReadonlyMap<string, Rename>): Votes {
  const votes: Votes = new Map();
  const later = (a: AssetIndex | null): string => (a ? (assets.get(a.decl.id)?.to ?? a.decl.id) : '');
  for (const old of before.assets) {
    const id = assets.get(old.decl.id)?.to ?? old.decl.id;
    const now = after.assets[after.assetAt.get(id) ?? -1] as AssetIndex | undefined;
    if (!now || now.decl.bindings === old.decl.bindings) continue;
    for (const [b, c] of commonBindings(old, now)) {
      for (const end of ['from', 'to'] as const) {
        const [e, f] = [b[end], c[end]];
        if ('channel' in e && 'channel' in f && e.channel !== f.channel) {
          vote(votes, 'channel', '', e.channel, f.channel);
        } else if ('event' in e && 'event' in f && e.event !== f.event) {
          vote(votes, 'event', later(bindingEnds(before, old, b).sender), e.event, f.event);
        } else if ('action' in e && 'action' in f && e.action !== f.action) {
          vote(votes, 'action', later(bindingEnds(before, old, b).receiver), e.action, f.action);
        }
      }
    }
  }
  return votes;
}
/** Bindings of the same id that are not the very same. */
function* commonBindings(old: AssetIndex, now: AssetIndex): Iterable<[Binding, Binding]> {
  for (const b of old.bindings) {
    const c = now.bindings[now.bindingAt.get(b.id) ?? -1] as Binding | undefined;
    if (c && c !== b) yield [b, c];
  }
}
