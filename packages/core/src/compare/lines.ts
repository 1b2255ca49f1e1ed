import { canonicalJson } from '../project/canonical.js';
import { causeText } from '../project/cause-text.js';
import type { Action, Asset, Binding, EventDecl, Placement, Property } from '../project/types.js';
import { printEffect, printFields } from '../wireline/declared.js';
import { printBinding, printValue, printWireLine } from '../wireline/print.js';
import { own } from '../util/own.js';

/** Things of a project as lines that can be read and compared. Two that differ have different lines. */

export function eventLine(e: EventDecl): string {
  const { name, cause, payload, limit, note, ...rest } = e;
  return words(
    `event ${name}`,
    cause.type === 'raised' ? 'raised by its own actions' : `when ${causeText(cause)}`,
    payload ? `carries ${printFields(payload) || 'nothing'}` : '',
    limit === undefined ? '' : `at most ${limit}`,
    others(rest),
    noteText(note),
  );
}
export function actionLine(a: Action): string {
  const { name, params, effects, note, ...rest } = a;
  return words(
    `action ${name}${params ? `(${printFields(params)})` : ''}`,
    effects ? effects.map(printEffect).join(', then ') || 'does nothing' : '',
    others(rest),
    noteText(note),
  );
}
export function propertyLine(p: Property): string {
  const { name, type, default: value, isKey, unique, ...rest } = p;
  return words(
    `property ${name}: ${type} = ${printValue(value)}`,
    isKey === undefined ? '' : isKey ? 'a key' : 'no key',
    unique === undefined ? '' : unique ? 'unique' : 'not unique',
    others(rest),
  );
}
export function placementLine(p: Placement): string {
  const { id, asset, at, asleep, properties, inside, note, muted, ...rest } = p;
  return words(
    `${id}: ${asset}${at ? ` at ${at.join(', ')}` : ''}`,
    asleep === true ? 'asleep' : '',
    properties
      ? Object.entries(properties)
          .map(([k, v]) => `${k} = ${printValue(v)}`)
          .join(', ')
      : '',
    ...Object.entries(inside ?? {}).flatMap(([path, values]) =>
      Object.entries(values).map(([k, v]) => `${path}.${k} = ${printValue(v)}`),
    ),
    muted && muted.length > 0 ? `without ${muted.join(', ')}` : '',
    others(rest),
    noteText(note),
  );
}

/** Two states of a binding as sentences; with everything spelt out where the sentences alone would be the same. */
export function bindingLines(before: Binding, after: Binding): [string, string] {
  const short: [string, string] = [printBinding(before), printBinding(after)];
  return short[0] === short[1]
    ? distinct([printWireLine(before), printWireLine(after)], before, after)
    : short;
}
/** Two states of anything as lines, or as they stand in the document where the lines would be the same. */
export function twoLines<T>(line: (item: T) => string, before: T, after: T): [string, string] {
  return distinct([line(before), line(after)], before, after);
}
function distinct<T>(lines: [string, string], before: T, after: T): [string, string] {
  return lines[0] === lines[1] ? [canonicalJson(before), canonicalJson(after)] : lines;
}

/** What an asset says of itself besides its lists. */
export function assetPartLine(part: string, value: unknown): string {
  return `${own(PART_WORDS, part) ?? part}: ${plain(value)}`;
}
const PART_WORDS: Readonly<Record<string, string>> = {
  runsInPause: 'runs in pause',
  existsOn: 'exists on',
  loadSets: 'load set',
};
export function assetLine({ id, kind, placements, bindings }: Asset): string {
  const [p, b] = [placements?.length ?? 0, bindings?.length ?? 0];
  return `${kind} ${id} with ${p} placement${p === 1 ? '' : 's'} and ${b} binding${b === 1 ? '' : 's'}`;
}
export function plain(value: unknown): string {
  return typeof value === 'string' ? value : canonicalJson(value);
}

function words(...parts: string[]): string {
  return parts.filter((p) => p !== '').join(', ');
}
function noteText(note: string | undefined): string {
  return note === undefined ? '' : `note "${note}"`;
}
/** What has no words of its own, as it stands in the document. */
function others(rest: object): string {
  return Object.entries(rest)
    .filter(([, v]) => v !== undefined)
    .map(([k, v]) => `${k} ${plain(v)}`)
    .join(', ');
}
