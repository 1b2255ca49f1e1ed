import { canonicalJson } from '../project/canonical.js';
import { indexProject } from '../project/index-project.js';
import type { Asset, AssetKind, Binding, Project } from '../project/types.js';
import { alignLists } from '../util/align-lists.js';
import { printBinding } from '../wireline/print.js';
import { withNames } from './carry.js';
import {
  actionLine,
  assetLine,
  assetPartLine,
  bindingLines,
  eventLine,
  placementLine,
  plain,
  propertyLine,
  twoLines,
} from './lines.js';
import { allRenames, findRenames, type Rename } from './renames.js';
import { append } from '../util/append.js';
import { own } from '../util/own.js';

/** What kind of thing differs. */
export type DifferenceOf = 'binding' | 'placement' | 'declaration';
export type DifferenceHow = 'added' | 'removed' | 'changed' | 'moved' | 'renamed';
/** One thing that differs, as a sentence. */
export interface DifferenceLine {
  of: DifferenceOf;
  how: DifferenceHow;
  /** Its id or name, the later one if it has two. */
  id: string;
  text: string;
  /** As it was; with later names, so that only what is really different differs. */
  was?: string;
  /** Its place in the running order before and after, counted from 1, where that is what changed. */
  place?: [number, number];
  /** Of a rename: how many bindings name it and are else the same. */
  carried?: number;
}
/** What differs in one scene, prefab or widget; the project itself has no asset. */
export interface DifferenceGroup {
  asset: string;
  kind: AssetKind | 'project';
  lines: DifferenceLine[];
}
export type DifferenceCounts = Record<DifferenceOf, Record<DifferenceHow, number>>;
export interface Difference {
  groups: DifferenceGroup[];
  counts: DifferenceCounts;
}

/**
 * What changed from one state of a project to another, scene by scene: a thing that only has another name is reported once,
 * as renamed, and not again wherever it is named. Linear in both documents, but for the paths of bindings that differ.
 */
export function compareProjects(before: Project, after: Project): Difference {
  const [old, now] = [indexProject(before), indexProject(after)];
  const renames = findRenames(old, now);
  const uses = new Map<Rename, number>();
  const carried = withNames(old, renames, uses);
  const groups: DifferenceGroup[] = [];
  const came = new Map(carried.assets.map((asset) => [asset.id, asset]));
  for (const asset of after.assets) {
    const was = came.get(asset.id);
    came.delete(asset.id);
    const lines: DifferenceLine[] = [];
    if (!was || was.kind !== asset.kind) {
      if (was) lines.push(line('declaration', 'removed', was.id, assetLine(was)));
      lines.push(line('declaration', 'added', asset.id, assetLine(asset)));
      append(lines, contents(asset));
    } else if (was !== asset) append(lines, assetLines(was, asset));
    groups.push({ asset: asset.id, kind: asset.kind, lines });
  }
  const project = projectLines(carried, after);
  for (const gone of came.values()) project.push(line('declaration', 'removed', gone.id, assetLine(gone)));
  groups.unshift({ asset: '', kind: 'project', lines: project });
  tellRenames(groups, allRenames(renames), uses);
  const order = ['project', 'scene', 'prefab', 'widget'];
  const changed = groups.filter((g) => g.lines.length > 0);
  changed.sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind));
  return { groups: changed, counts: countsOf(changed) };
}

/**
 * An earlier state as it would be if everything had had its later name, so that what is said of both can be compared; null
 * where nothing has another name. Linear, as the comparison is.
 */
export function withLaterNames(before: Project, after: Project): Project | null {
  const old = indexProject(before);
  const renames = findRenames(old, indexProject(after));
  return allRenames(renames).length === 0 ? null : withNames(old, renames);
}

function countsOf(groups: readonly DifferenceGroup[]): DifferenceCounts {
  const none = (): Record<DifferenceHow, number> => ({
    added: 0,
    removed: 0,
    changed: 0,
    moved: 0,
    renamed: 0,
  });
  const counts = { binding: none(), placement: none(), declaration: none() };
  for (const group of groups) for (const { of, how } of group.lines) counts[of][how]++;
  return counts;
}

