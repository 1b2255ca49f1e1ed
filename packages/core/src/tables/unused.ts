import type { Change } from '../edit/change.js';
import { nameKey, type NameKind, type NameRef } from '../names/name.js';
import { walkNames } from '../names/walk.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { FromGame } from '../project/types.js';
import { TABLES } from './tables.js';

/** A declaration that nothing names. */
export interface Unused {
  kind: 'asset' | 'event' | 'action' | 'property' | 'channel' | 'enum' | 'table';
  /** The asset that declares it; empty for what belongs to the project. */
  asset: string;
  name: string;
  /** The line that says it. */
  text: string;
  /** Whether a manifest of the game declares it: the next one would bring it again. */
  isOfGame: boolean;
}
const KIND_OF = { properties: 'property', events: 'event', actions: 'action' } as const;
const OF_PROJECT = { channels: 'channel', enums: 'enum', tables: 'table' } as const;

/**
 * Prefabs and widgets, events, actions, properties, channels, enums and key tables that nothing names: no binding, effect,
 * placement, type or rehearsal. What stands in an asset that is unused itself is not listed besides. Linear in the document.
 */
export function unusedDeclarations(index: ProjectIndex): Unused[] {
  const times = new Map<string, number>();
  const count = (ref: NameRef): void => {
    const key = nameKey(ref);
    times.set(key, (times.get(key) ?? 0) + 1);
  };
  walkNames(index, (kind, asset, of, name) => {
    if (COUNTED.has(kind)) count({ kind, asset, of, name });
    return name;
  });
  // Once is the declaration itself.
  const isUnused = (kind: NameKind, asset: string, name: string): boolean =>
    (times.get(nameKey({ kind, asset, of: '', name })) ?? 0) <= 1;
  const unused: Unused[] = [];
  const put = (kind: Unused['kind'], asset: string, name: string, text: string, item: FromGame): void => {
    unused.push({ kind, asset, name, text, isOfGame: item.origin !== undefined });
  };
  for (const { at, decl } of index.assets) {
    if (decl.kind !== 'scene' && isUnused('asset', '', decl.id)) {
      put('asset', '', decl.id, TABLES.assets.line(decl), decl);
      continue;
    }
    for (const list of ['properties', 'events', 'actions'] as const) {
      const table = TABLES[list];
      for (const item of table.all(index, at)) {
        const name = table.nameOf(item);
        const kind = KIND_OF[list];
        if (isUnused(kind, decl.id, name)) put(kind, decl.id, name, table.line(item), item);
      }
    }
  }
  for (const list of ['channels', 'enums', 'tables'] as const) {
    for (const item of TABLES[list].all(index, -1)) {
      const name = TABLES[list].nameOf(item);
      const kind = OF_PROJECT[list];
      if (isUnused(kind, '', name)) put(kind, '', name, TABLES[list].line(item), item);
    }
  }
  return unused;
}
const COUNTED: ReadonlySet<NameKind> = new Set([
  'asset',
  'event',
  'action',
  'property',
  'channel',
  'enum',
  'table',
]);

/** Takes declarations away, all as one edit. Linear in the lists that they stand in. */
export function withoutUnused(
  index: ProjectIndex,
  unused: readonly Pick<Unused, 'kind' | 'asset' | 'name'>[],
): Change[] {
  const gone = new Map<string, Set<string>>();
  for (const { kind, asset, name } of unused) {
    const key = `${asset}\n${PART[kind]}`;
    const names = gone.get(key);
    if (names) names.add(name);
    else gone.set(key, new Set([name]));
  }
  return [...gone].flatMap(([key, names]): Change[] => {
    const [asset, part] = key.split('\n') as [string, (typeof PART)[Unused['kind']]];
    if (part === 'assets') return [...names].map((id) => ({ op: 'drop', asset: id }));
    const table = TABLES[part];
    const value = table
      .all(index, index.assetAt.get(asset) ?? -1)
      .filter((item) => !names.has(table.nameOf(item)));
    const of = asset === '' ? {} : { asset };
    return [{ op: 'set', ...of, part, ...(value.length > 0 ? { value } : {}) } as unknown as Change];
  });
}
const PART = {
  asset: 'assets',
  event: 'events',
  action: 'actions',
  property: 'properties',
  channel: 'channels',
  enum: 'enums',
  table: 'tables',
} as const;
