import { nodeRef } from '../names.js';
import { neverRaisedNodes } from '../never-raised-nodes.js';
import { defineRule } from '../rule.js';

export const neverRaised = defineRule<'never'>({
  meta: {
    name: 'never-raised',
    severity: 'warning',
    group: 'listeners',
    what: 'An event that only actions of its own asset can raise has listeners, and no action raises it.',
    why: 'Its listeners are never triggered.',
    cure: 'Let an action raise it, or declare another cause.',
  },
  messages: { never: '{event} has listeners, but no action of {asset} raises it' },
  check(ctx, report) {
    const { x } = ctx;
    for (const node of neverRaisedNodes(ctx)) {
      const i = ctx.g.instanceOf[node];
      const asset = x.assetOf(i);
      const event = asset.events[node - x.nodeBase[i]].name;
      report({
        subject: { asset: asset.decl.id, event },
        occurrences: [i],
        message: 'never',
        data: { asset: asset.decl.id, event },
        evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, node)], more: 0 }),
      });
    }
  },
});
