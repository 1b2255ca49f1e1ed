import { ASLEEP_AT_START } from '../../expand/expansion.js';
import { areaContains } from '../../plan/area.js';
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
    what: 'An area covers a place where players start.',
    why: 'It is entered at once, before anybody has walked anywhere.',
    cure: 'Move or shrink the area, unless this is meant.',
  },
  messages: { covers: 'The area of {at} covers the entry {entry}, so {event} is raised at once' },
  check(ctx, report) {
    const { x } = ctx;
    const entries = ctx.oncePlaced('entries', () => entriesByScene(ctx));
    if (entries.size === 0) return;
    const coveredBy = (i: number): Entry | undefined => {
      const area = x.placementOf(i)?.area ?? x.assetOf(i).decl.area;
      const here = entries.get(x.sceneOf(i));
      if (!area || !here || x.isSpawned(i) || (x.flags[i] & ASLEEP_AT_START) !== 0) return undefined;
      const at = positionOf(x, i);
      return here.find((entry) => areaContains(area, at, entry.at));
    };
    const question: EventQuestion = {
      name: 'covers-entry',
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

function entriesByScene({ x }: AuditContext): Map<number, Entry[]> {
  const entries = new Map<number, Entry[]>();
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i) || x.placementOf(i)?.entry !== true) continue;
    const scene = x.sceneOf(i);
    entries.set(scene, [...(entries.get(scene) ?? []), { instance: i, at: positionOf(x, i) }]);
  }
  return entries;
}