function line(of: DifferenceOf, how: DifferenceHow, id: string, text: string): DifferenceLine {
  return { of, how, id, text };
}
function tellRenames(
  groups: readonly DifferenceGroup[],
  renames: readonly Rename[],
  uses: ReadonlyMap<Rename, number>,
): void {
  const byAsset = new Map<string, DifferenceLine[]>();
  for (const rename of renames) {
    const { kind, from, to } = rename;
    const asset = kind === 'asset' ? to : rename.asset;
    const lines = byAsset.get(asset) ?? [];
    byAsset.set(asset, lines);
    lines.push({
      of: kind === 'placement' ? 'placement' : 'declaration',
      how: 'renamed',
      id: to,
      text: `${kind === 'table' ? 'key table' : kind} ${from} is now ${to}`,
      carried: uses.get(rename) ?? 0,
    });
  }
  for (const group of groups) group.lines = [...(byAsset.get(group.asset) ?? []), ...group.lines];
}

/** Everything in an asset that came whole: its bindings are reported one by one, as any other that came. */
function contents({ placements = [], bindings = [] }: Asset): DifferenceLine[] {
  return [
    ...placements.map((p) => line('placement', 'added', p.id, placementLine(p))),
    ...bindings.map((b) => line('binding', 'added', b.id, printBinding(b))),
  ];
}

function assetLines(was: Asset, now: Asset): DifferenceLine[] {
  return [
    ...partLines(was as unknown as Parts, now as unknown as Parts, LISTS),
    ...listLines('declaration', byName(was.properties), byName(now.properties), propertyLine),
    ...listLines('declaration', byName(was.events), byName(now.events), eventLine),
    ...listLines('declaration', byName(was.actions), byName(now.actions), actionLine),
    ...listLines('placement', byId(was.placements), byId(now.placements), placementLine),
    ...bindingDifferences(was.bindings ?? [], now.bindings ?? []),
  ];
}

type Parts = Readonly<Record<string, unknown>>;
/** What is reported item by item, or not at all. */
const LISTS = ['id', 'kind', 'properties', 'events', 'actions', 'placements', 'bindings'];
function partLines(was: Parts, now: Parts, except: readonly string[]): DifferenceLine[] {
  return [...new Set([...Object.keys(was), ...Object.keys(now)])]
    .filter((part) => !except.includes(part))
    .flatMap((part) => {
      const [a, b] = [own(was, part), own(now, part)];
      if (a === undefined && b === undefined) return [];
      if (a === undefined) return [line('declaration', 'added', part, assetPartLine(part, b))];
      if (b === undefined) return [line('declaration', 'removed', part, assetPartLine(part, a))];
      if (canonicalJson(a) === canonicalJson(b)) return [];
      const [before, text] = [assetPartLine(part, a), assetPartLine(part, b)];
      return [{ of: 'declaration', how: 'changed', id: part, text, was: before } as const];
    });
}

type Named<T> = readonly { key: string; item: T }[];
function byName<T extends { name: string }>(list: readonly T[] = []): Named<T> {
  return list.map((item) => ({ key: item.name, item }));
}
function byId<T extends { id: string }>(list: readonly T[] = []): Named<T> {
  return list.map((item) => ({ key: item.id, item }));
}

/** Two states of a list whose items are known by name. */
function listLines<T>(
  of: DifferenceOf,
  was: Named<T>,
  now: Named<T>,
  text: (item: T) => string,
  both: (a: T, b: T) => [string, string] = (a, b) => twoLines(text, a, b),
): DifferenceLine[] {
  const old = new Map(was.map((n) => [n.key, n.item]));
  const places = movedPlaces(was, now);
  const lines: DifferenceLine[] = [];
  for (const { key, item } of now) {
    const before = old.get(key);
    if (before === undefined) {
      lines.push(line(of, 'added', key, text(item)));
      continue;
    }
    old.delete(key);
    const place = places.get(key);
    if (!same(before, item)) {
      const [a, b] = both(before, item);
      lines.push({ of, how: 'changed', id: key, text: b, was: a, ...(place ? { place } : {}) });
    } else if (place) lines.push({ of, how: 'moved', id: key, text: text(item), place });
  }
  for (const [key, item] of old) lines.push(line(of, 'removed', key, text(item)));
  return lines;
}
function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b) || canonicalJson(a) === canonicalJson(b);
}
/** What stands in another place among those that both lists have. */
function movedPlaces(was: Named<unknown>, now: Named<unknown>): Map<string, [number, number]> {
  const [had, has] = [new Set(was.map((n) => n.key)), new Set(now.map((n) => n.key))];
  const a = was.map((n) => n.key).filter((key) => has.has(key));
  const b = now.map((n) => n.key).filter((key) => had.has(key));
  const { fresh } = alignLists(a, b);
  if (fresh.length === 0) return new Map();
  const place = new Map(was.map((n, i) => [n.key, i + 1]));
  const later = new Map(now.map((n, i) => [n.key, i + 1]));
  return new Map(fresh.map((i) => [b[i], [place.get(b[i])!, later.get(b[i])!]]));
}

