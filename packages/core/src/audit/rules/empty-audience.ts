import type { EventQuestion } from '../blocks.js';
import { nodeRef } from '../names.js';
import { audience, senders } from '../../expand/peers.js';
import { defineRule } from '../rule.js';

export const emptyAudience = defineRule<'empty'>({
  meta: {
    name: 'empty-audience',
    severity: 'error',
    group: 'delivery',
    what: 'An event can be raised, but no peer receives it.',
    why: 'It is raised, and no peer gets it.',
    cure: 'Deliver it to a role that some peer has.',
  },
  messages: { empty: '{event} of {at} is delivered to no peer, whoever raises it' },
  check(ctx, report) {
    const { holding: h, x } = ctx;
    if (h.peers.length === 0) return;
    const question: EventQuestion = {
      name: 'empty-audience',
      concerns: (event) => event.delivery !== undefined,
      test: (_node, i, e) => {
        const event = x.assetOf(i).events[e];
        const may = senders(h, event, i);
        return may.length > 0 && may.every((p) => audience(h, event, i, p).length === 0);
      },
    };
    ctx.eachSuspect(question, (node, i, e) => {
      const asset = x.assetOf(i);
      const event = asset.events[e];
      report({
        subject: { asset: asset.decl.id, event: event.name },
        occurrences: [i],
        message: 'empty',
        data: { at: x.address(i), event: event.name },
        evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, node)], more: 0 }),
      });
    });
  },
});
