import { senders } from '../../expand/peers.js';
import { nodesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const barredRaise = defineRule<'barred'>({
  meta: {
    name: 'barred-raise',
    severity: 'error',
    group: 'delivery',
    what: 'An event has listeners, but no peer is allowed to raise it.',
    why: 'Every raise is refused.',
    fix: 'Allow a role that some peer has to raise it.',
  },
  messages: { barred: 'No peer is allowed to raise {event} of {at}' },
  parts: [
    {
      unit: 'event',
      applies: ({ peerRoles }) => peerRoles.peers.length > 0,
      concerns: (event) => event.delivery !== undefined,
      check({ g, peerRoles, x }, { node, instance, asset, event }, report) {
        if (senders(peerRoles, event, instance).length > 0) return;
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: 'barred',
          data: () => ({ at: x.address(instance), event: event.name }),
          evidence: () => nodesEvidence(g, [node]),
        });
      },
    },
  ],
});
