import { OquelError } from '../util/oquel-error.js';
import { withNames } from '../compare/carry.js';
import { allRenames, findRenames, type Rename, type Renames } from '../compare/renames.js';
import { LayOut } from '../geometry/lay-out.js';
import { indexProject } from '../project/index-project.js';
import type {
  Action,
  Asset,
  EventDecl,
  FromGame,
  Manifest,
  ManifestAsset,
  Placement,
  Project,
  Property,
  Vec2,
} from '../project/types.js';

/** What a merge comes to. */
export interface Merged {
  project: Project;
  /** What the game calls otherwise now; everything that names it is carried along. */
  renames: Rename[];
  /** Assets that the game no longer has and that are kept, since there is something of Oquel's own in them. */
  kept: string[];
}
/** A manifest that cannot be merged: two origins declare the same. */
export class MergeRefused extends OquelError {
  override readonly name = 'MergeRefused';
  readonly code = 'merge-refused';
  constructor(readonly reasons: readonly string[]) {
    super(reasons.join('; '));
  }
}
const MOST_REASONS = 50;

/**
 * Brings what a project declares and places to what a manifest says. What is Oquel's own stays: bindings, notes, policy,
 * waivers, rehearsals, places on the plan and what effects do, where the manifest does not say. What the manifest no longer
 * has goes if it came from the same origin; what has another name there is renamed, with all that names it. The order of
 * what is there stays, what is new comes last. The same manifest twice changes nothing. Linear in both, but for the paths
 * of bindings that a rename touches.
 * @throws MergeRefused
 */
export function mergeManifest(project: Project, manifest: Manifest): Merged {
  const { origin } = manifest;
  const renames = renamesOf(project, manifest);
  const carried = withNames(indexProject(project), renames);
  const merging = new Merging(origin);
  const next = merging.project(carried, manifest);
  if (merging.reasons.length > 0) throw new MergeRefused(merging.reasons.slice(0, MOST_REASONS));
  return { project: next, renames: allRenames(renames), kept: merging.kept };
}

/** What an origin declares, without what is Oquel's own and without where it stands: for finding what was renamed. */
function declarationsOf(project: Project | Manifest, isOurs: (item: FromGame) => boolean): Project {
  const named = <T extends FromGame>(list: readonly T[] | undefined, bare: (item: T) => T): T[] =>
    (list ?? []).filter(isOurs).map(bare);
  return {
    format: 'oquel.project/1',
    name: '',
    enums: named(project.enums, ({ name, values }) => ({ name, values })),
    tables: named(project.tables, ({ name, keys }) => ({ name, keys })),
    channels: named(project.channels, ({ name, payload = [] }) => ({ name, payload })),
    assets: (project.assets ?? []).filter(isOurs).map((a): Asset => ({
      id: a.id,
      kind: a.kind,
      properties: named(a.properties, ({ name, type, default: value }) => ({ name, type, default: value })),
      events: named(a.events as EventDecl[], ({ name, payload = [] }) => ({
        name,
        cause: { type: 'code' },
        payload,
      })),
      actions: named(a.actions, ({ name, params = [] }) => ({ name, params })),
      placements: named(a.placements, ({ id, asset, at, properties = {} }) => ({
        id,
        asset,
        ...(at ? { at } : {}),
        properties,
      })),
    })),
  };
}
/** As in compare; a name that is taken already is not given away. */
function renamesOf(project: Project, manifest: Manifest): Renames {
  const before = declarationsOf(project, (item) => item.origin === manifest.origin);
  const found = findRenames(indexProject(before), indexProject(declarationsOf(manifest, () => true)));
  const index = indexProject(project);
  const free = (renames: Map<string, Rename>, isTaken: (name: string) => boolean): void => {
    for (const [from, { to }] of renames) if (isTaken(to)) renames.delete(from);
  };
  free(found.asset, (id) => index.assetAt.has(id));
  free(found.channel, (name) => index.channelAt.has(name));
  free(found.enum, (name) => (project.enums ?? []).some((e) => e.name === name));
  free(found.table, (name) => (project.tables ?? []).some((t) => t.name === name));
  for (const [id, inside] of found.inside) {
    const asset = index.assets[index.assetAt.get(id)!];
    free(inside.event, (name) => asset.eventAt.has(name));
    free(inside.action, (name) => asset.actionAt.has(name));
    free(inside.property, (name) => asset.propertyAt.has(name));
    free(inside.placement, (name) => asset.placementAt.has(name));
  }
  return found;
}

