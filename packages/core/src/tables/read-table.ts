import { AREA, areas } from '../declare/area.js';
import type { Need, Wishes } from '../declare/needs.js';
import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import type { CsvRowFault } from '../exchange/csv-bindings.js';
import type { CsvCells, CsvTable } from '../exchange/csv-table.js';
import { canonicalJson } from '../project/canonical.js';
import { isName } from '../project/name.js';
import { indexProject, type ProjectIndex } from '../project/index-project.js';
import { Reading } from '../project/shape.js';
import type { EventDecl } from '../project/types.js';
import { own } from '../util/own.js';
import { CellFault } from '../exchange/cell.js';
import type { Column } from './column.js';
import type { TableKind } from './kind.js';
import { missingFor, type Missing } from './missing.js';
import { propertyOfHeading } from './placements.js';
import { tableChanges } from './table-changes.js';
import type { TableRow } from './table-row.js';
import { TABLES, valueColumns, type AnyTable, type TableMapping } from './tables.js';

/** A table as it would be taken in; nothing of it is yet. */
export interface TableRead {
  rows: TableRow[];
  needs: readonly Need[];
  /** The edit; null as long as something is open, or cannot be made as it is written. */
  changes: Change[] | null;
}
export interface TableAsk {
  mapping: TableMapping;
  /** The asset of rows that name none. */
  owner: string;
  /** Whether assets and properties that are missing are made, and what somebody wants otherwise. */
  isMaking?: boolean;
  wishes?: Wishes;
}

/**
 * Reads each row as a thing of a kind: new, or what is there with what the row says; columns that are not there leave their
 * part as it is, an empty cell takes it out. Rows that are broken are reported with every fault and left out. Cost: the cells,
 * and the project where something is made.
 */
export function readTable(index: ProjectIndex, kind: TableKind, csv: CsvTable, ask: TableAsk): TableRead {
  const table = TABLES[kind];
  const { mapping, owner, isMaking = true, wishes = new Map() } = ask;
  const missing = isMaking ? missingFor(index, table, csv.rows, { mapping, owner, wishes }) : NOTHING;
  const { making, needs } = missing;
  const now = making.length > 0 ? indexProject(applyChanges(index.project, making).project) : index;
  const reader = new RowReader(now, table, csv.columns, mapping, owner, missing);
  const rows = csv.rows.map((row) => reader.read(row));
  const changes = tableChanges(now, table, rows, {
    isLaidOut: own(mapping, 'x') === undefined && own(mapping, 'y') === undefined,
  });
  const isReady = needs.every((n) => !n.isOpen && n.fault === null);
  return { rows, needs, changes: isReady ? [...making, ...sensing(making, rows), ...changes] : null };
}
const NOTHING: Missing = { needs: [], making: [], meant: (name) => name, meantProperty: (_of, name) => name };

/** New prefabs of which somebody can come in or leave have an area. */
function sensing(making: readonly Change[], rows: readonly TableRow[]): Change[] {
  const fresh = new Set(making.flatMap((c) => (c.op === 'add' ? [c.item.id] : [])));
  const said = rows.flatMap(({ asset, item }) =>
    item && 'cause' in item && fresh.has(asset) ? [{ asset, value: item as EventDecl }] : [],
  );
  const sensed = new Set(said.filter(({ value }) => areas([{ kind: 'event', value }])).map((s) => s.asset));
  return [...sensed].map((asset): Change => ({ op: 'set', asset, part: 'area', value: AREA }));
}

class RowReader {
  private readonly columns: { column: Column<object>; at: number }[];
  /** What rows before have said, by asset and name. */
  private readonly said = new Map<string, TableRow>();
  private readonly there = new Map<string, ReadonlyMap<string, object>>();

  constructor(
    private readonly index: ProjectIndex,
    private readonly table: AnyTable,
    private readonly headings: readonly string[],
    private readonly mapping: TableMapping,
    private readonly owner: string,
    private readonly missing: Missing,
  ) {
    const values = Object.keys(mapping).filter((field) => propertyOfHeading(field) !== null);
    const known = [...table.columns, ...valueColumns(index, values, missing.meantProperty)];
    this.columns = known.flatMap((column) => {
      const at = own(mapping, column.name);
      return at === undefined ? [] : [{ column, at }];
    });
  }

