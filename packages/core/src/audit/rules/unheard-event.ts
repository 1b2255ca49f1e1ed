import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unheardEvent = defineRule<'nowhere' | 'expected'>({
  meta: {
    name: 'unheard-event',
    severity: 'info',
    group: 'listeners',
    what: 'An event is raised and nobody hears it.',
    why: 'At best nothing happens; where a listener is expected, something was forgotten.',
    cure: 'Wire a receiver, or take the event away if nobody needs it.',
  },
  messages: {
    nowhere: 'Nobody hears {event} of any {asset}',
    expected: '{at} says {event}, which expects a listener, and nobody hears it',
  },
  check(ctx, report) {
    const { g, x, boundAnyway } = ctx;
    const silent = ctx.index.assets.map((a) => a.events.map(() => [] as number[]));
    const gaps = new Set(ctx.spawnGaps);
    for (let i = 0; i < x.count; i++) {
      const lists = silent[x.asset[i]];
      for (let e = 0; e < lists.length; e++) if (boundAnyway[x.nodeBase[i] + e] === 0) lists[e].push(i);
    }
    for (const asset of ctx.index.assets) {
      asset.events.forEach((event, e) => {
        const unbound = silent[asset.at][e];
        const expected = event.expectsListener === true;
        const where = expected ? unbound.filter((i) => !gaps.has(x.nodeBase[i] + e)) : unbound;
        if (where.length === 0 || (!expected && where.length < ctx.copies[asset.at])) return;
        report({
          severity: expected ? 'warning' : 'info',
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: where,
          message: expected ? 'expected' : 'nowhere',
          data: { event: event.name, asset: asset.decl.id, at: x.address(where[0]) },
          evidence: () => ({
            kind: 'nodes',
            nodes: where.slice(0, 20).map((i) => nodeRef(g, x.nodeBase[i] + e)),
            more: Math.max(0, where.length - 20),
          }),
        });
      });
    }
  },
});