class Merging {
  readonly kept: string[] = [];
  readonly reasons: string[] = [];

  constructor(private readonly origin: string) {}

  project(was: Project, manifest: Manifest): Project {
    const next: Project = { ...was };
    const named = <T extends FromGame & { name: string }>(
      part: 'enums' | 'tables' | 'channels',
      items: readonly T[] | undefined,
    ): void => {
      const list = this.list(
        was[part] as readonly T[] | undefined,
        items,
        (i) => i.name,
        '',
        (old, item) => ({
          ...old,
          ...item,
        }),
      );
      put(next, part, list as never);
    };
    named('enums', manifest.enums);
    named('tables', manifest.tables);
    named('channels', manifest.channels);
    // Load sets and peers carry no origin: those that are named are as the manifest says, all others stay.
    for (const part of ['loadSets', 'peers'] as const) {
      put(next, part, byName(was[part] as { name: string }[] | undefined, manifest[part]) as never);
    }
    next.assets = this.assets(was.assets, manifest.assets ?? []);
    return next;
  }

  private assets(was: readonly Asset[], items: readonly ManifestAsset[]): Asset[] {
    const said = new Map(items.map((a) => [a.id, a]));
    const known = new Set(was.map((a) => a.id));
    const merged = was.flatMap((asset): Asset[] => {
      const item = said.get(asset.id);
      if (item) return [this.asset(asset, item)];
      if (asset.origin !== this.origin) return [this.without(asset)];
      const rest = this.without(asset);
      const { origin: _origin, source: _source, ...own } = rest;
      const isEmpty =
        PARTS.every((part) => (rest[part] ?? []).length === 0) && (rest.bindings ?? []).length === 0;
      if (isEmpty) return [];
      this.kept.push(asset.id);
      return [own];
    });
    const fresh = items.filter((a) => !known.has(a.id)).map((a) => this.asset(null, a));
    return [...merged, ...fresh];
  }
  /** What came from here goes, since the manifest does not name the asset at all. */
  private without(asset: Asset): Asset {
    return this.inside(asset, { id: asset.id, kind: asset.kind });
  }
  private asset(was: Asset | null, item: ManifestAsset): Asset {
    const { events: _e, actions: _a, properties: _p, placements: _l, ...own } = item;
    // Whoever declared it first goes on doing so: another manifest may add to it.
    const isOurs = was === null || was.origin === undefined || was.origin === this.origin;
    const base: Asset = isOurs
      ? { ...(was ?? { id: item.id, kind: item.kind }), ...own, origin: this.origin }
      : { ...was };
    if (isOurs && item.source === undefined) delete base.source;
    // A plan that grew for things without a place stays as large.
    const grew = item.placements?.some((p) => !p.at) === true;
    if (grew && base.size && was?.size) {
      base.size = [Math.max(base.size[0], was.size[0]), Math.max(base.size[1], was.size[1])];
    }
    return this.inside(base, item);
  }
  /** The lists of an asset. */
  private inside(base: Asset, item: ManifestAsset): Asset {
    const next: Asset = { ...base };
    const of = item.id;
    const name = (i: { name: string }): string => i.name;
    put(next, 'properties', this.list<Property>(base.properties, item.properties, name, of, keeping));
    put(
      next,
      'events',
      this.list<EventDecl>(base.events, item.events as EventDecl[], name, of, (old, said) => {
        const cause = (said as Partial<EventDecl>).cause ?? old?.cause ?? { type: 'code' };
        // An event that carries nothing is printed without its payload.
        const { payload: _payload, ...rest } = old ?? ({} as Partial<EventDecl>);
        return inOrder(old, { ...rest, ...said, cause });
      }),
    );
    put(
      next,
      'actions',
      this.list<Action>(base.actions, item.actions, name, of, (old, said) => {
        const { params: _params, ...rest } = old ?? ({} as Partial<Action>);
        return inOrder(old, { ...rest, ...said });
      }),
    );
    const placements = this.list<Placement>(base.placements, item.placements, (p) => p.id, of, keeping);
    put(next, 'placements', placements && placed(placements, next));
    return next;
  }

