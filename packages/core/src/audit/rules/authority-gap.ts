import { audience, senders } from '../../expand/peers.js';
import { reportDeliveries, type IsWrong } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

export const authorityGap = defineRule<'gap'>({
  meta: {
    name: 'authority-gap',
    severity: 'warning',
    group: 'delivery',
    what: 'A receiver exists only on its authority, and the event is not delivered there.',
    why: 'The peers that get the event have no such receiver.',
    fix: 'Deliver the event to the authority, or let the receiver exist on every peer.',
  },
  messages: { gap: '{event} of {at} is not delivered to the peer that has authority over {receiver}' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      applies: ({ peerRoles }) => peerRoles.peers.length > 0,
      isCandidate: (inputs) =>
        inputs.once('any on authority', () =>
          inputs.index.assets.some((a) => a.decl.existsOn === 'authority'),
        ),
      check(inputs, unit, report) {
        const { peerRoles: roles, x } = inputs;
        const isWrong: IsWrong = (event, sender, receiver) => {
          if (x.assetOf(receiver).decl.existsOn !== 'authority') return false;
          const authority = roles.authority[receiver];
          return !senders(roles, event, sender).some((p) =>
            audience(roles, event, sender, p).includes(authority),
          );
        };
        reportDeliveries(inputs, unit, 'gap', isWrong, report);
      },
    },
  ],
});
