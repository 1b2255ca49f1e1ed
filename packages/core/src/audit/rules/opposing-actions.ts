import type { Expansion } from '../../expand/expansion.js';
import { bindingOfEdge, PUBLISH } from '../../graph/graph.js';
import type { Action, Binding, Value } from '../../project/types.js';
import { isLiteral, valueKey } from '../../project/value.js';
import type { EventQuestion } from '../blocks.js';
import type { AuditContext } from '../context.js';
import { LIMITS } from '../../limits.js';
import { canBothServe } from '../exclusion.js';
import { askerOf, MeetingDeliveries, type DeliveredAction } from '../meeting-deliveries.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';
import { own } from '../../util/own.js';

export const opposingActions = defineRule<'opposing'>({
  meta: {
    name: 'opposing-actions',
    severity: 'warning',
    group: 'correctness',
    what: 'One event sets the same property to two different values at the same time. Bindings whose conditions exclude each other are not counted.',
    why: 'The last one in running order wins.',
    cure: 'Remove one of the bindings, or delay the one that should win.',
  },
  messages: { opposing: '{event} sets {property} of {at} to {a} and to {b} at the same time' },
  check(ctx, report) {
    const { g, x } = ctx;
    const question: EventQuestion = { name: 'opposing-actions', test: (n) => mayOppose(ctx, n) };
    const meetings = new MeetingDeliveries(g, (edge) => setsOf(ctx, edge));
    let [pairs, tries] = [0, 0];
    ctx.eachSuspect(question, (node, instance, e) => {
      meetings.eachOf(node, (meeting) => {
        const mixed = meeting.some((m) => m.direct);
        for (let i = 0; i < meeting.length && pairs < LIMITS.audit.pairs; i++) {
          for (let j = i + 1; j < meeting.length && pairs < LIMITS.audit.pairs; j++) {
            const [first, later] = [meeting[i], meeting[j]];
            // What only hears is given apart, for all events that are published there.
            if (mixed && !first.direct && !later.direct) continue;
            if (first.binding === later.binding || first.value === later.value) continue;
            if (++tries > TRIES) return;
            if (!canBothServe(g, askerOf(first), askerOf(later))) continue;
            pairs++;
            const [a, b] = [bindingRef(x, first.binding), bindingRef(x, later.binding)];
            const [at, property] = first.key.split('/');
            report({
              subject: { bindings: [a, b] },
              occurrences: [x.ownerOf(later.binding)],
              message: 'opposing',
              data: {
                event: x.assetOf(instance).events[e].name,
                property,
                at: x.address(Number(at)),
                a: first.value,
                b: later.value,
              },
              evidence: () => ({ kind: 'bindings', bindings: [a, b] }),
            });
          }
        }
      });
    });
  },
});

/** Pairs that are compared. */
const TRIES = 50 * LIMITS.audit.pairs;

/**
 * Whether an event publishes, or delivers to two or more actions of one instance that set something; only then it is
 * looked into. Cost: its edges.
 */
function mayOppose({ g, x }: AuditContext, event: number): boolean {
  const seen = new Set<number>();
  for (let e = g.first[event]; e < g.first[event + 1]; e++) {
    if (g.meta[e] >> 2 === PUBLISH) return true;
    const instance = g.instanceOf[g.head[e]];
    if (!sets(x, instance, g.head[e])) continue;
    if (seen.has(instance)) return true;
    seen.add(instance);
  }
  return false;
}
function sets(x: Expansion, instance: number, node: number): boolean {
  return (actionAt(x, instance, node).effects ?? []).some((e) => 'set' in e);
}
function actionAt(x: Expansion, instance: number, node: number): Action {
  const asset = x.assetOf(instance);
  return asset.actions[node - x.nodeBase[instance] - asset.events.length];
}

/** What an edge sets for good: instance and property, with the value. */
function setsOf({ g, x }: AuditContext, edge: number): DeliveredAction[] {
  const node = g.head[edge];
  const instance = g.instanceOf[node];
  if (!sets(x, instance, node)) return [];
  const { binding } = bindingOfEdge(g, edge)!;
  return [...lastSets(actionAt(x, instance, node), binding)].map(([property, value]) => ({
    key: `${instance}/${property}`,
    value: valueKey(value),
  }));
}

/** For each property the value of the last unconditional set, where it is a literal or a parameter with one. */
function lastSets(action: Action, binding: Binding): Map<string, Value> {
  const sets = new Map<string, Value>();
  for (const effect of action.effects ?? []) {
    if (!('set' in effect) || effect.when !== undefined || effect.everyNth !== undefined) continue;
    const value = isLiteral(effect.to) ? effect.to : own(binding.args, effect.to.param);
    if (value !== undefined && isLiteral(value)) sets.set(effect.set, value);
    else sets.delete(effect.set);
  }
  return sets;
}
