import { bindingOfEdge } from '../../graph/graph.js';
import type { AnalysisInputs } from '../inputs.js';
import { deliveryEvidence, eachDelivery, type Delivery } from '../deliveries.js';
import { nodeRef, placementRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unpairedArea = defineRule<'unpaired'>({
  meta: {
    name: 'unpaired-area',
    severity: 'info',
    group: 'correctness',
    what: 'Entering an area triggers an action, and leaving it is not bound.',
    why: 'What was switched on stays on.',
    fix: 'Bind leaving too, or limit entering to once.',
  },
  messages: { unpaired: 'Entering {at} triggers {action}, but leaving it triggers nothing' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries', 'neighbours'],
      concerns: ({ cause, limit }, { events }) =>
        cause.type === 'area-enter' &&
        limit === undefined &&
        events.some((e) => e.cause.type === 'area-leave'),
      check(inputs, { node, instance, asset }, report) {
        const { g, x, facts } = inputs;
        const leaves = asset.events.some(
          ({ cause }, e) => cause.type === 'area-leave' && facts.hasBinding[x.nodeBase[instance] + e] === 1,
        );
        const delivery = leaves ? null : switching(inputs, node);
        if (!delivery) return;
        report({
          subject: placementRef(x, instance),
          occurrences: [instance],
          message: 'unpaired',
          data: () => ({ at: x.address(instance), action: nodeRef(g, delivery.action).name }),
          evidence: () => deliveryEvidence(g, node, delivery),
        });
      },
    },
  ],
});

/** The first delivery of an event that switches something, and does so each time. */
function switching(inputs: AnalysisInputs, event: number): Delivery | null {
  let found: Delivery | null = null;
  eachDelivery(inputs.g, event, (d) => {
    if (!found && switches(inputs, d.action) && isUnlimited(inputs, d)) found = { ...d };
  });
  return found;
}
function switches({ g, x }: AnalysisInputs, action: number): boolean {
  const i = g.instanceOf[action];
  const asset = x.assetOf(i);
  const { effects = [] } = asset.actions[action - x.nodeBase[i] - asset.events.length];
  return effects.some((e) => 'set' in e || 'wake' in e);
}
function isUnlimited({ g }: AnalysisInputs, { edge, published }: Delivery): boolean {
  const free = (e: number): boolean => bindingOfEdge(g, e)!.binding.limit === undefined;
  return free(edge) && (published < 0 || free(published));
}
