import type { ProofRow, ProofTrack } from '@oquel/core';

/** A row of a drawn proof. Pixels. */
export interface PlacedRow {
  row: ProofRow;
  /** The middle of its mark and of its name. */
  y: number;
  /** What leads here, in lines that fit. */
  via: string[];
}
export interface ProofLayout {
  rows: PlacedRow[];
  width: number;
  height: number;
}
/** Where the way runs, where a cycle runs back, and where the words begin. */
export const LANES = { back: 12, way: 66, words: 90 };
/** Pixels of a letter of the small lines, and of a name. */
const LETTER = { small: 6.65, name: 7.85 };
export const LINE = 15;
const ROW = 23;
const TOP = 18;

/**
 * A proof as rows from top to bottom, each with its whole name and all that leads to it: nothing is cut, nothing lies over
 * another, and a cycle runs back in a lane of its own. Linear in the words.
 */
export function layProof({ rows, closed }: ProofTrack, width: number): ProofLayout {
  const room = Math.max(24, Math.floor((width - LANES.words - 12) / LETTER.small));
  const placed: PlacedRow[] = [];
  let y = TOP;
  let widest = 0;
  rows.forEach((row, i) => {
    const via = row.via === '' ? [] : wrapped(row.via, room);
    if (i > 0) y += via.length * LINE;
    placed.push({ row, y, via });
    widest = Math.max(widest, (row.name.length + (row.returns ? 10 : 0)) * LETTER.name);
    for (const line of via) widest = Math.max(widest, line.length * LETTER.small);
    y += ROW;
  });
  return { rows: placed, width: Math.ceil(LANES.words + widest + 14), height: y + (closed ? 6 : 0) };
}

/** Lines of so many letters at the most, broken at blanks; a longer word by itself is broken within. */
export function wrapped(text: string, room: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    let rest = word;
    if (line !== '' && line.length + 1 + rest.length > room) {
      lines.push(line);
      line = '';
    }
    while (rest.length > room) {
      lines.push(rest.slice(0, room));
      rest = rest.slice(room);
    }
    line = line === '' ? rest : `${line} ${rest}`;
  }
  return line === '' ? lines : [...lines, line];
}
