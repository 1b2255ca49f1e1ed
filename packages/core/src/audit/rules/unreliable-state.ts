import { reportDeliveries } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

const CHANGING = ['set', 'toggle', 'add', 'wake', 'sleep', 'destroy', 'spawn'];

export const unreliableState = defineRule<'unreliable'>({
  meta: {
    name: 'unreliable-state',
    severity: 'warning',
    group: 'delivery',
    what: 'An event with unreliable delivery changes state.',
    why: 'If it is lost, peers end up with different states.',
    cure: 'Deliver the event reliably, or let it change no lasting state.',
  },
  messages: { unreliable: '{event} of {at} may be lost, but {action} of {receiver} changes state' },
  check(ctx, report) {
    if (ctx.holding.peers.length === 0) return;
    reportDeliveries(ctx, report, 'unreliable', {
      name: 'unreliable-state',
      concerns: (event) => event.delivery?.reliable === false,
      isWrong: (_event, _sender, _receiver, action) =>
        (action.effects ?? []).some((effect) => CHANGING.some((name) => Object.hasOwn(effect, name))),
    });
  },
});
