import { ASSET_PARTS, type Change } from '../edit/change.js';
import { LayOut } from '../geometry/lay-out.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Asset, Placement, Vec2 } from '../project/types.js';
import { append } from '../util/append.js';
import type { TableRow } from './table-row.js';
import type { AnyTable } from './tables.js';

/**
 * The edit that takes in what is new or changed. What is there keeps its place, what is new comes last; with `isLaidOut` new
 * placements without a place come to stand where nothing stands yet. Linear in the rows, and in the lists that they change.
 */
export function tableChanges(
  index: ProjectIndex,
  table: AnyTable,
  rows: readonly TableRow[],
  { isLaidOut }: { isLaidOut: boolean },
): Change[] {
  const byAsset = new Map<string, Map<string, object>>();
  for (const { asset, name, state, item } of rows) {
    if (!item || (state !== 'new' && state !== 'changed')) continue;
    const items = byAsset.get(asset);
    if (items) items.set(name, item);
    else byAsset.set(asset, new Map([[name, item]]));
  }
  const changes: Change[] = [];
  for (const [asset, items] of byAsset) {
    if (table.kind === 'assets') append(changes, assetChanges(index, items as Map<string, Asset>));
    else if (table.kind === 'placements')
      append(changes, placementChanges(index, asset, items as Map<string, Placement>, isLaidOut));
    else changes.push(listChange(index, table, asset, items));
  }
  return changes;
}

/** One list with its new and changed things, in the place of what it was. */
function listChange(index: ProjectIndex, table: AnyTable, asset: string, items: Map<string, object>): Change {
  const left = new Map(items);
  const old = table.all(index, index.assetAt.get(asset) ?? -1);
  const value = old.map((item) => {
    const next = left.get(table.nameOf(item));
    left.delete(table.nameOf(item));
    return next ?? item;
  });
  append(value, left.values());
  return { op: 'set', ...(table.ofAsset ? { asset } : {}), part: table.kind, value } as unknown as Change;
}

function assetChanges(index: ProjectIndex, items: Map<string, Asset>): Change[] {
  let count = index.assets.length;
  return [...items].flatMap(([id, item]): Change[] => {
    const old = index.assets[index.assetAt.get(id) ?? -1]?.decl as Asset | undefined;
    if (!old) return [{ op: 'add', index: count++, item }];
    const changed = ASSET_PARTS.filter((part) => old[part] !== item[part]);
    return changed.map((part) => {
      const value = item[part];
      return (
        value === undefined ? { op: 'set', asset: id, part } : { op: 'set', asset: id, part, value }
      ) as Change;
    });
  });
}

function placementChanges(
  index: ProjectIndex,
  asset: string,
  items: Map<string, Placement>,
  isLaidOut: boolean,
): Change[] {
  const owner = index.assets[index.assetAt.get(asset)!];
  let count = owner.placements.length;
  const standing = owner.placements.flatMap((p): Vec2[] => (p.at ? [p.at] : []));
  const lay = isLaidOut ? new LayOut(owner.decl.size, standing) : null;
  const changes = [...items].map(([id, item]): Change => {
    if (owner.placementAt.has(id)) return { op: 'replace', list: 'placements', asset, id, item };
    const placed = lay && !item.at ? { ...item, at: lay.next() } : item;
    return { op: 'insert', list: 'placements', asset, index: count++, item: placed };
  });
  const grown = lay?.grown();
  return grown ? [{ op: 'set', asset, part: 'size', value: grown }, ...changes] : changes;
}
