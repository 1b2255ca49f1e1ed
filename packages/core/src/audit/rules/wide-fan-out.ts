import { BIND, PUBLISH, type Graph } from '../../graph/graph.js';
import { byDeclaration } from '../by-declaration.js';
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
    cure: 'Let a hub or a channel pass it on, or narrow the selection by a key.',
  },
  messages: { wide: '{at} {event} reaches {count} actions directly; the limit is {limit}' },
  check(ctx, report) {
    const { g, x, fanOut, limits } = ctx;
    const wide: number[] = [];
    for (let n = 0; n < g.channelBase; n++) if (fanOut[n] > limits.maxFanOut) wide.push(n);
    for (const { asset, local, nodes } of byDeclaration(ctx, wide)) {
      const event = asset.events[local].name;
      const [first] = nodes;
      report({
        subject: { asset: asset.decl.id, event },
        occurrences: nodes.map((n) => g.instanceOf[n]),
        message: 'wide',
        data: { at: x.address(g.instanceOf[first]), event, count: fanOut[first], limit: limits.maxFanOut },
        evidence: () => receivers(g, first, fanOut[first]),
      });
    }
  },
});

const SHOWN = 100;
function receivers(g: Graph, event: number, count: number): Evidence {
  const seen = new Set<number>();
  const take = (from: number, kinds: (kind: number) => boolean): void => {
    for (let e = g.first[from]; e < g.first[from + 1] && seen.size < SHOWN; e++) {
      if (kinds(g.meta[e] >> 2)) seen.add(g.head[e]);
      else if (g.meta[e] >> 2 === PUBLISH) take(g.head[e], () => true);
    }
  };
  take(event, (kind) => kind === BIND);
  return { kind: 'nodes', nodes: [...seen].map((n) => nodeRef(g, n)), more: count - seen.size };
}
