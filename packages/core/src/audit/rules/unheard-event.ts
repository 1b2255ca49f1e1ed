import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unheardEvent = defineRule<'nowhere' | 'expected'>({
  meta: {
    name: 'unheard-event',
    severity: 'info',
    group: 'listeners',
    what: 'An event is raised, and nothing listens.',
    why: 'At best nothing happens; where a listener is expected, a binding was forgotten.',
    cure: 'Wire a receiver, or remove the event if it is not needed.',
  },
  messages: {
    nowhere: 'No {asset} has a listener for {event}',
    expected: '{event} of {at} expects a listener, but has none',
  },
  check(ctx, report) {
    const { g, x } = ctx;
    const gaps = new Set(ctx.spawnGaps);
    for (const asset of ctx.index.assets) {
      const instances = ctx.instancesOf(asset.at);
      asset.events.forEach((event, e) => {
        const expected = event.expectsListener === true;
        const isSilent = (i: number): boolean => !ctx.isBoundAnyway(x.nodeBase[i] + e);
        // One that nobody waits for is told only where it is silent everywhere.
        if (instances.length === 0 || (!expected && !instances.every(isSilent))) return;
        const where = expected
          ? instances.filter((i) => isSilent(i) && !gaps.has(x.nodeBase[i] + e))
          : instances;
        if (where.length === 0) return;
        report({
          severity: expected ? 'warning' : 'info',
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: where,
          message: expected ? 'expected' : 'nowhere',
          data: { event: event.name, asset: asset.decl.id, at: x.address(where[0]) },
          evidence: () => ({
            kind: 'nodes',
            nodes: [...where.slice(0, 20)].map((i) => nodeRef(g, x.nodeBase[i] + e)),
            more: Math.max(0, where.length - 20),
          }),
        });
      });
    }
  },
});
