import type { ProjectIndex } from '../project/index-project.js';
import { defaultOfType } from '../project/type-values.js';
import { isAssetHead, parseAssetHead } from '../wireline/asset-line.js';
import { parseDeclaration } from '../wireline/declaration.js';
import { isPlacementLine, parsePlacement } from '../wireline/placement.js';
import { isProjectLine, parseProjectLine } from '../wireline/project-line.js';
import { WireLineFault } from '../wireline/scanner.js';
import type { TableKind } from '../tables/kind.js';

/** A line that declares or places something. */
export interface DeclaredLine {
  number: number;
  text: string;
  /** What it is one of; a tag is put on assets that are there. */
  kind: TableKind | 'tag' | null;
  /** The asset under whose head it stands; empty for what is the project's. */
  of: string;
  /** Null if the line cannot be read. */
  item: object | null;
  fault: WireLineFault | null;
}
export interface WiredLines {
  lines: string[];
  numbers: number[];
}
/** A text taken apart. */
export interface Sections {
  declared: DeclaredLine[];
  /** For each asset its wire lines, and their numbers in the whole. */
  wired: Map<string, WiredLines>;
}

/**
 * Takes a text of lines apart: `scene yard`, `prefab Lamp` and `widget Board` are heads of what follows them; what stands
 * before the first head belongs to `owner` (empty: to none). All that is none of the other kinds of line is a wire line.
 * Linear in the text.
 */
export function sectionsOf(index: ProjectIndex, owner: string, text: string): Sections {
  const declared: DeclaredLine[] = [];
  const wired = new Map<string, WiredLines>();
  let of = owner;
  const lines = text.split(/\r?\n/);
  lines.forEach((line, i) => {
    if (/^\s*(\/\/.*)?$/.test(line)) return;
    const put = (
      kind: DeclaredLine['kind'],
      read: { value: object } | { fault: WireLineFault },
      at = of,
    ): void => {
      const item = 'value' in read ? read.value : null;
      declared.push({
        number: i + 1,
        text: line,
        kind,
        of: at,
        item,
        fault: 'fault' in read ? read.fault : null,
      });
    };
    if (isAssetHead(line)) {
      const read = parseAssetHead(line);
      if ('value' in read) of = read.value.id;
      return put('assets', read, '');
    }
    if (isProjectLine(line)) {
      const read = parseProjectLine(line);
      if ('fault' in read) return put(null, read, '');
      return put(KIND[read.value.kind], { value: read.value.value }, '');
    }
    if (of === '') return put(null, { fault: headless(line) }, '');
    if (isPlacementLine(line)) return put('placements', parsePlacement(line));
    if (/^\s*(?:event|action|property)\s/.test(line)) {
      const read = parseDeclaration(line, (type) => defaultOfType(index, type));
      if ('fault' in read) return put(null, read);
      return put(PART[read.value.kind], { value: read.value.value });
    }
    const own = wired.get(of) ?? { lines: [], numbers: [] };
    own.lines.push(line);
    own.numbers.push(i + 1);
    wired.set(of, own);
  });
  return { declared, wired };
}
const PART = { event: 'events', action: 'actions', property: 'properties' } as const;
const KIND = {
  channel: 'channels',
  enum: 'enums',
  table: 'tables',
  loadSet: 'loadSets',
  peer: 'peers',
  tag: 'tag',
} as const;
function headless(line: string): WireLineFault {
  const word = /^\s*(\S*)/.exec(line)![1];
  return new WireLineFault(
    line.search(/\S/),
    'a line above it that names the scene or prefab, such as "scene yard"',
    word,
    {
      kind: 'word',
      words: ['scene '],
    },
  );
}