  read({ line, cells }: CsvCells): TableRow {
    const { table, index } = this;
    const faults: CsvRowFault[] = [];
    const fault = (column: string | null, text: string): void => {
      // Reported by the heading of the column, where there is one.
      const at = column === null ? undefined : own(this.mapping, column);
      faults.push({ column: at === undefined ? column : this.headings[at], text });
    };
    if (cells.length !== this.headings.length) {
      fault(
        null,
        `has ${cells.length} cell${cells.length === 1 ? '' : 's'}, but there are ${this.headings.length} columns`,
      );
    }
    const cell = (field: string): string => (cells[own(this.mapping, field) ?? -1] ?? '').trim();
    const asset = table.ofAsset ? this.missing.meant(cell('asset') || this.owner) : '';
    if (table.ofAsset && asset === '') fault('asset', 'is empty, and no default asset is selected');
    else if (table.ofAsset && !index.assetAt.has(asset))
      fault('asset', `there is no scene, prefab or widget "${asset}"`);
    const name = cell(table.named.name);
    if (name === '') fault(table.named.name, 'is empty');
    else if (!FREELY_NAMED.has(table.kind) && !isName(name))
      fault(table.named.name, `"${name}" is not a valid name`);
    const key = `${asset}\n${name}`;
    const before = this.said.get(key);
    if (before && table.list === undefined && name !== '')
      fault(table.named.name, `"${name}" already appears in an earlier row`);
    const row: TableRow = { line, asset, name, state: 'broken', item: null, faults };
    const old = name === '' ? undefined : this.find(asset, name);
    const item: object = { ...(old ?? table.blank(name)) };
    for (const { column, at } of this.columns) {
      const text = this.meantCell(column.name, (cells[at] ?? '').trim());
      if (old && column.print(old) === text) continue;
      try {
        column.read(text, item);
      } catch (error) {
        if (!(error instanceof CellFault)) throw error;
        fault(column.name, error.message);
      }
    }
    if (faults.length === 0) this.finish(item, old, before, fault);
    if (faults.length > 0) return row;
    const same = old !== undefined && canonicalJson(old) === canonicalJson(item);
    const taken: TableRow = { ...row, state: same ? 'same' : old ? 'changed' : 'new', item };
    this.said.set(key, taken);
    return taken;
  }

  /** A slip of the pen in what is placed is taken as it was meant. */
  private meantCell(column: string, text: string): string {
    return this.table.kind === 'placements' && column === 'of' ? this.missing.meant(text) : text;
  }
  private finish(
    item: object,
    old: object | undefined,
    before: TableRow | undefined,
    fault: (column: string | null, text: string) => void,
  ): void {
    const { table, index } = this;
    try {
      table.complete?.(item, index);
    } catch (error) {
      if (!(error instanceof CellFault)) throw error;
      fault(null, error.message);
      return;
    }
    if (table.list !== undefined && before?.item) {
      const list = table.list;
      const more = item[list] as string[];
      Object.assign(item, { [list]: [...new Set([...(before.item[list] as string[]), ...more])] });
    }
    if (
      table.kind === 'assets' &&
      old &&
      (old as { kind: string }).kind !== (item as { kind: string }).kind
    ) {
      fault('kind', `it is already a ${(old as { kind: string }).kind}, and that cannot change`);
    }
    const reading = new Reading();
    table.shape.check(item, reading);
    for (const { pointer, expected, found } of reading.problems) {
      fault(null, `expected ${expected}, found ${found} at ${pointer}`);
    }
  }
  private find(asset: string, name: string): object | undefined {
    let there = this.there.get(asset);
    if (!there) {
      const at = this.index.assetAt.get(asset) ?? -1;
      const all = this.table.ofAsset && at < 0 ? [] : this.table.all(this.index, at);
      this.there.set(asset, (there = new Map(all.map((i) => [this.table.nameOf(i), i]))));
    }
    return there.get(name);
  }
}
/** Kinds that may be called anything; the names of all others stand in wire lines. */
const FREELY_NAMED: ReadonlySet<TableKind> = new Set(['enums', 'loadSets', 'peers']);
