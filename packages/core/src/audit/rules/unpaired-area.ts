import { bindingOfEdge } from '../../graph/graph.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { deliveryEvidence, eachDelivery, type Delivery } from '../deliveries.js';
import { placementRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unpairedArea = defineRule<'unpaired'>({
  meta: {
    name: 'unpaired-area',
    severity: 'info',
    group: 'correctness',
    what: 'Entering an area triggers an action, and leaving it is not bound.',
    why: 'What was switched on stays on.',
    cure: 'Bind leaving too, or limit entering to once.',
  },
  messages: { unpaired: 'Entering {at} triggers {action}, but leaving it triggers nothing' },
  check(ctx, report) {
    const { g, x, bound } = ctx;
    const leaves = (i: number): number[] =>
      x
        .assetOf(i)
        .events.flatMap((event, k) => (event.cause.type === 'area-leave' ? [x.nodeBase[i] + k] : []));
    const question: EventQuestion = {
      name: 'unpaired-area',
      concerns: (event, { events }) =>
        event.cause.type === 'area-enter' &&
        event.limit === undefined &&
        events.some((e) => e.cause.type === 'area-leave'),
      test: (node, i) => leaves(i).every((n) => bound[n] === 0) && switching(ctx, node) !== null,
    };
    ctx.eachSuspect(question, (node, i) => {
      const delivery = switching(ctx, node)!;
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

/** The first delivery of an event that switches something, and does so each time. */
function switching(ctx: AuditContext, event: number): Delivery | null {
  let found: Delivery | null = null;
  eachDelivery(ctx.g, event, (d) => {
    if (!found && switches(ctx, d.action) && isUnlimited(ctx, d)) found = { ...d };
  });
  return found;
}
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
