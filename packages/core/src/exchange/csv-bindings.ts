import type { Change } from '../edit/change.js';
import { freeBindingId } from '../edit/wiring.js';
import { canonicalJson } from '../project/canonical.js';
import { binding as bindingShape } from '../project/binding-shapes.js';
import { isName } from '../project/name.js';
import type { ProjectIndex } from '../project/index-project.js';
import { Reading } from '../project/shape.js';
import type { Binding } from '../project/types.js';
import { checkLine } from '../wireline/check.js';
import { parseConditions, parseWireLine } from '../wireline/parse.js';
import type { WireLineFault } from '../wireline/scanner.js';
import { CellFault, yesNoCell } from './cell.js';
import type { CsvCells, CsvTable } from './csv-table.js';

/** What a column can be. */
export const CSV_FIELDS = [
  'asset',
  'id',
  'sender',
  'event',
  'receiver',
  'action',
  'arguments',
  'if',
  'options',
  'limit',
  'delay',
  'enabled',
  'origin',
  'note',
  'line',
] as const;
export type CsvField = (typeof CSV_FIELDS)[number];
/** For each field the number of its column. */
export type CsvMapping = Partial<Record<CsvField, number>>;

export interface CsvRowFault {
  /** The name of the column; null where the whole row is at fault. */
  column: string | null;
  text: string;
}
/** What one row would become. */
export interface CsvRow {
  line: number;
  asset: string;
  /** `changed`: takes the place of the binding of that id; `same`: it is unchanged. */
  state: 'new' | 'changed' | 'same' | 'broken';
  binding: Binding | null;
  /** Why it cannot be taken. */
  faults: CsvRowFault[];
  /** What the audit would say of it, in sentences. */
  doubts: string[];
}

/** Columns whose names say what they are. */
export function guessMapping(columns: readonly string[]): CsvMapping {
  const mapping: CsvMapping = {};
  columns.forEach((column, i) => {
    const name = column.trim().toLowerCase();
    const field = CSV_FIELDS.find((f) => f === name || ALIASES[f]?.includes(name));
    if (field && mapping[field] === undefined) mapping[field] = i;
  });
  return mapping;
}
const ALIASES: Partial<Record<CsvField, readonly string[]>> = {
  asset: ['scene', 'owner', 'scope'],
  id: ['binding', 'name'],
  sender: ['from', 'when'],
  receiver: ['to', 'who', 'target'],
  arguments: ['args', 'parameters'],
  if: ['only if', 'conditions'],
  limit: ['times'],
  enabled: ['on'],
  note: ['comment', 'remark'],
  line: ['wire line', 'sentence'],
};

/**
 * Reads each row as a binding of the asset that it names, or of `owner`. Nothing of a row that is broken is taken; every
 * fault of it is reported with its column. Linear in the cells.
 */
export function readCsvBindings(
  index: ProjectIndex,
  table: CsvTable,
  mapping: CsvMapping,
  owner: string,
): CsvRow[] {
  const reader = new RowReader(index, table, mapping, owner);
  return table.rows.map((row) => reader.read(row));
}

/** The edit that takes in what is new or changed. */
export function csvChanges(index: ProjectIndex, rows: readonly CsvRow[]): Change[] {
  return rows.flatMap(({ asset, state, binding }): Change[] => {
    if (!binding || (state !== 'new' && state !== 'changed')) return [];
    const at = index.assets[index.assetAt.get(asset)!];
    return state === 'new'
      ? [{ op: 'insert', list: 'bindings', asset, index: Number.MAX_SAFE_INTEGER, item: binding }]
      : [{ op: 'replace', list: 'bindings', asset: at.decl.id, id: binding.id, item: binding }];
  });
}

class RowReader {
  /** Ids that rows before have taken, by asset. */
  private readonly taken = new Map<string, Set<string>>();
  /** What bindings of an asset do, by asset: to find those that are unchanged. */
  private readonly there = new Map<string, Map<string, string>>();

