import { guessMapping } from '../exchange/csv-bindings.js';
import { actionTable, eventTable, propertyTable } from './declarations.js';
import { assetTable } from './assets.js';
import type { Column } from './column.js';
import type { Table, TableKind } from './kind.js';
import { placementTable, propertyOfHeading, valueColumn, valueHeadings } from './placements.js';
import { channelTable, enumTable, keyTableTable, loadSetTable, peerTable } from './project-lists.js';
import { isName } from '../project/name.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Placement } from '../project/types.js';

/** Tables are read and written by what their things have in common; what differs stands in each of them. */
export type AnyTable = Table<object>;

export const TABLES = {
  assets: assetTable,
  placements: placementTable,
  properties: propertyTable,
  events: eventTable,
  actions: actionTable,
  channels: channelTable,
  enums: enumTable,
  tables: keyTableTable,
  loadSets: loadSetTable,
  peers: peerTable,
} as unknown as Record<TableKind, AnyTable>;

/** Things of a kind with the asset that has them; it is empty where none does. */
export function* allOf(index: ProjectIndex, table: AnyTable): Iterable<[asset: string, item: object]> {
  if (!table.ofAsset) {
    for (const item of table.all(index, -1)) yield ['', item];
    return;
  }
  for (const { at, decl } of index.assets) for (const item of table.all(index, at)) yield [decl.id, item];
}

/** All columns that things of a kind need, with one for each property that one of them sets. Linear in them. */
export function columnsOf(index: ProjectIndex, table: AnyTable): Column<object>[] {
  if (table.kind !== 'placements') return [...table.columns];
  const placed = Array.from(allOf(index, table), ([, item]) => item as Placement);
  return [...table.columns, ...valueColumns(index, valueHeadings(placed))];
}
export function valueColumns(
  index: ProjectIndex,
  headings: readonly string[],
  meant?: (of: string, property: string) => string,
): Column<object>[] {
  return headings.flatMap((heading) => {
    const column = valueColumn(index, heading, meant);
    return column ? [column as unknown as Column<object>] : [];
  });
}

/** For each field the number of its column: `asset`, the name, those of the kind, and headings of properties. */
export type TableMapping = Record<string, number>;

/** Columns whose headings say what they are; of placements, what is called like no field is taken for a property. */
export function guessTableMapping(kind: TableKind, columns: readonly string[]): TableMapping {
  const table = TABLES[kind];
  const mapping: TableMapping = {};
  const fields = fieldsOf(table);
  const left: number[] = [];
  const found = new Map<string, number>();
  columns.forEach((column, i) => {
    const heading = column.trim();
    const name = heading.toLowerCase();
    const field = fields.find((f) => f.name === name) ?? fields.find((f) => f.also.includes(name));
    if (field && !found.has(field.name)) found.set(field.name, i);
    else left.push(i);
  });
  for (const i of kind === 'placements' ? left : []) {
    const heading = columns[i].trim();
    if (propertyOfHeading(heading)) found.set(heading, i);
    else if (isName(heading)) found.set(`.${heading}`, i);
  }
  for (const [field, i] of found) mapping[field] = i;
  return mapping;
}
/** What a column of such a table can be: its asset, its name, and the parts that it has. */
export function fieldsOf(table: AnyTable): { name: string; also: readonly string[] }[] {
  return [...(table.ofAsset ? [ASSET] : []), table.named, ...table.columns];
}
const ASSET = { name: 'asset', also: ['scene', 'owner', 'scope', 'in'] };
/** What a table can be of. */
export type AnyKind = TableKind | 'bindings';
/**
 * What a table is of, by its headings, and by the name of its file where they leave that open; null where they fit nothing.
 */
export function guessTableKind(columns: readonly string[], file = ''): AnyKind | null {
  const { line, receiver } = guessMapping(columns);
  if (receiver !== undefined) return 'bindings';
  const headings = new Set(columns.map((c) => c.trim().toLowerCase()));
  const has = ({ name, also }: { name: string; also: readonly string[] }): boolean =>
    [name, ...also].some((n) => headings.has(n));
  let best: { kind: TableKind; score: number } | null = null;
  for (const table of Object.values(TABLES)) {
    const fields = fieldsOf(table);
    const isCalled = file.toLowerCase().includes(table.many);
    const telling = fields.filter((f) => table.telling.includes(f.name) && has(f)).length;
    if (!has(table.named) || (telling === 0 && !isCalled)) continue;
    const score = fields.filter(has).length + telling * 2 + (isCalled ? 3 : 0);
    if (!best || score > best.score) best = { kind: table.kind, score };
  }
  // Properties may be called so, too.
  return best?.kind ?? (line === undefined ? null : 'bindings');
}
