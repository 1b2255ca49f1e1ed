import { guessTableKind } from '../tables/tables.js';
import { lineKind, telling, type LineKind } from './line-kind.js';

/** What a text from outside means to be: by its lines, or a table whose headings are known. Cost: its first lines. */
export function textKind(text: string): LineKind {
  const kind = lineKind(text);
  const [first = ''] = telling(text);
  const isTable =
    kind === 'wired' &&
    !/^\s*when\s/.test(first) &&
    /[,;]/.test(first) &&
    guessTableKind(first.split(/[,;]/)) !== null;
  return isTable ? 'table' : kind;
}
