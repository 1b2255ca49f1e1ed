import { deliveryEvidence, eachDelivery } from './deliveries.js';
import type { AnalysisInputs } from './inputs.js';
import { bindingRef } from './names.js';
import type { TakeReport } from './rule.js';
import type { EventUnit } from './units.js';
import type { Action, EventDecl } from '../project/types.js';

/** Whether a delivery is wrong. It may look at declarations and placements alone. */
export type IsWrong = (event: EventDecl, sender: number, receiver: number, action: Action) => boolean;

/** Reports the binding that ends at the action, for every delivery of an event that is wrong. Cost: its deliveries. */
export function reportDeliveries<M extends string>(
  { g, x }: AnalysisInputs,
  { node, instance: sender, event }: EventUnit,
  message: M,
  isWrong: IsWrong,
  report: TakeReport<M>,
): void {
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
      data: () => ({
        at: x.address(sender),
        event: event.name,
        receiver: x.address(receiver),
        action: action.name,
      }),
      evidence: () => deliveryEvidence(g, node, delivery),
    });
  });
}
