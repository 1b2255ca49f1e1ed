import { isAssetHead } from '../wireline/asset-line.js';
import { isPlacementLine } from '../wireline/placement.js';
import { isProjectLine } from '../wireline/project-line.js';

/** What lines from outside mean to be. `stage`: things and what is wired between them, as copying makes it. */
export type LineKind = 'table' | 'declared' | 'stage' | 'wired';

/** So many lines say what a text is. */
const MOST = 20_000;

/** The lines that say what a text is, without blank ones and comments. */
export function telling(text: string): string[] {
  return text.split(/\r?\n/, MOST).filter((line) => !/^\s*(\/\/.*)?$/.test(line));
}

/**
 * By its first lines: lines say by their first words what they are; what has tabs is a table. Headings of a table with
 * commas are not known here: such a text counts as wired. Cost: the first lines.
 */
export function lineKind(text: string): LineKind {
  const lines = telling(text);
  const [first = ''] = lines;
  const declares = (line: string): boolean =>
    isAssetHead(line) || isProjectLine(line) || /^\s*(?:event|action|property)\s/.test(line);
  if (first.includes('\t') && !/^\s/.test(first)) return 'table';
  if (lines.some(declares)) return 'declared';
  return lines.some(isPlacementLine) ? 'stage' : 'wired';
}