  constructor(
    private readonly index: ProjectIndex,
    private readonly table: CsvTable,
    private readonly mapping: CsvMapping,
    private readonly owner: string,
  ) {}

  read({ line, cells }: CsvCells): CsvRow {
    const faults: CsvRowFault[] = [];
    const { columns } = this.table;
    if (cells.length !== columns.length) {
      const text = `has ${cells.length} cell${cells.length === 1 ? '' : 's'}, but there are ${columns.length} columns`;
      faults.push({ column: null, text });
    }
    const row = new Cells(cells, columns, this.mapping, faults);
    const asset = row.text('asset') || this.owner;
    const at = this.index.assetAt.get(asset);
    if (asset === '') row.fault('asset', 'is empty, and no default asset is selected');
    else if (at === undefined) row.fault('asset', `there is no scene, prefab or widget "${asset}"`);
    const said = row.text('line') !== '' ? readLine(row) : readParts(row);
    // Read in any case: every fault of a row is reported at once.
    const extras = readExtras(row);
    const parts = said && { ...said, ...extras };
    const id = row.text('id') || parts?.id;
    if (id !== undefined && !isName(id)) row.fault('id', `"${id}" is not a valid name`);
    const taken = this.taken.get(asset) ?? new Set<string>();
    this.taken.set(asset, taken);
    if (id !== undefined && taken.has(id)) row.fault('id', `"${id}" already appears in an earlier row`);
    const broken: CsvRow = { line, asset, state: 'broken', binding: null, faults, doubts: [] };
    if (faults.length > 0 || !parts || at === undefined) return broken;

    const own = this.index.assets[at];
    const stem = 'channel' in parts.from ? parts.from.channel : parts.from.event;
    const twin = id === undefined ? this.twinOf(asset, parts as Binding) : undefined;
    const binding: Binding = { ...parts, id: id ?? twin ?? freeBindingId(own, stem, taken) };
    taken.add(binding.id);
    const reading = new Reading();
    bindingShape.check(binding, reading);
    for (const { pointer, expected, found } of reading.problems) {
      faults.push({ column: null, text: `expected ${expected}, found ${found} at ${pointer}` });
    }
    if (faults.length > 0) return broken;
    const old = own.bindings[own.bindingAt.get(binding.id) ?? -1] as Binding | undefined;
    const same = twin !== undefined || (old !== undefined && canonicalJson(old) === canonicalJson(binding));
    const state = same ? 'same' : old ? 'changed' : 'new';
    const doubts = same ? [] : checkLine(this.index, own, binding);
    return { line, asset, state, binding, faults, doubts };
  }

  /** The binding of the asset that does the very same. */
  private twinOf(asset: string, binding: Binding): string | undefined {
    let there = this.there.get(asset);
    if (!there) {
      const { bindings } = this.index.assets[this.index.assetAt.get(asset)!];
      there = new Map(bindings.map((b) => [sameness(b), b.id]));
      this.there.set(asset, there);
    }
    return there.get(sameness(binding));
  }
}
function sameness(binding: Binding): string {
  return canonicalJson({ ...binding, id: '' });
}

/** The cells of one row by field; faults are reported with the names of columns. */
class Cells {
  constructor(
    private readonly cells: readonly string[],
    private readonly columns: readonly string[],
    private readonly mapping: CsvMapping,
    private readonly faults: CsvRowFault[],
  ) {}
  text(field: CsvField): string {
    return this.raw(field).trim();
  }
  /** With the blanks at its ends. */
  raw(field: CsvField): string {
    const column = this.mapping[field];
    return column === undefined ? '' : (this.cells[column] ?? '');
  }
  fault(field: CsvField, text: string): void {
    const column = this.mapping[field];
    this.faults.push({ column: column === undefined ? field : this.columns[column], text });
  }
}

type Parts = Omit<Binding, 'id'> & { id?: string };

function readLine(row: Cells): Parts | null {
  const parsed = parseWireLine(row.text('line'));
  if (!('fault' in parsed)) return parsed.binding;
  row.fault('line', faultText(parsed.fault));
  return null;
}

