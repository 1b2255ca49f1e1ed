import {
  CSV_FIELDS,
  CsvFault,
  fieldsOf,
  guessMapping,
  guessTableKind,
  guessTableMapping,
  printBinding,
  propertyOfHeading,
  readBindings,
  readCsvTable,
  readTable,
  TABLES,
  type AnyKind,
  type Change,
  type CsvRowFault,
  type CsvTable,
  type Need,
  type ProjectIndex,
  type TableKind,
  type TableMapping,
  type Wishes,
} from '@oquel/core';

type State = 'new' | 'changed' | 'same' | 'broken';
/** A table as it would be taken in; nothing of it is yet. */
export interface TableLook {
  kind: AnyKind;
  columns: string[];
  /** The first rows as they stand. */
  sample: string[][];
  /** What columns can be. */
  fields: string[];
  mapping: TableMapping;
  counts: Record<State, number>;
  broken: { line: number; faults: CsvRowFault[] }[];
  /** New and changed, as sentences and lines. */
  taken: { line: number; asset: string; state: State; text: string; doubts: string[] }[];
  /** All rows, of which only the first are reported above. */
  total: number;
  /** What is made for them. */
  needs: readonly Need[];
  /** Null as long as something must be decided. */
  changes: Change[] | null;
}
export interface TableQuestion {
  text: string;
  /** Whose name may say what it is of. */
  file: string;
  /** Null: guessed from the names of the columns. */
  kind: AnyKind | null;
  mapping: TableMapping | null;
  /** The asset of rows that name none. */
  owner: string;
  /** What is missing is made; what somebody wants otherwise, by key. */
  isMaking?: boolean;
  wishes?: Wishes;
}
const MOST = 500;

export function lookAtTable(index: ProjectIndex, ask: TableQuestion): TableLook | { fault: string } {
  try {
    const table = readCsvTable(ask.text);
    const kind = ask.kind ?? guessTableKind(table.columns, ask.file) ?? 'bindings';
    return kind === 'bindings' ? bindingsLook(index, table, ask) : thingsLook(index, table, kind, ask);
  } catch (error) {
    if (error instanceof CsvFault) return { fault: error.message };
    throw error;
  }
}

function bindingsLook(index: ProjectIndex, table: CsvTable, ask: TableQuestion): TableLook {
  const mapping = ask.mapping ?? guessMapping(table.columns);
  const read = readBindings(index, table, { ...ask, mapping: mapping });
  const rows = read.rows.map((r) => ({ ...r, text: () => printBinding(r.binding!) }));
  return {
    kind: 'bindings',
    fields: [...CSV_FIELDS],
    ...common(table, rows),
    mapping: mapping,
    needs: read.needs,
    changes: read.changes,
  };
}
function thingsLook(index: ProjectIndex, table: CsvTable, kind: TableKind, ask: TableQuestion): TableLook {
  const mapping = ask.mapping ?? guessTableMapping(kind, table.columns);
  const read = readTable(index, kind, table, { ...ask, mapping });
  const rows = read.rows.map((r) => ({ ...r, doubts: [], text: () => TABLES[kind].line(r.item!) }));
  return {
    kind,
    fields: [
      ...fieldsOf(TABLES[kind]).map((f) => f.name),
      ...Object.keys(mapping).filter((field) => propertyOfHeading(field) !== null),
    ],
    ...common(table, rows),
    mapping,
    needs: read.needs,
    changes: read.changes,
  };
}
function common(
  table: CsvTable,
  rows: readonly {
    line: number;
    asset: string;
    state: State;
    text: () => string;
    doubts: string[];
    faults: CsvRowFault[];
  }[],
): Pick<TableLook, 'columns' | 'sample' | 'counts' | 'broken' | 'taken' | 'total'> {
  const counts: TableLook['counts'] = { new: 0, changed: 0, same: 0, broken: 0 };
  for (const row of rows) counts[row.state]++;
  const taken = rows.filter((r) => r.state === 'new' || r.state === 'changed').slice(0, MOST);
  return {
    columns: table.columns,
    sample: table.rows.slice(0, 3).map((r) => r.cells),
    counts,
    broken: rows
      .filter((r) => r.state === 'broken')
      .slice(0, MOST)
      .map(({ line, faults }) => ({ line, faults })),
    taken: taken.map(({ line, asset, state, text, doubts }) => ({
      line,
      asset,
      state,
      text: text(),
      doubts,
    })),
    total: rows.length,
  };
}
