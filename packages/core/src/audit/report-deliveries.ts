import type { Action, EventDecl } from '../project/types.js';
import type { AuditContext } from './context.js';
import { deliveryEvidence, eachDelivery } from './deliveries.js';
import { bindingRef } from './names.js';
import type { Report } from './rule.js';

export interface DeliveryQuestion {
  /** The rule's name. */
  name: string;
  concerns?: (event: EventDecl) => boolean;
  /** May look at declarations and placements alone. */
  isWrong: (event: EventDecl, sender: number, receiver: number, action: Action) => boolean;
}

/** Reports the binding that ends at the action, for every delivery of which the question says that it is wrong. */
export function reportDeliveries<M extends string>(
  ctx: AuditContext,
  report: (r: Report<M>) => void,
  message: M,
  { name, concerns, isWrong }: DeliveryQuestion,
): void {
  const { g, x } = ctx;
  const wrong = (
    sender: number,
    event: EventDecl,
    node: number,
  ): { receiver: number; action: Action } | null => {
    const receiver = g.instanceOf[node];
    const asset = x.assetOf(receiver);
    const action = asset.actions[node - x.nodeBase[receiver] - asset.events.length];
    return isWrong(event, sender, receiver, action) ? { receiver, action } : null;
  };
  const test = (node: number, sender: number, e: number): boolean => {
    const event = x.assetOf(sender).events[e];
    let any = false;
    eachDelivery(g, node, (d) => (any ||= wrong(sender, event, d.action) !== null));
    return any;
  };
  ctx.eachSuspect({ name, concerns, test }, (node, sender, e) => {
    const event = x.assetOf(sender).events[e];
    eachDelivery(g, node, (d) => {
      const end = wrong(sender, event, d.action);
      if (!end) return;
      const { receiver, action } = end;
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