function faultText({ message, at }: WireLineFault): string {
  return `${message} at character ${at + 1}`;
}

/** Puts the cells together as a wire line, reads that, and tells what is wrong by the cell that it stands in. */
function readParts(row: Cells): Parts | null {
  const [sender, event, receiver, action] = (['sender', 'event', 'receiver', 'action'] as const).map((f) =>
    row.text(f),
  );
  const [hears, publishes] = [sender.startsWith('#'), receiver.startsWith('#')];
  const missing = (field: CsvField, text: string): boolean => {
    if (text === '') row.fault(field, 'is empty');
    return text === '';
  };
  const lacking = [
    missing('sender', sender),
    !hears && missing('event', event),
    missing('receiver', receiver),
    !publishes && missing('action', action),
  ].includes(true);
  if (hears && publishes) row.fault('receiver', 'what is heard on a channel cannot be published again');
  if (lacking || (hears && publishes)) return null;
  const line = new LineOfCells();
  line.add('when ');
  line.add(hears ? sender : sender === '.' ? '' : sender, 'sender');
  if (!hears) line.add('.').add(event, 'event');
  line.add(' do ');
  line.add(publishes ? receiver : receiver === '.' ? '' : receiver, 'receiver');
  if (!publishes) line.add('.').add(action, 'action');
  const args = row.text('arguments');
  if (args.startsWith('(')) line.add(args, 'arguments');
  else if (args !== '') line.add('(').add(args, 'arguments').add(')');
  line.add(' ').add(row.text('options'), 'options');
  const parsed = parseWireLine(line.text);
  if (!('fault' in parsed)) return parsed.binding;
  const { field, at } = line.fieldAt(parsed.fault.at);
  row.fault(
    field,
    `${parsed.fault.message.replace('the end of the line', 'its end')} at character ${at + 1}`,
  );
  return null;
}

/** A line with the fields that its parts come from. */
class LineOfCells {
  text = '';
  private readonly spans: { field: CsvField; from: number }[] = [];

  add(text: string, field?: CsvField): this {
    if (field) this.spans.push({ field, from: this.text.length });
    this.text += text;
    return this;
  }
  fieldAt(at: number): { field: CsvField; at: number } {
    const span = this.spans.filter((s) => s.from <= at).at(-1) ?? this.spans[0];
    return { field: span.field, at: Math.max(0, at - span.from) };
  }
}

/** Options and notes that have columns of their own. */
function readExtras(row: Cells): Pick<Binding, 'if' | 'limit' | 'delay' | 'enabled' | 'origin' | 'note'> {
  const next: ReturnType<typeof readExtras> = {};
  const asked = row.text('if').replace(/^if\s+/, '');
  if (asked !== '') {
    const read = parseConditions(asked);
    if ('fault' in read) row.fault('if', faultText(read.fault));
    else next.if = read.value;
  }
  const limit = row.text('limit').toLowerCase();
  if (limit !== '') {
    const n = limit === 'once' ? 1 : Number(limit);
    if (!Number.isInteger(n) || n < 1) row.fault('limit', `"${limit}" is not a whole number from 1`);
    else next.limit = n;
  }
  const delay = row.text('delay');
  if (delay !== '') {
    const seconds = Number(delay.replace(/\s*s$/, '').replace(/^(\d+),(\d+)$/, '$1.$2'));
    if (!Number.isFinite(seconds) || seconds < 0) row.fault('delay', `"${delay}" is not a number of seconds`);
    else next.delay = seconds;
  }
  const enabled = row.text('enabled').toLowerCase();
  if (enabled !== '') {
    try {
      next.enabled = yesNoCell.read(enabled);
    } catch (error) {
      if (!(error instanceof CellFault)) throw error;
      row.fault('enabled', error.message);
    }
  }
  const origin = row.text('origin').toLowerCase();
  if (origin !== '') {
    if (origin === 'code' || origin === 'authored') next.origin = origin;
    else row.fault('origin', `"${origin}" is not code or authored`);
  }
  const note = row.raw('note');
  if (note !== '') next.note = note;
  return next;
}
