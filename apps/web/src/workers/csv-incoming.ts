import {
  CsvFault,
  csvChanges,
  guessMapping,
  makeForRows,
  printBinding,
  readCsvBindings,
  readCsvTable,
  type Change,
  type CsvMapping,
  type CsvRow,
  type Need,
  type ProjectIndex,
  type Wishes,
} from '@oquel/core';

/** A table of bindings as it would be taken in; nothing of it is yet. */
export interface CsvLook {
  columns: string[];
  /** The first rows as they stand. */
  sample: string[][];
  mapping: CsvMapping;
  counts: Record<CsvRow['state'], number>;
  broken: CsvRow[];
  /** New and changed, as sentences. */
  taken: { line: number; asset: string; state: CsvRow['state']; text: string; doubts: string[] }[];
  /** All rows, of which only the first are told above. */
  total: number;
  /** What is made for them. */
  needs: readonly Need[];
  /** Null as long as something must be decided. */
  changes: Change[] | null;
}
export interface CsvAsk {
  text: string;
  /** Null: guessed from the names of the columns. */
  mapping: CsvMapping | null;
  /** The asset of rows that name none. */
  owner: string;
  /** What is missing is made; what somebody wants otherwise, by key. */
  isMaking?: boolean;
  wishes?: Wishes;
}
const MOST = 500;

export function lookAtCsv(
  index: ProjectIndex,
  { text, mapping, owner, isMaking, wishes }: CsvAsk,
): CsvLook | { fault: string } {
  try {
    const table = readCsvTable(text);
    const used = mapping ?? guessMapping(table.columns);
    const read = readCsvBindings(index, table, used, owner);
    const made = isMaking ? makeForRows(index, read, wishes) : null;
    const rows = made?.rows ?? read;
    const counts: CsvLook['counts'] = { new: 0, changed: 0, same: 0, broken: 0 };
    for (const row of rows) counts[row.state]++;
    const taken = rows.filter((r) => r.state === 'new' || r.state === 'changed');
    return {
      columns: table.columns,
      sample: table.rows.slice(0, 3).map((r) => r.cells),
      mapping: used,
      counts,
      broken: rows.filter((r) => r.state === 'broken').slice(0, MOST),
      taken: taken.slice(0, MOST).map(({ line, asset, state, binding, doubts }) => ({
        line,
        asset,
        state,
        text: printBinding(binding!),
        doubts,
      })),
      total: rows.length,
      needs: made?.needs ?? [],
      changes: made ? made.changes : csvChanges(index, rows),
    };
  } catch (error) {
    if (error instanceof CsvFault) return { fault: error.message };
    throw error;
  }
}
