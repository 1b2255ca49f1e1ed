import { isChannel, type Graph } from '../../graph/graph.js';
import type { Incoming } from '../../graph/incoming.js';
import { nodesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const deadWiring = defineRule<'dead'>({
  meta: {
    name: 'dead-wiring',
    severity: 'warning',
    group: 'listeners',
    what: 'An action is wired, but nothing outside the wiring can ever trigger it.',
    why: 'The chain that leads to it never starts.',
    fix: 'Wire the start of the chain, or remove the dead part.',
  },
  messages: { dead: '{action} of {at} is wired, but nothing can ever trigger it' },
  parts: [
    {
      unit: 'action',
      after: ['liveness', 'drivers'],
      isCandidate: ({ facts }, node) => facts.hasBinding[node] === 1 && facts.livable.live[node] === 0,
      check(inputs, { node, instance, asset, action }, report) {
        const { g, x } = inputs;
        if (!isDriven(g, inputs.incoming, node)) return;
        report({
          subject: { asset: asset.decl.id, action: action.name },
          occurrences: [instance],
          message: 'dead',
          data: () => ({ at: x.address(instance), action: action.name }),
          evidence: (units) => nodesEvidence(g, units.first(SHOWN), SHOWN, units.count),
        });
      },
    },
  ],
});

const SHOWN = 20;

/** Whether anything leads to an action, when channel nodes that nothing is published to do not count. */
function isDriven(g: Graph, incoming: Incoming, action: number): boolean {
  for (let i = 0; i < incoming.degree(action); i++) {
    const tail = incoming.tail(action, i);
    if (!isChannel(g, tail) || incoming.degree(tail) > 0) return true;
  }
  return false;
}
