import type { EdgeClass } from '../graph/graph.js';
import { entryWords } from './lines.js';
import type { Ripple, RippleEntry, RippleLink } from './model.js';

/** What stands at an entry of the picture besides its name. */
export interface EntryNotes {
  /** The events that lead to it from the column before, and their delays; empty for a start. */
  by: string;
  /** What must hold for it to be reached; empty if something leads here without asking. */
  asks: string;
  /** Where it leads back, or to what is reached sooner by another way. */
  returns: ReturnNote[];
  /** How many of these are not listed. */
  moreReturns: number;
}
export interface ReturnNote {
  /** Key of the entry that it leads to. */
  key: string;
  /** `mast-1.turn` */
  text: string;
  /** On a cycle; otherwise a longer way to what stands at an earlier hop. */
  cycle: boolean;
  class: EdgeClass;
}
/** Returns that are listed at an entry. */
const MOST_RETURNS = 2;

/** The notes of each entry, in their order. Linear in entries and links. */
export function entryNotes({ entries, links }: Ripple): EntryNotes[] {
  const at = new Map(entries.map((e, i) => [e.key, i]));
  const into: RippleLink[][] = entries.map(() => []);
  const back: RippleLink[][] = entries.map(() => []);
  for (const l of links) {
    if (l.returns) back[at.get(l.from)!].push(l);
    else into[at.get(l.to)!].push(l);
  }
  return entries.map((_, i) => ({
    by: byText(into[i]),
    asks: into[i].some((l) => l.asks.length === 0) ? '' : distinct(into[i].map((l) => l.asks.join('; or '))),
    returns: back[i].slice(0, MOST_RETURNS).map((l) => returnNote(entries[at.get(l.to)!], l)),
    moreReturns: Math.max(0, back[i].length - MOST_RETURNS),
  }));
}
function returnNote(e: RippleEntry, { cycle, class: how }: RippleLink): ReturnNote {
  const text = entryWords(e)
    .filter((w) => w !== '')
    .join('.');
  return { key: e.key, text: e.count > 1 ? `${text} × ${e.count}` : text, cycle, class: how };
}

/** `onTurned after 0.25 s`; of several ways each; empty if all come at once from the event that stands at the start. */
function byText(links: readonly RippleLink[]): string {
  const texts = links.map(({ via, delay, delayMost }) =>
    [via.join(' or '), delayText(delay, delayMost)].filter((t) => t !== '').join(' '),
  );
  if (texts.every((t) => t === '')) return '';
  return distinct(texts.map((t) => (t === '' ? 'at once' : t)));
}
/** `after 0.5 s`, `after 0.5 to 2 s`; empty for none. */
export function delayText(least: number, most: number): string {
  if (most === 0) return '';
  return least === most ? `after ${least} s` : `after ${least} to ${most} s`;
}
function distinct(texts: readonly string[]): string {
  return [...new Set(texts)].join('; or ');
}
