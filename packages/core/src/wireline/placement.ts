import type { Placement, Value } from '../project/types.js';
import { areaAt, pairAt, printArea } from './area.js';
import { literalAt, nameAt, recordAt, type ParsedText } from './declared.js';
import { printName } from './names.js';
import { printValue } from './print.js';
import { Scanner, WireLineFault } from './scanner.js';

/**
 * The line that reads back as the very same placement, spelt-out defaults included:
 * `place lamp-1 of Lamp at 34, 20 area circle 3 asleep with (line = "east") inside bulb with (glow = 2)`.
 */
export function printPlacement(p: Placement): string {
  const words = [`place ${printName(p.id)} of ${printName(p.asset)}`];
  if (p.at) words.push(`at ${p.at.join(', ')}`);
  if (p.area) words.push(`area ${printArea(p.area)}`);
  if (p.asleep !== undefined) words.push(p.asleep ? 'asleep' : 'awake');
  if (p.entry !== undefined) words.push(p.entry ? 'entry' : 'no entry');
  if (p.authority !== undefined) words.push(`authority ${printName(p.authority)}`);
  if (p.operator !== undefined) words.push(`operator ${printName(p.operator)}`);
  if (p.muted) words.push(`muted (${p.muted.map(printName).join(', ')})`);
  if (p.properties) words.push(`with ${printRecord(p.properties)}`);
  if (p.inside && Object.keys(p.inside).length === 0) words.push('inside ()');
  for (const [path, values] of Object.entries(p.inside ?? {})) {
    words.push(`inside ${PATH.test(path) ? path : JSON.stringify(path)} with ${printRecord(values)}`);
  }
  if (p.note !== undefined) words.push(`note ${JSON.stringify(p.note)}`);
  return words.join(' ');
}
/** A path that stands without quotes. */
const PATH = /^[A-Za-z0-9_~][A-Za-z0-9_~/-]*$/;

export function printRecord(values: Record<string, Value>): string {
  return `(${Object.entries(values)
    .map(([name, value]) => `${printName(name)} = ${printValue(value)}`)
    .join(', ')})`;
}

/** Whether a line means to be one that places something. */
export function isPlacementLine(text: string): boolean {
  return /^\s*place\s/.test(text);
}

/** Reads such a line; what follows the name and the asset may stand in any order. */
export function parsePlacement(text: string): ParsedText<Placement> {
  const s = new Scanner(text);
  try {
    return { value: placementAt(s) };
  } catch (error) {
    if (error instanceof WireLineFault) return { fault: error };
    throw error;
  }
}

function placementAt(s: Scanner): Placement {
  if (!s.takeWord('place')) s.fail('"place"');
  const id = nameAt(s, 'a name for what is placed');
  if (!s.takeWord('of')) s.fail('"of" and a prefab or widget');
  const placement: Placement = { id, asset: nameAt(s, 'a prefab or widget') };
  const inside: [string, Record<string, Value>][] = [];
  while (!s.ended) {
    if (s.takeWord('at')) placement.at = pairAt(s);
    else if (s.takeWord('area')) placement.area = areaAt(s);
    else if (s.takeWord('asleep')) placement.asleep = true;
    else if (s.takeWord('awake')) placement.asleep = false;
    else if (s.takeWord('entry')) placement.entry = true;
    else if (s.take(/^no\s+entry(?![\w-])/) !== null) placement.entry = false;
    else if (s.takeWord('authority')) placement.authority = nameAt(s, 'a peer');
    else if (s.takeWord('operator')) placement.operator = nameAt(s, 'a peer');
    else if (s.takeWord('muted')) placement.muted = mutedAt(s);
    else if (s.takeWord('with')) placement.properties = recordAt(s, literalAt);
    else if (s.take(/^inside\s*\(\s*\)/) !== null) placement.inside ??= {};
    else if (s.takeWord('inside')) inside.push(insideAt(s));
    else if (s.takeWord('note')) {
      s.skipBlanks();
      placement.note = s.takeQuoted() ?? s.fail('text in quotes');
    } else s.fail('at, area, asleep, entry, authority, operator, muted, with, inside, note, or the end');
  }
  return inside.length > 0 ? { ...placement, inside: Object.fromEntries(inside) } : placement;
}
function insideAt(s: Scanner): [string, Record<string, Value>] {
  s.skipBlanks();
  const path = s.takeQuoted() ?? s.takeHere(/^[A-Za-z0-9_~][A-Za-z0-9_~/-]*/) ?? s.fail('a path');
  if (!s.takeWord('with')) s.fail('"with" and values');
  return [path, recordAt(s, literalAt)];
}
function mutedAt(s: Scanner): string[] {
  const ids: string[] = [];
  if (s.take(/^\(/) === null) s.fail('"("');
  if (s.take(/^\)/) !== null) return ids;
  do ids.push(nameAt(s, 'the id of a binding'));
  while (s.take(/^,/) !== null);
  if (s.take(/^\)/) === null) s.fail('")"');
  return ids;
}
