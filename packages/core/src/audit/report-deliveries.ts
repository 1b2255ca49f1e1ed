import type { Action, EventDecl } from '../project/types.js';
import type { AuditContext } from './context.js';
import { deliveryEvidence, eachDelivery } from './deliveries.js';
import { bindingRef } from './names.js';
import type { Report } from './rule.js';

/** Reports the binding that ends at the action, for every delivery of which the test says that it is wrong. */
export function reportDeliveries<M extends string>(
  ctx: AuditContext,
  report: (r: Report<M>) => void,
  message: M,
  isWrong: (event: EventDecl, sender: number, receiver: number, action: Action) => boolean,
  concerns: (event: EventDecl, sender: number) => boolean = () => true,
): void {
  const { g, x } = ctx;
  ctx.eachBoundEvent((node, sender, e) => {
    const event = x.assetOf(sender).events[e];
    if (!concerns(event, sender)) return;
    eachDelivery(g, node, (d) => {
      const receiver = g.instanceOf[d.action];
      const asset = x.assetOf(receiver);
      const action = asset.actions[d.action - x.nodeBase[receiver] - asset.events.length];
      if (!isWrong(event, sender, receiver, action)) return;
      const number = g.ref[d.edge];
      const delivery = { ...d };
      report({
        subject: bindingRef(x, number),
        occurrences: [x.ownerOf(number)],
        message,
        data: {
          at: x.address(sender),
          event: event.name,
          receiver: x.address(receiver),
          action: action.name,
        },
        evidence: () => deliveryEvidence(g, node, delivery),
      });
    });
  });
}
