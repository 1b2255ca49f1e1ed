import type { CellOf } from '../exchange/cell.js';

/** One column of a table of things of a kind. */
export interface Column<T> {
  name: string;
  /** What else its heading may be. */
  also: readonly string[];
  /** Empty where the thing has nothing of it. */
  print: (item: T) => string;
  /** Puts what a cell says into a thing; an empty cell takes it out. @throws CellFault */
  read: (cell: string, item: T) => void;
}

/** A column that holds one part of a thing. */
export function part<T extends object, K extends keyof T & string>(
  name: string,
  key: K,
  cell: CellOf<NonNullable<T[K]>> | ((item: T) => CellOf<NonNullable<T[K]>>),
  ...also: readonly string[]
): Column<T> {
  const cellOf = typeof cell === 'function' ? cell : (): typeof cell => cell;
  return {
    name,
    also,
    print: (item) => {
      const value = item[key];
      return value === undefined || value === null ? '' : cellOf(item).print(value);
    },
    read: (text, item) => {
      if (text === '') delete item[key];
      else item[key] = cellOf(item).read(text);
    },
  };
}