  /**
   * What is there in its order, as the manifest says it, and what is new behind it. Nothing is made anew that is the same.
   */
  private list<T extends FromGame>(
    was: readonly T[] | undefined,
    items: readonly T[] | undefined,
    nameOf: (item: T) => string,
    of: string,
    merge: (old: T | null, item: T) => T,
  ): T[] | undefined {
    const { origin } = this;
    const said = new Map((items ?? []).map((item) => [nameOf(item), item]));
    const known = new Set((was ?? []).map(nameOf));
    const marked = (old: T | null, item: T): T => {
      const next = { ...merge(old, item), origin };
      if (item.source === undefined) delete next.source;
      return next;
    };
    const merged = (was ?? []).flatMap((old): T[] => {
      const name = nameOf(old);
      const item = said.get(name);
      if (item === undefined) return old.origin === origin ? [] : [old];
      if (old.origin !== undefined && old.origin !== origin) {
        const what = of === '' ? name : `${of}.${name}`;
        this.reasons.push(
          `${what} is already declared by "${old.origin}"; this manifest is from "${origin}"`,
        );
        return [old];
      }
      return [marked(old, item)];
    });
    for (const item of items ?? []) if (!known.has(nameOf(item))) merged.push(marked(null, item));
    return merged.length > 0 || was !== undefined ? merged : undefined;
  }
}

const PARTS = ['properties', 'events', 'actions', 'placements'] as const;
/** All that the manifest does not say stays. */
function keeping<T>(old: T | null, item: T): T {
  return { ...old, ...item };
}
/** The properties in the order in which they stood, so that what is the same is written the same. */
function inOrder<T extends object>(old: T | null, next: T): T {
  if (!old) return next;
  const keys = [...Object.keys(old), ...Object.keys(next)] as (keyof T)[];
  return Object.fromEntries(
    [...new Set(keys)].filter((k) => Object.hasOwn(next, k)).map((k) => [k, next[k]]),
  ) as T;
}
function put<T, K extends keyof T>(whole: T, part: K, value: T[K] | undefined): void {
  if (value !== undefined) whole[part] = value;
}
function byName<T extends { name: string }>(
  was: readonly T[] | undefined,
  items: readonly T[] | undefined,
): T[] | undefined {
  if (items === undefined) return was as T[] | undefined;
  const said = new Map(items.map((i) => [i.name, i]));
  const known = new Set((was ?? []).map((i) => i.name));
  return [...(was ?? []).map((i) => said.get(i.name) ?? i), ...items.filter((i) => !known.has(i.name))];
}

/** Things without a place get one, beside all others. */
function placed(placements: Placement[], owner: Asset): Placement[] {
  if (owner.kind !== 'scene' || placements.every((p) => p.at)) return placements;
  const lay = new LayOut(
    owner.size,
    placements.flatMap((p): Vec2[] => (p.at ? [p.at] : [])),
  );
  const next = placements.map((p) => (p.at ? p : { ...p, at: lay.next() }));
  const grown = lay.grown();
  if (grown) owner.size = grown;
  return next;
}
