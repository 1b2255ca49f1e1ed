import { BIND, HEAR, isAction, PUBLICATION_STRIDE, tailOf, type Graph } from '../../graph/graph.js';
import { byDeclaration } from '../by-declaration.js';
import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const deadWiring = defineRule<'dead'>({
  meta: {
    name: 'dead-wiring',
    severity: 'warning',
    group: 'listeners',
    what: 'An action is wired, but nothing outside the wiring can ever trigger it.',
    why: 'The chain that leads to it never starts.',
    cure: 'Wire the start of the chain, or remove the dead part.',
  },
  messages: { dead: '{action} of {at} is wired, but nothing can ever trigger it' },
  check(ctx, report) {
    const { g, x } = ctx;
    const { bound } = ctx;
    const { live } = ctx.livable;
    const doubtful: number[] = [];
    for (let n = 0; n < g.channelBase; n++)
      if (bound[n] === 1 && live[n] === 0 && isAction(g, n)) doubtful.push(n);
    if (doubtful.length === 0) return;
    const unheard = unpublished(g);
    const dead = unheard.size === 0 ? doubtful : doubtful.filter(isDrivenBut(g, unheard));
    for (const { asset, local, nodes } of byDeclaration(ctx, dead)) {
      const action = asset.actions[local - asset.events.length].name;
      report({
        subject: { asset: asset.decl.id, action },
        occurrences: nodes.map((n) => g.instanceOf[n]),
        message: 'dead',
        data: { at: x.address(g.instanceOf[nodes[0]]), action },
        evidence: () => ({
          kind: 'nodes',
          nodes: nodes.slice(0, 20).map((n) => nodeRef(g, n)),
          more: Math.max(0, nodes.length - 20),
        }),
      });
    }
  },
});

/** Channel nodes that nothing is published to. */
function unpublished(g: Graph): Set<number> {
  const { publications } = g;
  const published = new Set<string>();
  for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
    if (publications[p + 3] === 1) published.add(`${publications[p + 1]}/${publications[p + 2]}`);
  }
  const nodes = new Set<number>();
  g.channelOf.forEach((channel, c) => {
    if (!published.has(`${channel}/${g.keyOf[c]}`)) nodes.add(g.channelBase + c);
  });
  return nodes;
}

/** Whether an action is driven at all, when those channels do not count. */
function isDrivenBut(g: Graph, channels: ReadonlySet<number>): (action: number) => boolean {
  const driven = new Uint8Array(g.nodes);
  const { head, meta } = g;
  for (let e = 0; e < head.length; e++) {
    const kind = meta[e] >> 2;
    if (kind === BIND || (kind === HEAR && !channels.has(tailOf(g, e)))) driven[head[e]] = 1;
  }
  return (action) => driven[action] === 1;
}
