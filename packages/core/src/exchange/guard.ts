/** A cell that a spreadsheet would take for a formula, whatever stands in quotes before it. */
const FORMULA = /^'*[=+\-@\t\r]/;
const NUMBER = /^-?\d+(\.\d+)?([eE][+-]?\d+)?$/;

/** A text as a cell of a table: one that begins like a formula gets a quote in front, which spreadsheets do not show. */
export function guardCell(text: string): string {
  return FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text;
}
/** The text of a cell that was guarded. */
export function unguardCell(cell: string): string {
  return cell.startsWith("'") && FORMULA.test(cell.slice(1)) && !NUMBER.test(cell.slice(1))
    ? cell.slice(1)
    : cell;
}
