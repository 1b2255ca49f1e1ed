import type { AuditContext } from '../context.js';
import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const neverRaised = defineRule<'never'>({
  meta: {
    name: 'never-raised',
    severity: 'warning',
    group: 'listeners',
    what: 'An event that only its own actions could raise is listened to, and no action raises it.',
    why: 'Its listeners wait in vain.',
    cure: 'Let an action raise it, or say that something else causes it.',
  },
  messages: { never: 'No action of {asset} raises {event}, and it is listened to' },
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

/** Bound events of cause `raised` that no effect of their asset raises. */
export function neverRaisedNodes(ctx: AuditContext): number[] {
  const never = ctx.index.assets.map((asset) => {
    const raised = new Set(asset.effects.flatMap(({ effect }) => ('raise' in effect ? [effect.raise] : [])));
    return asset.events.map((e) => e.cause.type === 'raised' && !raised.has(e.name));
  });
  const nodes: number[] = [];
  ctx.eachBoundEvent((node, i, e) => {
    if (never[ctx.x.asset[i]][e]) nodes.push(node);
  });
  return nodes;
}
