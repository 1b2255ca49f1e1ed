import { actionNode } from '../../graph/graph.js';
import { nodeRef, placementRef } from '../names.js';
import { defineRule } from '../rule.js';
import { sleeperAround } from '../sleepers.js';

export const asleepReceiver = defineRule<'asleep'>({
  meta: {
    name: 'asleep-receiver',
    severity: 'warning',
    group: 'targets',
    what: 'Something that begins asleep is told to act, and nothing ever wakes it.',
    why: 'What it is told is lost.',
    cure: 'Wake it first, let the action be performed while asleep, or do not begin asleep.',
  },
  messages: { asleep: '{sleeper} begins asleep and nothing wakes it, so {at} never does {action}' },
  check(ctx, report) {
    const { x, bound } = ctx;
    const { blocked } = ctx.awake;
    const told = new Set<number>();
    for (let i = 0; i < x.count; i++) {
      if (blocked[i] === 0) continue;
      x.assetOf(i).actions.forEach((action, a) => {
        const node = actionNode(x, i, a);
        if (bound[node] === 0 || action.whileAsleep) return;
        const sleeper = sleeperAround(ctx, i);
        if (told.has(sleeper)) return;
        told.add(sleeper);
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
