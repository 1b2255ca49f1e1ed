import { ASSET_PARTS, PROJECT_PARTS, type Change } from './change.js';
import type { Asset, Project } from '../project/types.js';
import { append } from '../util/append.js';

/**
 * The changes that lead from a document to what `walkNames` made of it: every list is as long as it was, and what did not
 * change is the very same. Linear in the lists, not in what stands in them.
 */
export function changesOfWalk(before: Project, after: Project): Change[] {
  const changes: Change[] = [];
  for (const part of PROJECT_PARTS) {
    if (before[part] !== after[part]) changes.push({ op: 'set', part, value: after[part] } as Change);
  }
  before.assets.forEach((asset, i) => append(changes, assetChanges(asset, after.assets[i], i)));
  return changes;
}

function assetChanges(before: Asset, after: Asset, index: number): Change[] {
  if (before === after) return [];
  const asset = before.id;
  if (after.id !== asset)
    return [
      { op: 'drop', asset },
      { op: 'add', index, item: after },
    ];
  const changes: Change[] = [];
  for (const part of ASSET_PARTS) {
    if (before[part] !== after[part]) changes.push({ op: 'set', asset, part, value: after[part] } as Change);
  }
  before.placements?.forEach((p, i) => {
    const item = after.placements![i];
    if (item !== p) changes.push({ op: 'replace', list: 'placements', asset, id: p.id, item });
  });
  before.bindings?.forEach((b, i) => {
    const item = after.bindings![i];
    if (item !== b) changes.push({ op: 'replace', list: 'bindings', asset, id: b.id, item });
  });
  return changes;
}
