import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import type { Need } from '../declare/needs.js';
import { csvChanges, readCsvBindings, type CsvRow } from '../exchange/csv-bindings.js';
import { makeForRows } from '../exchange/csv-making.js';
import type { CsvTable } from '../exchange/csv-table.js';
import { indexProject, type ProjectIndex } from '../project/index-project.js';
import { own } from '../util/own.js';
import { missingFor } from './missing.js';
import type { TableAsk } from './read-table.js';

/** A table of bindings as it would be taken in. */
export interface BindingsRead {
  rows: readonly CsvRow[];
  needs: readonly Need[];
  /** The edit; null as long as something is open or cannot be taken. */
  changes: Change[] | null;
}

/**
 * Reads each row as a binding; scenes that rows name and that are not there are made first, then all that the bindings need.
 * Cost: the cells, and the project for each owner that needs something.
 */
export function readBindings(index: ProjectIndex, csv: CsvTable, ask: TableAsk): BindingsRead {
  const { mapping, owner, isMaking = true, wishes = new Map() } = ask;
  if (!isMaking) {
    const rows = readCsvBindings(index, csv, mapping, owner);
    return { rows, needs: [], changes: csvChanges(index, rows) };
  }
  const BINDINGS = { kind: 'bindings', ofAsset: true } as const;
  const missing = missingFor(index, BINDINGS, csv.rows, { mapping, owner, wishes });
  const { making, meant } = missing;
  const now = making.length > 0 ? indexProject(applyChanges(index.project, making).project) : index;
  const at = own(mapping, 'asset');
  const rows = csv.rows.map((row) =>
    at === undefined
      ? row
      : { ...row, cells: row.cells.map((cell, i) => (i === at ? meant(cell.trim()) : cell)) },
  );
  const made = makeForRows(now, readCsvBindings(now, { ...csv, rows }, mapping, owner), wishes);
  const isReady = made.changes !== null && missing.needs.every((n) => !n.isOpen);
  return {
    rows: made.rows,
    needs: [...missing.needs, ...made.needs],
    changes: isReady ? [...making, ...made.changes!] : null,
  };
}
