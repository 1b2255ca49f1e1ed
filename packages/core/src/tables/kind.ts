import type { Shape } from '../project/shape.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Column } from './column.js';

/** What there is a table of, besides bindings. */
export const TABLE_KINDS = [
  'assets',
  'placements',
  'properties',
  'events',
  'actions',
  'channels',
  'enums',
  'tables',
  'loadSets',
  'peers',
] as const;
export type TableKind = (typeof TABLE_KINDS)[number];

/** How the things of one kind stand in a table: one row for each. */
export interface Table<T> {
  kind: TableKind;
  /** One of them, and many, in words. */
  one: string;
  many: string;
  /** The heading of its name, and what else that may be. */
  named: { name: string; also: readonly string[] };
  /** Whether an asset has it, whose name stands in the column `asset`. */
  ofAsset: boolean;
  columns: readonly Column<T>[];
  /** Columns of which a table of such things must have one, so that it is told from other tables. */
  telling: readonly string[];
  /** Rows of the same name follow on one another: each gives more of this list. */
  list?: keyof T & string;
  nameOf: (item: T) => string;
  blank: (name: string) => T;
  /** Fills in what may be left out of something new, and looks whether it is whole. @throws CellFault */
  complete?: (item: T, index: ProjectIndex) => void;
  shape: Shape<T>;
  /** The line that says it. */
  line: (item: T) => string;
  /** Those of the project, or of an asset, in their order. */
  all: (index: ProjectIndex, asset: number) => readonly T[];
}
