import { byCodeUnits } from '../project/canonical.js';
import { lowerBound } from '../util/lower-bound.js';

/** An instance, or the address of one that is not there. */
export type Place = number | string;

/**
 * Where a finding occurs, as sorted addresses. Several units may report the same place. Cost of a look: the places that came or
 * went since the last one, and a copy of the list; sorting where many did.
 */
export class Occurrences {
  private readonly counts = new Map<Place, number>();
  /** Places that were reported or taken back since the last look: another thing may stand there now. */
  private readonly changed = new Set<Place>();
  private readonly shown = new Map<Place, string>();
  private texts: string[] = [];

  add(place: Place): void {
    const count = this.counts.get(place) ?? 0;
    this.counts.set(place, count + 1);
    this.changed.add(place);
  }
  remove(place: Place): void {
    const count = this.counts.get(place)!;
    this.changed.add(place);
    if (count > 1) this.counts.set(place, count - 1);
    else this.counts.delete(place);
  }

  /** The addresses, each once, sorted by code units; not the same list again if they changed. */
  sorted(addressOf: (instance: number) => string): string[] {
    const [came, went]: [string[], string[]] = [[], []];
    for (const place of this.changed) {
      const before = this.shown.get(place);
      // Something else may stand there under the same number.
      const text = !this.counts.has(place) ? undefined : typeof place === 'string' ? place : addressOf(place);
      if (text === before) continue;
      if (before !== undefined) {
        went.push(before);
        this.shown.delete(place);
      }
      if (text !== undefined) {
        came.push(text);
        this.shown.set(place, text);
      }
    }
    this.changed.clear();
    if (came.length + went.length === 0) return this.texts;
    if (came.length + went.length > 16)
      return (this.texts = [...new Set(this.shown.values())].sort(byCodeUnits));
    const texts = this.texts.slice();
    // An address may also be the text of a place that stays.
    const still = went.length > 0 ? new Set(this.shown.values()) : null;
    for (const text of went) if (!still!.has(text)) texts.splice(lowerBound(texts, text), 1);
    for (const text of came) {
      const at = lowerBound(texts, text);
      if (texts[at] !== text) texts.splice(at, 0, text);
    }
    return (this.texts = texts);
  }
}
