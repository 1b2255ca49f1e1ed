import { chainEvidence } from '../names.js';
import { defineRule } from '../rule.js';

export const longChain = defineRule<'long' | 'cyclic'>({
  meta: {
    name: 'long-chain',
    severity: 'warning',
    group: 'shape',
    what: 'One event starts a chain with more hops than the policy allows.',
    why: 'The result is hard to foresee and to test, and delays add up along it.',
    fix: 'Bind the far end directly, or merge relays that only pass things on.',
  },
  messages: {
    long: '{at} {event} starts a chain of {hops} hops; the limit is {limit}',
    cyclic:
      '{at} {event} starts a chain of {hops} hops or more, because it runs into a cycle; the limit is {limit}',
  },
  parts: [
    {
      unit: 'event',
      after: ['downstream', 'limit of chains'],
      isCandidate: ({ facts, limits }, node) => facts.chains.length[node] > limits.maxChain,
      concerns: ({ cause }) => cause.type !== 'raised',
      check(inputs, { node, instance, asset, event }, report) {
        const { g, x, limits, facts } = inputs;
        const { chains, components } = facts;
        if (facts.outside[node] === 0) return;
        const hops = chains.length[node];
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: chains.cyclic[node] === 1 ? 'cyclic' : 'long',
          data: () => ({ at: x.address(instance), event: event.name, hops, limit: limits.maxChain }),
          evidence: () => chainEvidence(g, components, chains, node),
        });
      },
    },
  ],
});
