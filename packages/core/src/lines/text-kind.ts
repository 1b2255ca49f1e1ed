import { isAssetHead } from '../wireline/asset-line.js';
import { isPlacementLine } from '../wireline/placement.js';
import { isProjectLine } from '../wireline/project-line.js';
import { guessTableKind } from '../tables/tables.js';

/** What a text from outside means to be. `stage`: things and what is wired between them, as copying makes it. */
export type TextKind = 'table' | 'declared' | 'stage' | 'wired';

/** By its first lines: a table has tabs, or headings that are known; lines say by their first words what they are. */
export function textKind(text: string): TextKind {
  const lines = text.split(/\r?\n/, MOST).filter((line) => !/^\s*(\/\/.*)?$/.test(line));
  const [first = ''] = lines;
  const declares = (line: string): boolean =>
    isAssetHead(line) || isProjectLine(line) || /^\s*(?:event|action|property)\s/.test(line);
  if (first.includes('\t') && !/^\s/.test(first)) return 'table';
  if (lines.some(declares)) return 'declared';
  if (lines.some(isPlacementLine)) return 'stage';
  const isWired = /^\s*when\s/.test(first);
  return !isWired && /[,;]/.test(first) && guessTableKind(first.split(/[,;]/)) !== null ? 'table' : 'wired';
}
/** So many lines say what a text is. */
const MOST = 20_000;
