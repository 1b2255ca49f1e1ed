import { BIND, HEAR, PUBLISH } from '../../graph/graph.js';
import { isAction } from '../../graph/graph.js';
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
    for (let n = 0; n < g.channelBase; n++) {
      if (driven[n] === 0 || live[n] === 1 || !isAction(g, n)) continue;
      const ref = nodeRef(g, n);
      const i = g.instanceOf[n];
      report({
        subject: { asset: x.assetOf(i).decl.id, action: ref.name },
        occurrences: [i],
        message: 'dead',
        data: { at: ref.at!, action: ref.name },
        evidence: () => ({ kind: 'nodes', nodes: [ref], more: 0 }),
      });
    }
  },
});
