import type { Expansion } from '../../expand/expansion.js';
import { bindingOfEdge, PUBLISH } from '../../graph/graph.js';
import type { Action, Binding, Value } from '../../project/types.js';
import { isLiteral, valueKey } from '../../project/value.js';
import type { AnalysisInputs } from '../inputs.js';
import { canBothServe } from '../exclusion.js';
import {
  askerOf,
  type MeetingDeliveries,
  type DeliveredAction,
  type Meeting,
  type Met,
} from '../meeting-deliveries.js';
import { bindingRef, nodeRef } from '../names.js';
import { firstOf } from '../facts/audiences.js';
import { mostPairs, triesFor } from '../pairs.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule, type TakeReport } from '../rule.js';
import { own } from '../../util/own.js';

export const opposingActions = defineRule<'opposing'>({
  meta: {
    name: 'opposing-actions',
    severity: 'warning',
    group: 'correctness',
    what: 'One event sets the same property to two different values at the same time. Bindings whose conditions exclude each other are not counted.',
    why: 'The last one in running order wins.',
    fix: 'Remove one of the bindings, or delay the one that should win.',
  },
  messages: { opposing: '{event} sets {property} of {at} to {a} and to {b} at the same time' },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      isCandidate: mayOppose,
      check(inputs, { node }, report) {
        const pairs = new Pairs(inputs, node, report);
        meetingsOf(inputs).eachDirect(node, inputs.facts.audiences.of(node), (meeting) => {
          pairs.among(meeting, (first, later) => first.direct || later.direct);
        });
      },
    },
    {
      unit: 'audience',
      check(inputs, audience, report) {
        const event = firstOf(audience);
        const pairs = new Pairs(inputs, event, report);
        meetingsOf(inputs).eachHeard(audience, (meeting) => pairs.among(meeting, () => true));
      },
    },
  ],
});

function meetingsOf(inputs: AnalysisInputs): MeetingDeliveries {
  return inputs.meetings('opposing-actions', (edge) => setsOf(inputs, edge));
}

/** Reports pairs of bindings that set the same to different values for one event, as many as there may be. */
class Pairs {
  private left: number;
  private tries: number;

  constructor(
    private readonly inputs: AnalysisInputs,
    private readonly event: number,
    private readonly report: TakeReport<'opposing'>,
  ) {
    this.left = mostPairs(inputs.g, event);
    this.tries = triesFor(this.left);
  }

  /** All that do not exclude each other, where such pairs are to be reported. */
  among(meeting: Meeting, isWanted: (first: Met, later: Met) => boolean): void {
    const { g } = this.inputs;
    for (let i = 0; i < meeting.length; i++) {
      for (let j = i + 1; j < meeting.length && this.left > 0; j++) {
        const [first, later] = [meeting[i], meeting[j]];
        if (!isWanted(first, later)) continue;
        if (first.binding === later.binding || first.value === later.value) continue;
        if (this.tries-- <= 0) return;
        if (canBothServe(g, askerOf(first), askerOf(later))) this.reportPair(first, later);
      }
    }
  }
  private reportPair(first: Met, later: Met): void {
    const { g, x } = this.inputs;
    this.left--;
    const [a, b] = [bindingRef(x, first.binding), bindingRef(x, later.binding)];
    this.report({
      subject: { bindings: [a, b] },
      occurrences: [x.ownerOf(later.binding)],
      message: 'opposing',
      data: () => {
        const [at, property] = first.key.split('/');
        const { name: event } = nodeRef(g, this.event);
        return { event, property, at: x.address(Number(at)), a: first.value, b: later.value };
      },
      evidence: () => bindingsEvidence([a, b]),
    });
  }
}

/**
 * Whether an event publishes, or delivers to two or more actions of one instance that set something; only then it is
 * looked into. Cost: its edges.
 */
function mayOppose({ g, x }: AnalysisInputs, event: number): boolean {
  if (g.end[event] - g.first[event] === 1) return g.meta[g.first[event]] >> 2 === PUBLISH;
  let [one, others]: [number, Set<number> | null] = [-1, null];
  for (let e = g.first[event]; e < g.end[event]; e++) {
    if (g.meta[e] >> 2 === PUBLISH) return true;
    const instance = g.instanceOf[g.head[e]];
    if (!sets(x, instance, g.head[e])) continue;
    if (instance === one || others?.has(instance) === true) return true;
    // Most events set something in one place at most.
    if (one < 0) one = instance;
    else (others ??= new Set()).add(instance);
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
function setsOf({ g, x }: AnalysisInputs, edge: number): DeliveredAction[] {
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