/** Bindings; one that only has another id is reported as renamed. */
function bindingDifferences(was: readonly Binding[], now: readonly Binding[]): DifferenceLine[] {
  const [had, has] = [new Set(was.map((b) => b.id)), new Set(now.map((b) => b.id))];
  const gone = new Map<string, Binding[]>();
  for (const b of was) {
    if (has.has(b.id)) continue;
    const body = canonicalJson({ ...b, id: '' });
    gone.set(body, [...(gone.get(body) ?? []), b]);
  }
  const renamed = new Map<string, string>();
  const lines: DifferenceLine[] = [];
  for (const b of now) {
    if (had.has(b.id) || gone.size === 0) continue;
    const old = gone.get(canonicalJson({ ...b, id: '' }))?.shift();
    if (!old) continue;
    renamed.set(old.id, b.id);
    lines.push({ of: 'binding', how: 'renamed', id: b.id, text: printBinding(b), was: old.id });
  }
  const carried = was.map((b) => (renamed.has(b.id) ? { ...b, id: renamed.get(b.id)! } : b));
  return [...lines, ...listLines('binding', byId(carried), byId(now), printBinding, bindingLines)];
}

function projectLines(a: Project, b: Project): DifferenceLine[] {
  const named = <T extends { name: string }>(
    word: string,
    was: readonly T[] | undefined,
    is: readonly T[] | undefined,
    body: (item: T) => unknown,
  ): DifferenceLine[] => {
    const text = (item: T): string => `${word} ${item.name}: ${plain(body(item))}`;
    return listLines('declaration', byName(was), byName(is), text);
  };
  const moved = [...movedPlaces(byId(a.assets), byId(b.assets))];
  return [
    ...partLines(a as unknown as Parts, b as unknown as Parts, PROJECT_LISTS),
    ...moved.map(([id, place]): DifferenceLine => ({ ...line('declaration', 'moved', id, id), place })),
    ...named('channel', a.channels, b.channels, ({ payload, note }) => ({ payload, note })),
    ...named('enum', a.enums, b.enums, (e) => e.values.join(', ')),
    ...named('key table', a.tables, b.tables, (t) => t.keys.join(', ')),
    ...named('load set', a.loadSets, b.loadSets, (s) => s.scenes.join(', ')),
    ...named('peer', a.peers, b.peers, (p) => p.role),
    ...named('rehearsal', a.rehearsals, b.rehearsals, ({ steps, loadSet, note }) =>
      [
        `${steps.length} step${steps.length === 1 ? '' : 's'}`,
        loadSet === undefined ? 'everything loaded' : `with ${loadSet}`,
        ...(note === undefined ? [] : [note]),
      ].join(', '),
    ),
    ...partLines(policyParts(a), policyParts(b), []),
    ...listLines(
      'declaration',
      (a.waivers ?? []).map((item) => ({ key: item.fingerprint, item })),
      (b.waivers ?? []).map((item) => ({ key: item.fingerprint, item })),
      (w) =>
        `${w.proposed ? 'proposed ' : ''}waiver by ${w.by}${w.until === undefined ? '' : ` until ${w.until}`}: ${w.reason}`,
    ),
  ];
}
const PROJECT_LISTS = [
  'format',
  'assets',
  'channels',
  'enums',
  'tables',
  'loadSets',
  'peers',
  'rehearsals',
  'policy',
  'waivers',
];
function policyParts({ policy = {} }: Project): Parts {
  return Object.fromEntries(Object.entries(policy).map(([k, v]) => [`policy ${k}`, v as unknown]));
}
