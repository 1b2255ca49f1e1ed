import { csvText, type Delimiter } from '../export/csv.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { TableKind } from './kind.js';
import { allOf, columnsOf, TABLES } from './tables.js';

/**
 * Everything of one kind as CSV (RFC 4180), a row for each, in the order of the document; brought in again it changes
 * nothing. Linear in them, and in the cells.
 */
export function tableCsv(index: ProjectIndex, kind: TableKind, delimiter?: Delimiter): string {
  const table = TABLES[kind];
  const columns = columnsOf(index, table);
  const head = [...(table.ofAsset ? ['asset'] : []), table.named.name, ...columns.map((c) => c.name)];
  const rows = Array.from(allOf(index, table), ([asset, item]) => [
    ...(table.ofAsset ? [asset] : []),
    table.nameOf(item),
    ...columns.map((c) => c.print(item)),
  ]);
  return csvText([head, ...rows], delimiter);
}
