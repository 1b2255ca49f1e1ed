import { nameKey } from '../names/name.js';
import { replacingAll } from '../names/uses.js';
import { walkNames } from '../names/walk.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import type { Rename, Renames } from './renames.js';

/**
 * What an earlier project would be if everything had had its later name; what no name touches is the very same. `uses`
 * counts for each rename the bindings that name it. Linear, but for the paths of bindings.
 */
export function withNames(before: ProjectIndex, renames: Renames, uses = new Map<Rename, number>()): Project {
  const byKey = renamesByKey(renames);
  if (byKey.size === 0) return before.project;
  const to = new Map([...byKey].map(([key, rename]) => [key, rename.to]));
  let hits = new Set<string>();
  return walkNames(
    before,
    replacingAll(to, (key) => hits.add(key)),
    {
      binding: () => {
        for (const key of hits) {
          const rename = byKey.get(key)!;
          uses.set(rename, (uses.get(rename) ?? 0) + 1);
        }
      },
      enter: () => (hits = new Set()),
    },
  );
}

/** Each rename by the key of the earlier name. */
function renamesByKey({ asset, channel, enum: enums, table, inside }: Renames): Map<string, Rename> {
  const byKey = new Map<string, Rename>();
  const add = (of: string, renames: ReadonlyMap<string, Rename>): void => {
    for (const [name, rename] of renames)
      byKey.set(nameKey({ kind: rename.kind, asset: of, of: '', name }), rename);
  };
  for (const renames of [asset, channel, enums, table]) add('', renames);
  for (const [id, { event, action, property, placement }] of inside) {
    for (const renames of [event, action, property, placement]) add(id, renames);
  }
  return byKey;
}
