import { actionNode } from '../../graph/graph.js';
import { nodeRef, placementRef } from '../names.js';
import { defineRule } from '../rule.js';
import { sleeperAround } from '../sleepers.js';

export const asleepReceiver = defineRule<'asleep'>({
  meta: {
    name: 'asleep-receiver',
    severity: 'warning',
    group: 'targets',
    what: 'A receiver starts asleep, and nothing ever wakes it.',
    why: 'Its actions are never performed.',
    cure: 'Wake it first, let the action run while it is asleep, or do not start it asleep.',
  },
  messages: { asleep: '{sleeper} starts asleep and nothing wakes it, so {at} never performs {action}' },
  check(ctx, report) {
    const { x, bound } = ctx;
    const { blocked } = ctx.awake;
    const reported = new Set<number>();
    for (let i = 0; i < x.count; i++) {
      if (blocked[i] === 0) continue;
      x.assetOf(i).actions.forEach((action, a) => {
        const node = actionNode(x, i, a);
        if (bound[node] === 0 || action.whileAsleep) return;
        const sleeper = sleeperAround(ctx, i);
        if (reported.has(sleeper)) return;
        reported.add(sleeper);
        report({
          subject: placementRef(x, sleeper),
          occurrences: [sleeper],
          message: 'asleep',
          data: { sleeper: x.address(sleeper), at: x.address(i), action: action.name },
          evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, node)], more: 0 }),
        });
      });
    }
  },
});
