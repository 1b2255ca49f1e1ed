import { ASLEEP_AT_START } from '../../expand/expansion.js';
import { areaContains, boundsOf } from '../../plan/area.js';
import type { Area } from '../../project/types.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { placementRef } from '../names.js';
import { positionOf } from '../../expand/position.js';
import { defineRule } from '../rule.js';

export const coversEntry = defineRule<'covers'>({
  meta: {
    name: 'covers-entry',
    severity: 'info',
    group: 'correctness',
    what: 'An area covers an entry, where players start.',
    why: 'Its event is raised at once, before anyone has moved.',
    cure: 'Move or shrink the area, unless this is intended.',
  },
  messages: { covers: 'The area of {at} covers the entry {entry}, so {event} is raised at once' },
  check(ctx, report) {
    const { x } = ctx;
    const entries = ctx.oncePlaced('entries', () => entriesByScene(ctx), 'plan');
    if (entries.size === 0) return;
    const coveredBy = (i: number): Entry | undefined => {
      const area = x.placementOf(i)?.area ?? x.assetOf(i).decl.area;
      const here = entries.get(x.sceneOf(i));
      if (!area || !here || x.isSpawned(i) || (x.flags[i] & ASLEEP_AT_START) !== 0) return undefined;
      const at = positionOf(x, i);
      return here.first(area, at);
    };
    const question: EventQuestion = {
      name: 'covers-entry',
      besides: 'plan',
      concerns: ({ cause }) => cause.type === 'area-enter',
      test: (_node, i) => coveredBy(i) !== undefined,
    };
    ctx.eachSuspect(question, (_node, i, e) => {
      const event = x.assetOf(i).events[e];
      const address = x.address(coveredBy(i)!.instance);
      report({
        subject: placementRef(x, i),
        occurrences: [i],
        message: 'covers',
        data: { at: x.address(i), entry: address, event: event.name },
        evidence: () => ({
          kind: 'places',
          places: [
            { at: x.address(i), note: 'its area' },
            { at: address, note: 'an entry' },
          ],
        }),
      });
    });
  },
});

interface Entry {
  instance: number;
  at: [number, number];
}

function entriesByScene({ x }: AuditContext): Map<number, EntryPlaces> {
  const entries = new Map<number, Entry[]>();
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i) || x.placementOf(i)?.entry !== true) continue;
    const scene = x.sceneOf(i);
    const own = entries.get(scene);
    const entry = { instance: i, at: positionOf(x, i) };
    if (own) own.push(entry);
    else entries.set(scene, [entry]);
  }
  return new Map([...entries].map(([scene, own]) => [scene, new EntryPlaces(own)]));
}

/** Entries that are tried one by one before they are looked for by their place. */
const TRIED = 16;

/** The entries of a scene, found by place: an area is compared with those that lie in its bounds. */
class EntryPlaces {
  /** By their x. */
  private readonly sorted: { entry: Entry; order: number }[];
  constructor(private readonly entries: readonly Entry[]) {
    this.sorted = entries
      .map((entry, order) => ({ entry, order }))
      .sort((a, b) => a.entry.at[0] - b.entry.at[0]);
  }
  /** The first entry, in order, that an area at a place contains. */
  first(area: Area, at: [number, number]): Entry | undefined {
    const contains = (entry: Entry): boolean => areaContains(area, at, entry.at);
    for (const entry of this.entries.slice(0, TRIED)) if (contains(entry)) return entry;
    const [low, high] = boundsOf(area);
    let best: { entry: Entry; order: number } | undefined;
    for (let i = this.from(at[0] + low[0]); i < this.sorted.length; i++) {
      const one = this.sorted[i];
      const [x, y] = one.entry.at;
      if (x > at[0] + high[0]) break;
      if (y < at[1] + low[1] || y > at[1] + high[1] || (best && best.order < one.order)) continue;
      if (contains(one.entry)) best = one;
    }
    return best?.entry;
  }
  /** The place of the first that is not left of x. */
  private from(x: number): number {
    let low = 0;
    let high = this.sorted.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.sorted[middle].entry.at[0] < x) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}
