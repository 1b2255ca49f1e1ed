import { reportDeliveries, type IsWrong } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

const CHANGING = ['set', 'toggle', 'add', 'wake', 'sleep', 'destroy', 'spawn'];

export const unreliableState = defineRule<'unreliable'>({
  meta: {
    name: 'unreliable-state',
    severity: 'warning',
    group: 'delivery',
    what: 'An event with unreliable delivery changes state.',
    why: 'If it is lost, peers end up with different states.',
    fix: 'Deliver the event reliably, or let it change no lasting state.',
  },
  messages: { unreliable: '{event} of {at} may be lost, but {action} of {receiver} changes state' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      applies: ({ peerRoles }) => peerRoles.peers.length > 0,
      concerns: (event) => event.delivery?.reliable === false,
      check(inputs, unit, report) {
        const isWrong: IsWrong = (_event, _sender, _receiver, { effects = [] }) =>
          effects.some((effect) => CHANGING.some((name) => Object.hasOwn(effect, name)));
        reportDeliveries(inputs, unit, 'unreliable', isWrong, report);
      },
    },
  ],
});
