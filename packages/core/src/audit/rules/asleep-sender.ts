import { eventNode } from '../../graph/graph.js';
import { nodeRef, placementRef } from '../names.js';
import { defineRule } from '../rule.js';
import { sleeperAround } from '../sleepers.js';

export const asleepSender = defineRule<'asleep'>({
  meta: {
    name: 'asleep-sender',
    severity: 'warning',
    group: 'targets',
    what: 'A sender starts asleep, and nothing ever wakes it.',
    why: 'While asleep it raises nothing, so its listeners are never triggered.',
    cure: 'Wake it, or do not start it asleep.',
  },
  messages: { asleep: '{sleeper} starts asleep and nothing wakes it, so {at} never raises {event}' },
  check(ctx, report) {
    const { x } = ctx;
    const { blocked } = ctx.awake;
    const reported = new Set<number>();
    for (let i = 0; i < x.count; i++) {
      if (blocked[i] === 0) continue;
      x.assetOf(i).events.forEach((event, e) => {
        const node = eventNode(x, i, e);
        if (event.cause.type === 'raised' || ctx.bound[node] === 0) return;
        const sleeper = sleeperAround(ctx, i);
        if (reported.has(sleeper)) return;
        reported.add(sleeper);
        report({
          subject: placementRef(x, sleeper),
          occurrences: [sleeper],
          message: 'asleep',
          data: { sleeper: x.address(sleeper), at: x.address(i), event: event.name },
          evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, node)], more: 0 }),
        });
      });
    }
  },
});
