import { ASSET_PARTS, PROJECT_PARTS, type Change, type ListName } from '../edit/change.js';
import { canonicalJson } from '../project/canonical.js';
import type { Asset, Project } from '../project/types.js';
import { alignLists } from '../util/align-lists.js';
import { append } from '../util/append.js';
import { own } from '../util/own.js';

/** An asset of which more than this part of its items changes is put in anew: one change instead of thousands. */
const MOST_PART = 0.5;
const FEW = 100;

/**
 * The changes that make one project into another, so that going back to a build, or taking over a document, is an edit
 * like any other. Nothing is changed that is the same; properties that the format does not know are carried along. Linear
 * in both documents.
 */
export function changesBetween(from: Project, to: Project): Change[] {
  const unknown = [...Object.keys(from), ...Object.keys(to)].filter((part) => !KNOWN_OF_PROJECT.has(part));
  const changes: Change[] = partChanges([...PROJECT_PARTS, ...new Set(unknown)], from, to, undefined);
  const wanted = new Set(to.assets.map((a) => a.id));
  const old = new Map(from.assets.map((a) => [a.id, a]));
  const kept = from.assets.filter((a) => wanted.has(a.id)).map((a) => a.id);
  const { gone } = alignLists(
    kept,
    to.assets.filter((a) => old.has(a.id)).map((a) => a.id),
  );
  // An asset that changes its place among the others goes and comes.
  const anew = new Set(gone.map((i) => kept[i]));
  const inside = new Map<string, Change[]>();
  for (const asset of to.assets) {
    const was = old.get(asset.id);
    if (!was || anew.has(asset.id)) continue;
    const own = assetChanges(was, asset);
    if (own) inside.set(asset.id, own);
    else anew.add(asset.id);
  }
  for (const { id } of from.assets) {
    if (!wanted.has(id) || anew.has(id)) changes.push({ op: 'drop', asset: id });
  }
  to.assets.forEach((item, index) => {
    if (!old.has(item.id) || anew.has(item.id)) changes.push({ op: 'add', index, item });
    else append(changes, inside.get(item.id)!);
  });
  return changes;
}

const KNOWN_OF_PROJECT = new Set<string>(['format', 'assets', ...PROJECT_PARTS]);

/** Null where the asset is better put in anew. */
function assetChanges(from: Asset, to: Asset): Change[] | null {
  if (from === to) return [];
  if (from.kind !== to.kind || !same(unknownParts(from), unknownParts(to))) return null;
  const changes = partChanges(ASSET_PARTS, from, to, from.id);
  for (const list of ['placements', 'bindings'] as const) {
    const items = itemChanges(list, from.id, from[list] ?? [], to[list] ?? []);
    const most = Math.max(FEW, MOST_PART * Math.max(from[list]?.length ?? 0, to[list]?.length ?? 0));
    if (items.length > most) return null;
    append(changes, items);
  }
  return changes;
}
const KNOWN = new Set<string>(['id', 'kind', 'placements', 'bindings', ...ASSET_PARTS]);
function unknownParts(asset: Asset): object {
  return Object.fromEntries(Object.entries(asset).filter(([part]) => !KNOWN.has(part)));
}

function partChanges(
  parts: readonly string[],
  from: object,
  to: object,
  asset: string | undefined,
): Change[] {
  const [old, now] = [from, to] as Record<string, unknown>[];
  const order = Object.keys(now);
  return parts.flatMap((part): Change[] => {
    if (same(own(old, part), own(now, part))) return [];
    const change = { op: 'set', part, ...(asset === undefined ? {} : { asset }) };
    if (own(now, part) === undefined) return [change as Change];
    const before = order.slice(order.indexOf(part) + 1).find((name) => own(old, name) !== undefined);
    const place = own(old, part) === undefined && before !== undefined ? { before } : {};
    return [{ ...change, value: own(now, part), ...place } as Change];
  });
}

interface Item {
  id: string;
}
function itemChanges(list: ListName, asset: string, from: readonly Item[], to: readonly Item[]): Change[] {
  if (from === to) return [];
  const changes: object[] = [];
  const wanted = new Set(to.map((item) => item.id));
  const old = new Map(from.map((item) => [item.id, item]));
  for (const { id } of from) if (!wanted.has(id)) changes.push({ op: 'remove', list, asset, id });
  const { gone } = alignLists(
    from.filter((item) => wanted.has(item.id)).map((item) => item.id),
    to.filter((item) => old.has(item.id)).map((item) => item.id),
  );
  const kept = from.filter((item) => wanted.has(item.id)).map((item) => item.id);
  // Those that change their place go to the end first, so that everything else stands in order when they are put in.
  const moved = new Set(gone.map((i) => kept[i]));
  for (const id of moved) changes.push({ op: 'move', list, asset, id, index: kept.length });
  to.forEach((item, index) => {
    const was = old.get(item.id);
    if (!was) changes.push({ op: 'insert', list, asset, index, item });
    else {
      if (moved.has(item.id)) changes.push({ op: 'move', list, asset, id: item.id, index });
      if (!same(was, item)) changes.push({ op: 'replace', list, asset, id: item.id, item });
    }
  });
  return changes as Change[];
}
function same(a: unknown, b: unknown): boolean {
  return (
    a === b ||
    (a !== undefined &&
      b !== undefined &&
      (JSON.stringify(a) === JSON.stringify(b) || canonicalJson(a) === canonicalJson(b)))
  );
}
