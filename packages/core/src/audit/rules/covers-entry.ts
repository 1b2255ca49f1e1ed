import { ASLEEP_AT_START } from '../../expand/expansion.js';
import { areaContains } from '../../plan/area.js';
import type { AuditContext } from '../context.js';
import { placementRef } from '../names.js';
import { positionOf } from '../places.js';
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
    const entries = entriesByScene(ctx);
    if (entries.size === 0) return;
    ctx.eachBoundEvent((_node, i, e) => {
      const asset = x.assetOf(i);
      const event = asset.events[e];
      if (event.cause.type !== 'area-enter' || x.isSpawned(i) || (x.flags[i] & ASLEEP_AT_START) !== 0) return;
      const area = x.placementOf(i)?.area ?? asset.decl.area;
      const here = entries.get(x.sceneOf(i));
      if (!area || !here) return;
      const at = positionOf(x, i);
      const covered = here.find((entry) => areaContains(area, at, entry.at));
      if (!covered) return;
      const address = x.address(covered.instance);
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

function entriesByScene({ x }: AuditContext): Map<number, { instance: number; at: [number, number] }[]> {
  const entries = new Map<number, { instance: number; at: [number, number] }[]>();
  for (let i = 0; i < x.count; i++) {
    if (x.isSpawned(i) || x.placementOf(i)?.entry !== true) continue;
    const scene = x.sceneOf(i);
    entries.set(scene, [...(entries.get(scene) ?? []), { instance: i, at: positionOf(x, i) }]);
  }
  return entries;
}
