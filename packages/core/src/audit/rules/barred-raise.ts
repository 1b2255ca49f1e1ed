import type { EventQuestion } from '../blocks.js';
import { nodeRef } from '../names.js';
import { senders } from '../../expand/peers.js';
import { defineRule } from '../rule.js';

export const barredRaise = defineRule<'barred'>({
  meta: {
    name: 'barred-raise',
    severity: 'error',
    group: 'delivery',
    what: 'An event has listeners, but no peer is allowed to raise it.',
    why: 'Every raise is refused.',
    cure: 'Allow a role that some peer has to raise it.',
  },
  messages: { barred: 'No peer is allowed to raise {event} of {at}' },
  check(ctx, report) {
    const { holding: h, x } = ctx;
    if (h.peers.length === 0) return;
    const question: EventQuestion = {
      name: 'barred-raise',
      concerns: (event) => event.delivery !== undefined,
      test: (_node, i, e) => senders(h, x.assetOf(i).events[e], i).length === 0,
    };
    ctx.eachSuspect(question, (node, i, e) => {
      const asset = x.assetOf(i);
      const event = asset.events[e];
      report({
        subject: { asset: asset.decl.id, event: event.name },
        occurrences: [i],
        message: 'barred',
        data: { at: x.address(i), event: event.name },
        evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, node)], more: 0 }),
      });
    });
  },
});
