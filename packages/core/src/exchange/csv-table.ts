import { OquelError } from '../util/oquel-error.js';
import { unguardCell } from './guard.js';
import { CsvError, parse } from 'csv-parse/browser/esm/sync';

/** A text of separated values, taken apart. */
export interface CsvTable {
  columns: string[];
  rows: CsvCells[];
  delimiter: string;
}
export interface CsvCells {
  /** The line of the text that it ends in, counted from 1. */
  line: number;
  cells: string[];
}
/** The text is no table at all; says in which line. */
export class CsvFault extends OquelError {
  override readonly name = 'CsvFault';
  readonly code = 'broken-table';
}

const DELIMITERS = [',', ';', '\t'];

/**
 * Reads separated values whose first row names the columns. The separator is the one that the first line has most of.
 * Rows may be shorter or longer than the first. Linear in the text. @throws CsvFault
 */
export function readCsvTable(text: string): CsvTable {
  const [first] = text.split('\n', 1);
  const delimiter = DELIMITERS.map((d) => ({ d, n: first.split(d).length })).reduce((a, b) =>
    b.n > a.n ? b : a,
  ).d;
  try {
    const records = parse(text, {
      bom: true,
      delimiter,
      info: true,
      relax_column_count: true,
      // A quote inside of a cell that is typed by hand is only a quote.
      relax_quotes: true,
      skip_empty_lines: true,
      trim: true,
    }) as unknown as { info: { lines: number }; record: string[] }[];
    const [head, ...rest] = records;
    if (!head) throw new CsvFault('the file is empty; its first line must name the columns');
    return {
      columns: head.record,
      rows: rest.map(({ info, record }) => ({ line: info.lines, cells: record.map(unguardCell) })),
      delimiter,
    };
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    throw new CsvFault(`the file cannot be read as a table: ${error.message}`);
  }
}
