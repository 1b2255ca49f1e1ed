/** Columns of a grid that are told apart: more than any pane has pixels. */
const COLUMNS = 2 ** 24;

/** One number for a cell of a grid; a text for each took most of the time of a look-up. */
export function cellKey(column: number, row: number): number {
  return column + COLUMNS * row;
}
