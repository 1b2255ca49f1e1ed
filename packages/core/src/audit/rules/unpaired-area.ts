import { bindingOfEdge } from '../../graph/graph.js';
import type { AuditContext } from '../context.js';
import { deliveryEvidence, eachDelivery, type Delivery } from '../deliveries.js';
import { placementRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unpairedArea = defineRule<'unpaired'>({
  meta: {
    name: 'unpaired-area',
    severity: 'info',
    group: 'correctness',
    what: 'Entering an area switches something on, and leaving it is not bound.',
    why: 'What was switched on stays on.',
    cure: 'Bind leaving too, or limit entering to once.',
  },
  messages: { unpaired: 'Entering {at} does {action}, and leaving it does nothing' },
  check(ctx, report) {
    const { g, x, bound } = ctx;
    ctx.eachBoundEvent((node, i, e) => {
      const asset = x.assetOf(i);
      const event = asset.events[e];
      if (event.cause.type !== 'area-enter' || event.limit !== undefined) return;
      const leaves = asset.events.flatMap((l, k) =>
        l.cause.type === 'area-leave' ? [x.nodeBase[i] + k] : [],
      );
      if (leaves.length === 0 || leaves.some((n) => bound[n] === 1)) return;
      let found: Delivery | null = null;
      eachDelivery(g, node, (d) => {
        if (!found && switches(ctx, d.action) && isUnlimited(ctx, d)) found = { ...d };
      });
      if (!found) return;
      const delivery: Delivery = found;
      const at = g.instanceOf[delivery.action];
      const receiver = x.assetOf(at);
      const action = receiver.actions[delivery.action - x.nodeBase[at] - receiver.events.length].name;
      report({
        subject: placementRef(x, i),
        occurrences: [i],
        message: 'unpaired',
        data: { at: x.address(i), action },
        evidence: () => deliveryEvidence(g, node, delivery),
      });
    });
  },
});

function switches({ g, x }: AuditContext, action: number): boolean {
  const i = g.instanceOf[action];
  const asset = x.assetOf(i);
  const { effects = [] } = asset.actions[action - x.nodeBase[i] - asset.events.length];
  return effects.some((e) => 'set' in e || 'wake' in e);
}
function isUnlimited({ g }: AuditContext, { edge, published }: Delivery): boolean {
  const free = (e: number): boolean => bindingOfEdge(g, e)!.binding.limit === undefined;
  return free(edge) && (published < 0 || free(published));
}
