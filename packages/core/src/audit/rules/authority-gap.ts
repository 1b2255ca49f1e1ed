import { audience, senders } from '../../expand/peers.js';
import { reportDeliveries } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

export const authorityGap = defineRule<'gap'>({
  meta: {
    name: 'authority-gap',
    severity: 'warning',
    group: 'delivery',
    what: 'A receiver exists only on its authority, and the event is not delivered there.',
    why: 'The peers that get the event have no such receiver.',
    cure: 'Deliver the event to the authority, or let the receiver exist on every peer.',
  },
  messages: { gap: '{event} of {at} is not delivered to the peer that has authority over {receiver}' },
  check(ctx, report) {
    const { holding: h, x } = ctx;
    if (h.peers.length === 0 || !ctx.index.assets.some((a) => a.decl.existsOn === 'authority')) return;
    reportDeliveries(ctx, report, 'gap', {
      name: 'authority-gap',
      isWrong: (event, sender, receiver) => {
        if (x.assetOf(receiver).decl.existsOn !== 'authority') return false;
        const keeper = h.authority[receiver];
        return !senders(h, event, sender).some((p) => audience(h, event, sender, p).includes(keeper));
      },
    });
  },
});
