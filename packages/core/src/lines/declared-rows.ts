import { canonicalJson } from '../project/canonical.js';
import { Reading } from '../project/shape.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Asset } from '../project/types.js';
import { TABLES } from '../tables/tables.js';
import type { TableKind } from '../tables/kind.js';
import { bare } from './bare.js';
import { mergeDeclaration, type Declaration } from '../wireline/declaration.js';

/** What a declaring line comes to in a project. */
export interface DeclaredRow {
  asset: string;
  name: string;
  /** `other`: something of that name is there, and not as the line says it. */
  state: 'new' | 'same' | 'other' | 'broken';
  item: object | null;
  /** Why it is not simply new. */
  reason: string;
}

/** What the line makes of what is there: parts that it does not speak of stay. Cost: the list that it belongs to, once. */
export function declaredRow(
  index: ProjectIndex,
  kind: TableKind,
  of: string,
  said: object,
  lists: Map<string, ReadonlyMap<string, object>>,
): DeclaredRow {
  const table = TABLES[kind];
  const name = table.nameOf(said);
  const row = { asset: of, name };
  if (table.ofAsset && !index.assetAt.has(of)) {
    return { ...row, state: 'broken', item: null, reason: `there is no scene, prefab or widget ${of}` };
  }
  const reading = new Reading();
  table.shape.check(said, reading);
  if (reading.problems.length > 0) {
    const [{ expected, found }] = reading.problems;
    return { ...row, state: 'broken', item: null, reason: `expected ${expected}, found ${found}` };
  }
  const key = `${kind} ${of}`;
  let list = lists.get(key);
  if (!list) {
    const all = table.all(index, index.assetAt.get(of) ?? -1);
    lists.set(key, (list = new Map(all.map((item) => [table.nameOf(item), item]))));
  }
  const old = list.get(name);
  if (!old) return { ...row, state: 'new', item: said, reason: '' };
  if (kind === 'assets' && (old as Asset).kind !== (said as Asset).kind) {
    return { ...row, state: 'broken', item: null, reason: `${name} is a ${(old as Asset).kind}` };
  }
  const item = merged(kind, old, said);
  return canonicalJson(bare(kind, old)) === canonicalJson(bare(kind, item))
    ? { ...row, state: 'same', item: old, reason: `${name} already exists` }
    : { ...row, state: 'other', item, reason: `it exists as: ${table.line(old)}` };
}
function merged(kind: TableKind, old: object, said: object): object {
  const one = DECLARED[kind as keyof typeof DECLARED] as Declaration['kind'] | undefined;
  if (!one) return { ...old, ...said };
  return mergeDeclaration({ kind: one, value: old } as Declaration, { kind: one, value: said } as Declaration)
    .value;
}
const DECLARED = { events: 'event', actions: 'action', properties: 'property' } as const;
