import { BIND, HEAR, PUBLISH } from '../../graph/graph.js';
import { isAction } from '../../graph/graph.js';
import { byDeclaration } from '../by-declaration.js';
import { liveness } from '../live.js';
import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';
import { neverRaisedNodes } from './never-raised.js';

export const deadWiring = defineRule<'dead'>({
  meta: {
    name: 'dead-wiring',
    severity: 'warning',
    group: 'listeners',
    what: 'An action is wired, but nothing outside the wiring can ever bring it about.',
    why: 'The chain that leads to it has no beginning.',
    cure: 'Wire the beginning of the chain, or remove what is dead.',
  },
  messages: { dead: 'Nothing can ever bring {at} to {action}, though it is wired' },
  check(ctx, report) {
    const { g, x } = ctx;
    const { live } = liveness(g, false, neverRaisedNodes(ctx));
    const driven = new Uint8Array(g.nodes);
    const published = new Uint8Array(g.nodes);
    for (let n = 0; n < g.channelBase; n++) {
      for (let e = g.first[n]; e < g.first[n + 1]; e++) {
        if (g.meta[e] >> 2 === BIND) driven[g.head[e]] = 1;
        if (g.meta[e] >> 2 === PUBLISH) published[g.head[e]] = 1;
      }
    }
    for (let c = g.channelBase; c < g.nodes; c++) {
      if (published[c] === 0) continue;
      for (let e = g.first[c]; e < g.first[c + 1]; e++) if (g.meta[e] >> 2 === HEAR) driven[g.head[e]] = 1;
    }
    const dead: number[] = [];
    for (let n = 0; n < g.channelBase; n++) {
      if (driven[n] === 1 && live[n] === 0 && isAction(g, n)) dead.push(n);
    }
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
