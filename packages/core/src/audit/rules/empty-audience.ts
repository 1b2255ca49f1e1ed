import { audience, senders } from '../../expand/peers.js';
import { nodesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const emptyAudience = defineRule<'empty'>({
  meta: {
    name: 'empty-audience',
    severity: 'error',
    group: 'delivery',
    what: 'An event can be raised, but no peer receives it.',
    why: 'It is raised, and no peer gets it.',
    fix: 'Deliver it to a role that some peer has.',
  },
  messages: { empty: '{event} of {at} is delivered to no peer, whoever raises it' },
  parts: [
    {
      unit: 'event',
      applies: ({ peerRoles }) => peerRoles.peers.length > 0,
      concerns: (event) => event.delivery !== undefined,
      check({ g, peerRoles, x }, { node, instance, asset, event }, report) {
        const may = senders(peerRoles, event, instance);
        const isEmpty = (peer: number): boolean => audience(peerRoles, event, instance, peer).length === 0;
        if (may.length === 0 || !may.every(isEmpty)) return;
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: 'empty',
          data: () => ({ at: x.address(instance), event: event.name }),
          evidence: () => nodesEvidence(g, [node]),
        });
      },
    },
  ],
});
