import { endOfString } from './json-text.js';

/** A stretch of a text: lines and columns from 1, columns in UTF-16 code units; the end is behind the last character. */
export interface Region {
  line: number;
  column: number;
  endLine: number;
  endColumn: number;
}

/** Pointers that are looked for, as a tree of their segments. */
interface Wanted {
  pointer: string | null;
  below: Map<string, Wanted>;
}
interface Frame {
  isList: boolean;
  /** Of the value that is read next. */
  key: string;
  index: number;
  wanted: Wanted | null;
  start: number;
}

const BLANKS = /[ \t\r\n]*/y;
const PLAIN = /[^\s,\]}]+/y;

/**
 * Where the values of JSON pointers stand in a text that is JSON; those that name nothing are left out. Of a property that stands
 * twice it is the last one. Cost: one pass over the text, whatever is looked for.
 */
export function placesIn(text: string, pointers: Iterable<string>): Map<string, Region> {
  const offsets = new Map<string, [number, number]>();
  const root = treeOf(pointers);
  const open: Frame[] = [];
  let at = text.startsWith('\uFEFF') ? 1 : 0;
  const skip = (pattern: RegExp): string => {
    pattern.lastIndex = at;
    const [found] = pattern.exec(text) ?? [''];
    at += found.length;
    return found;
  };
  /** Goes past a text, a number or a word; returns it. */
  const scalar = (): string => {
    const start = at;
    if (text[at] === '"') at = Math.min(text.length, endOfString(text, at) + 1);
    else skip(PLAIN);
    return text.slice(start, at);
  };
  const ended = (wanted: Wanted | null, start: number): void => {
    if (wanted !== null && wanted.pointer !== null) offsets.set(wanted.pointer, [start, at]);
  };
  for (;;) {
    skip(BLANKS);
    const frame = open.at(-1);
    const wanted = frame
      ? (frame.wanted?.below.get(frame.isList ? String(frame.index) : frame.key) ?? null)
      : root;
    const opener = text[at];
    if (opener === '{' || opener === '[') {
      open.push({ isList: opener === '[', key: '', index: 0, wanted, start: at++ });
      skip(BLANKS);
      if (text[at] !== '}' && text[at] !== ']') {
        if (opener === '{') keyOf(open.at(-1)!);
        continue;
      }
    } else {
      const start = at;
      if (scalar() === '') break;
      ended(wanted, start);
      skip(BLANKS);
    }
    // After a value: what it ends, and the next one.
    while (open.length > 0 && (text[at] === '}' || text[at] === ']')) {
      const { wanted: closed, start } = open.pop()!;
      at++;
      ended(closed, start);
      skip(BLANKS);
    }
    const around = open.at(-1);
    if (!around || text[at] !== ',') break;
    at++;
    around.index++;
    if (!around.isList) keyOf(around);
  }
  return regionsOf(text, offsets);

  function keyOf(frame: Frame): void {
    skip(BLANKS);
    const key = scalar();
    frame.key = frame.wanted === null ? '' : (JSON.parse(key) as string);
    skip(BLANKS);
    at++;
  }
}

function treeOf(pointers: Iterable<string>): Wanted {
  const root: Wanted = { pointer: null, below: new Map() };
  for (const pointer of pointers) {
    let node = root;
    for (const segment of pointer.split('/').slice(1)) {
      const name = segment.replaceAll('~1', '/').replaceAll('~0', '~');
      let next = node.below.get(name);
      if (!next) node.below.set(name, (next = { pointer: null, below: new Map() }));
      node = next;
    }
    node.pointer = pointer;
  }
  return root;
}

/** Offsets as lines and columns. One pass over the line ends. */
function regionsOf(text: string, offsets: ReadonlyMap<string, [number, number]>): Map<string, Region> {
  const sorted = [...new Set([...offsets.values()].flat())].sort((a, b) => a - b);
  const placeOf = new Map<number, [line: number, column: number]>();
  let [line, begin] = [1, 0];
  for (const offset of sorted) {
    for (let end = text.indexOf('\n', begin); end >= 0 && end < offset; end = text.indexOf('\n', begin)) {
      line++;
      begin = end + 1;
    }
    placeOf.set(offset, [line, offset - begin + 1]);
  }
  return new Map(
    [...offsets].map(([pointer, [start, end]]) => {
      const [from, to] = [placeOf.get(start)!, placeOf.get(end)!];
      return [pointer, { line: from[0], column: from[1], endLine: to[0], endColumn: to[1] }];
    }),
  );
}
