import { OquelError } from '../util/oquel-error.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Field, Type, Value } from '../project/types.js';
import { literalFault, literalType } from '../project/arg-types.js';
import { parseFields, printFields, type ParsedText } from '../wireline/declared.js';
import { parseItems } from '../wireline/project-line.js';
import { printItems } from '../wireline/print-project-line.js';
import { printValue } from '../wireline/print-value.js';

/** Why a cell cannot be taken, in words that follow the name of its column. */
export class CellFault extends OquelError {
  override readonly name = 'CellFault';
  readonly code = 'broken-cell';
}
/** A value as the text of a cell, and back. An empty cell is no value, and is not given to `read`. */
export interface CellOf<V> {
  print: (value: V) => string;
  /** @throws CellFault */
  read: (cell: string) => V;
}

/** A text; in quotes where it would not come back as it is. */
export const textCell: CellOf<string> = {
  print: (text) => (text === '' || /^\s|\s$|^"/.test(text) ? JSON.stringify(text) : text),
  read: (cell) => quoted(cell) ?? cell,
};
export const yesNoCell: CellOf<boolean> = {
  print: (is) => (is ? 'yes' : 'no'),
  read: (cell) => {
    const word = cell.toLowerCase();
    if (YES.includes(word)) return true;
    return NO.includes(word) ? false : fail(`"${cell}" is not yes or no`);
  },
};
const YES = ['yes', 'true', 'on', '1', 'x'];
const NO = ['no', 'false', 'off', '0'];

export const numberCell: CellOf<number> = {
  print: String,
  read: (cell) => {
    // A comma before decimals, as spreadsheets in many languages write it.
    const n = Number(cell.replace(/^(-?\d+),(\d+)$/, '$1.$2'));
    return Number.isFinite(n) ? n : fail(`"${cell}" is not a number`);
  },
};
export function wholeCell(least: number): CellOf<number> {
  return {
    print: String,
    read: (cell) => {
      const n = Number(cell);
      return Number.isInteger(n) && n >= least ? n : fail(`"${cell}" is not a whole number from ${least}`);
    },
  };
}
/** One of some words. */
export function wordCell<W extends string>(...words: readonly W[]): CellOf<W> {
  return {
    print: (word) => word,
    read: (cell) =>
      words.find((w) => w === cell.toLowerCase()) ??
      fail(`"${cell}" is not ${words.slice(0, -1).join(', ')} or ${words.at(-1)!}`),
  };
}
/** Texts with commas between them; `()` for none. */
export function listCell(what: string): CellOf<string[]> {
  return { print: printItems, read: (cell) => parsed(parseItems(cell, what)) };
}
/** `speed: float, line: enum:Line`; `()` for none. */
export const fieldsCell: CellOf<Field[]> = {
  print: (fields) => printFields(fields) || '()',
  read: (cell) => (cell === '()' ? [] : parsed(parseFields(cell.replace(/^\((.*)\)$/s, '$1')))),
};
/** What a notation prints and parses. */
export function notationCell<V>(
  print: (value: V) => string,
  parse: (text: string) => ParsedText<V>,
): CellOf<V> {
  return { print, read: (cell) => parsed(parse(cell)) };
}

/** A value of a property of that type; of any type where it is not known. */
export function valueCell(type: Type | undefined): CellOf<Value> {
  return { print: (value) => printOfType(value, type), read: (cell) => readOfType(cell, type) };
}
function printOfType(value: Value, type: Type | undefined): string {
  if (typeof value !== 'string')
    return type === 'bool' && typeof value === 'boolean' ? yesNoCell.print(value) : printValue(value);
  const isText = type === undefined ? typeof guessed(value) === 'string' : isTextType(type);
  return isText ? textCell.print(value) : JSON.stringify(value);
}
function readOfType(cell: string, type: Type | undefined): Value {
  if (type === undefined) return quoted(cell) ?? guessed(cell);
  if (isTextType(type)) return textCell.read(cell);
  // A text where none is wanted is reported by the audit.
  const text = quoted(cell);
  if (text !== null) return text;
  if (type === 'bool') return yesNoCell.read(cell);
  if (type === 'vec2') return pair(cell) ?? fail(`"${cell}" is not two numbers, such as 2, 5`);
  const n = numberCell.read(cell);
  return type === 'int' && !Number.isInteger(n) ? fail(`"${cell}" is not a whole number`) : n;
}
function isTextType(type: Type): boolean {
  return type === 'string' || type === 'instance' || type.includes(':');
}
/** A number, `true`, `false` or two numbers in brackets as what they are, all else as a text. */
function guessed(cell: string): Value {
  if (cell === 'true' || cell === 'false') return cell === 'true';
  if (/^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/.test(cell)) return Number(cell);
  return (cell.startsWith('[') ? pair(cell) : null) ?? cell;
}
function pair(cell: string): Value | null {
  const parts = cell.replace(/^\[(.*)\]$/s, '$1').split(/\s*[,;]\s*/);
  const numbers = parts.map(Number);
  const isPair = parts.length === 2 && parts.every((p) => p !== '') && numbers.every(Number.isFinite);
  return isPair ? [numbers[0], numbers[1]] : null;
}
/** Whether a cell can be a value of a type. */
export function isOfType(index: ProjectIndex, cell: string, type: Type): boolean {
  try {
    return literalFault(index, readOfType(cell, type), type) === null;
  } catch (error) {
    if (error instanceof CellFault) return false;
    throw error;
  }
}
/** The type that holds all of these values; a text where they differ. */
export function typeOfValues(cells: Iterable<string>): Type {
  const types = new Set<Type>();
  for (const cell of cells)
    types.add(/^(?:yes|no)$/i.test(cell) ? 'bool' : literalType(readOfType(cell, undefined)));
  if (types.has('float') && types.size === 2 && types.has('int')) return 'float';
  return types.size === 1 ? [...types][0] : 'string';
}

function quoted(cell: string): string | null {
  if (!/^".*"$/s.test(cell)) return null;
  try {
    const text: unknown = JSON.parse(cell);
    return typeof text === 'string' ? text : null;
  } catch {
    return null;
  }
}
function parsed<V>(read: ParsedText<V>): V {
  if ('value' in read) return read.value;
  const { message, at } = read.fault;
  return fail(`${message.replace('the end of the line', 'its end')} at character ${at + 1}`);
}
function fail(text: string): never {
  throw new CellFault(text);
}
