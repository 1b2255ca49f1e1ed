import { byDeclaration } from '../by-declaration.js';
import { chainEvidence } from '../names.js';
import { defineRule } from '../rule.js';

export const longChain = defineRule<'long' | 'cyclic'>({
  meta: {
    name: 'long-chain',
    severity: 'warning',
    group: 'shape',
    what: 'One event starts a chain with more hops than the policy allows.',
    why: 'The result is hard to foresee and to test, and delays add up along it.',
    cure: 'Bind the far end directly, or merge relays that only pass things on.',
  },
  messages: {
    long: '{at} {event} starts a chain of {hops} hops; the limit is {limit}',
    cyclic:
      '{at} {event} starts a chain of {hops} hops or more, because it runs into a cycle; the limit is {limit}',
  },
  check(ctx, report) {
    const { g, x, components, chains, limits } = ctx;
    const long: number[] = [];
    for (const node of ctx.outsideEvents) {
      if (chains.length[components.of[node]] > limits.maxChain) long.push(node);
    }
    for (const { asset, local, nodes } of byDeclaration(ctx, long)) {
      const event = asset.events[local].name;
      const [first] = nodes;
      const component = components.of[first];
      report({
        subject: { asset: asset.decl.id, event },
        occurrences: nodes.map((n) => g.instanceOf[n]),
        message: chains.cyclic[component] === 1 ? 'cyclic' : 'long',
        data: {
          at: x.address(g.instanceOf[first]),
          event,
          hops: chains.length[component],
          limit: limits.maxChain,
        },
        evidence: () => chainEvidence(g, components, chains, first),
      });
    }
  },
});
