import { BIND, PUBLISH, type Graph } from '../../graph/graph.js';
import type { Evidence } from '../finding.js';
import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const wideFanOut = defineRule<'wide'>({
  meta: {
    name: 'wide-fan-out',
    severity: 'warning',
    group: 'shape',
    what: 'One event directly triggers more actions than the policy allows.',
    why: 'The effect of a change to it is hard to foresee.',
    fix: 'Let a hub or a channel pass it on, or narrow the selection by a key.',
  },
  messages: { wide: '{at} {event} reaches {count} actions directly; the limit is {limit}' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries', 'limit of fan-outs'],
      isCandidate: ({ facts, limits }, node) => facts.fanOut[node] > limits.maxFanOut,
      check(inputs, { node, instance, asset, event }, report) {
        const { g, x, limits, facts } = inputs;
        const count = facts.fanOut[node];
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: 'wide',
          data: () => ({ at: x.address(instance), event: event.name, count, limit: limits.maxFanOut }),
          evidence: () => receivers(g, node, count),
        });
      },
    },
  ],
});

const SHOWN = 100;
function receivers(g: Graph, event: number, count: number): Evidence {
  const seen = new Set<number>();
  const take = (from: number, kinds: (kind: number) => boolean): void => {
    for (let e = g.first[from]; e < g.end[from] && seen.size < SHOWN; e++) {
      if (kinds(g.meta[e] >> 2)) seen.add(g.head[e]);
      else if (g.meta[e] >> 2 === PUBLISH) take(g.head[e], () => true);
    }
  };
  take(event, (kind) => kind === BIND);
  return { kind: 'nodes', nodes: [...seen].map((n) => nodeRef(g, n)), more: count - seen.size };
}
