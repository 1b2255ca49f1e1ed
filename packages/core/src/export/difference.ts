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
      return `${head}\n${lines.map((line) => `  ${lineText(line)}\n`).join('')}`;
    })
    .join('\n');
}
function lineText({ how, text, was, place, carried }: DifferenceLine): string {
  const parts = [`${WORDS[how].padEnd(8)}${text}`];
  if (place) parts.push(` (from place ${place[0]} to ${place[1]})`);
  if (carried !== undefined && carried > 0) {
    parts.push(` (${carried} binding${carried === 1 ? '' : 's'} carried along)`);
  }
  if (was !== undefined) parts.push(`\n          was: ${was}`);
  return parts.join('');
}
