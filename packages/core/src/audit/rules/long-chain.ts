import { heaviestPath } from '../../graph/chains.js';
import { pathEvidence } from '../names.js';
import { defineRule } from '../rule.js';

export const longChain = defineRule<'long' | 'cyclic'>({
  meta: {
    name: 'long-chain',
    severity: 'warning',
    group: 'shape',
    what: 'One event starts a chain of more hops than the policy allows.',
    why: 'What follows is hard to foresee and to test, and delays add up along it.',
    cure: 'Bind the far end directly, or merge relays that only pass things on.',
  },
  messages: {
    long: '{at} {event} starts a chain of {hops} hops; the limit is {limit}',
    cyclic:
      '{at} {event} starts a chain of {hops} hops or more, since it runs into a cycle; the limit is {limit}',
  },
  check(ctx, report) {
    const { g, x, components, chains, limits } = ctx;
    ctx.eachOutsideEvent((node, instance, e) => {
      const component = components.of[node];
      const hops = chains.length[component];
      if (hops <= limits.maxChain) return;
      const asset = x.assetOf(instance);
      const event = asset.events[e].name;
      report({
        subject: { asset: asset.decl.id, event },
        occurrences: [instance],
        message: chains.cyclic[component] === 1 ? 'cyclic' : 'long',
        data: { at: x.address(instance), event, hops, limit: limits.maxChain },
        evidence: () => pathEvidence(g, heaviestPath(g, components, chains, node), false),
      });
    });
  },
});
