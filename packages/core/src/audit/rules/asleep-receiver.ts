import { actionNode } from '../../graph/graph.js';
import { nodesEvidence } from '../evidence.js';
import { placementRef } from '../names.js';
import { defineRule } from '../rule.js';
import { sleeperAround } from '../sleepers.js';

export const asleepReceiver = defineRule<'asleep'>({
  meta: {
    name: 'asleep-receiver',
    severity: 'warning',
    group: 'targets',
    what: 'A receiver starts asleep, and nothing ever wakes it.',
    why: 'Its actions are never performed.',
    fix: 'Wake it first, let the action run while it is asleep, or do not start it asleep.',
  },
  messages: { asleep: '{sleeper} starts asleep and nothing wakes it, so {at} never performs {action}' },
  parts: [
    {
      unit: 'instance',
      after: ['sleep', 'bindings'],
      isCandidate: ({ facts }, instance) => facts.awake.blocked[instance] > 0,
      check(inputs, instance, report) {
        const { x, facts } = inputs;
        const { actions } = x.assetOf(instance);
        const number = actions.findIndex(
          (action, a) => !action.whileAsleep && facts.hasBinding[actionNode(x, instance, a)] === 1,
        );
        if (number < 0) return;
        const sleeper = sleeperAround(inputs, instance);
        report({
          subject: placementRef(x, sleeper),
          occurrences: [sleeper],
          message: 'asleep',
          data: () => ({
            sleeper: x.address(sleeper),
            at: x.address(instance),
            action: actions[number].name,
          }),
          evidence: () => nodesEvidence(inputs.g, [actionNode(x, instance, number)]),
        });
      },
    },
  ],
});
