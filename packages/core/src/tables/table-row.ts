import type { CsvRowFault } from '../exchange/csv-bindings.js';

/** What one row would become. */
export interface TableRow {
  line: number;
  /** The asset that it belongs to; empty where none has it. */
  asset: string;
  name: string;
  /** `changed`: takes the place of what has that name; `same`: it is unchanged. */
  state: 'new' | 'changed' | 'same' | 'broken';
  item: object | null;
  /** Why it cannot be taken. */
  faults: CsvRowFault[];
}
