import { audience, senders } from '../../expand/peers.js';
import { reportDeliveries } from '../report-deliveries.js';
import { defineRule } from '../rule.js';

export const authorityGap = defineRule<'gap'>({
  meta: {
    name: 'authority-gap',
    severity: 'warning',
    group: 'delivery',
    what: 'A receiver exists on its authority only, and the event never goes there.',
    why: 'Where the event arrives there is nobody to receive it.',
    cure: 'Send the event to the authority, or let the receiver exist everywhere.',
  },
  messages: { gap: '{event} of {at} never reaches the peer that keeps {receiver}' },
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
