import { oneLine } from './one-line.js';
import type { Difference, DifferenceLine } from '../compare/compare.js';

const WORDS = {
  added: 'new',
  removed: 'gone',
  changed: 'changed',
  moved: 'moved',
  renamed: 'renamed',
} as const;

/** Two states compared, for people at a terminal: scene by scene, a line for each thing. */
export function differenceText({ groups }: Difference): string {
  return groups
    .map(({ asset, kind, lines }) => {
      const head = kind === 'project' ? 'the project' : `${kind} ${asset}`;
      return [head, ...lines.flatMap(linesOf)].map((line) => `${oneLine(line)}\n`).join('');
    })
    .join('\n');
}
function linesOf({ how, text, was, place, carried }: DifferenceLine): string[] {
  const parts = [`  ${WORDS[how].padEnd(8)}${text}`];
  if (place) parts.push(` (from place ${place[0]} to ${place[1]})`);
  if (carried !== undefined && carried > 0) {
    parts.push(` (${carried} binding${carried === 1 ? '' : 's'} carried along)`);
  }
  return [parts.join(''), ...(was === undefined ? [] : [`          was: ${was}`])];
}
