import { eventNode } from '../../graph/graph.js';
import { nodesEvidence } from '../evidence.js';
import { placementRef } from '../names.js';
import { defineRule } from '../rule.js';
import { sleeperAround } from '../sleepers.js';

export const asleepSender = defineRule<'asleep'>({
  meta: {
    name: 'asleep-sender',
    severity: 'warning',
    group: 'targets',
    what: 'A sender starts asleep, and nothing ever wakes it.',
    why: 'While asleep it raises nothing, so its listeners are never triggered.',
    fix: 'Wake it, or do not start it asleep.',
  },
  messages: { asleep: '{sleeper} starts asleep and nothing wakes it, so {at} never raises {event}' },
  parts: [
    {
      unit: 'instance',
      after: ['sleep', 'bindings'],
      isCandidate: ({ facts }, instance) => facts.awake.blocked[instance] > 0,
      check(inputs, instance, report) {
        const { x, facts } = inputs;
        const { events } = x.assetOf(instance);
        const number = events.findIndex(
          ({ cause }, e) => cause.type !== 'raised' && facts.hasBinding[eventNode(x, instance, e)] === 1,
        );
        if (number < 0) return;
        const sleeper = sleeperAround(inputs, instance);
        report({
          subject: placementRef(x, sleeper),
          occurrences: [sleeper],
          message: 'asleep',
          data: () => ({ sleeper: x.address(sleeper), at: x.address(instance), event: events[number].name }),
          evidence: () => nodesEvidence(inputs.g, [eventNode(x, instance, number)]),
        });
      },
    },
  ],
});
