import { ASLEEP_AT_START } from '../../expand/expansion.js';
import { positionOf } from '../../expand/position.js';
import { areaContains, boundsOf } from '../../geometry/area.js';
import type { Area } from '../../project/types.js';
import type { AnalysisInputs } from '../inputs.js';
import { placementRef } from '../names.js';
import { defineRule } from '../rule.js';
import { firstNotBefore } from '../../util/lower-bound.js';

export const coversEntry = defineRule<'covers'>({
  meta: {
    name: 'covers-entry',
    severity: 'info',
    group: 'correctness',
    what: 'An area covers an entry, where players start.',
    why: 'Its event is raised at once, before anyone has moved.',
    fix: 'Move or shrink the area, unless this is intended.',
  },
  messages: { covers: 'The area of {at} covers the entry {entry}, so {event} is raised at once' },
  parts: [
    {
      unit: 'event',
      after: ['area'],
      concerns: ({ cause }) => cause.type === 'area-enter',
      check(inputs, { instance, event }, report) {
        const { x } = inputs;
        const entry = coveredBy(inputs, instance);
        if (!entry) return;
        const places = (): [string, string] => [x.address(instance), x.address(entry.instance)];
        report({
          subject: placementRef(x, instance),
          occurrences: [instance],
          message: 'covers',
          data: () => ({ at: places()[0], entry: places()[1], event: event.name }),
          evidence: () => ({
            kind: 'places',
            places: [
              { at: places()[0], note: 'its area' },
              { at: places()[1], note: 'an entry' },
            ],
          }),
        });
      },
    },
  ],
});

interface Entry {
  instance: number;
  at: [number, number];
}

/** The first entry that the area of an instance covers. */
function coveredBy(inputs: AnalysisInputs, instance: number): Entry | undefined {
  const { x } = inputs;
  const area = x.placementOf(instance)?.area ?? x.assetOf(instance).decl.area;
  if (!area || x.isSpawned(instance) || (x.flags[instance] & ASLEEP_AT_START) !== 0) return undefined;
  return entriesByScene(inputs).get(x.sceneOf(instance))?.first(area, positionOf(x, instance));
}

function entriesByScene(inputs: AnalysisInputs): Map<number, EntryPlaces> {
  return inputs.once('entries', () => {
    const { x } = inputs;
    const entries = new Map<number, Entry[]>();
    for (let i = 0; i < x.count; i++) {
      if (x.isFree(i) || x.isSpawned(i) || x.placementOf(i)?.entry !== true) continue;
      const scene = x.sceneOf(i);
      const own = entries.get(scene);
      const entry = { instance: i, at: positionOf(x, i) };
      if (own) own.push(entry);
      else entries.set(scene, [entry]);
    }
    return new Map([...entries].map(([scene, own]) => [scene, new EntryPlaces(own)]));
  });
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
    return firstNotBefore(this.sorted.length, (place) => this.sorted[place].entry.at[0] < x);
  }
}
