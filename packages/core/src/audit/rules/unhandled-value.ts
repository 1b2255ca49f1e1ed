import { HEAR, isChannel } from '../../graph/graph.js';
import type { Condition, Field } from '../../project/types.js';
import { holds } from '../../project/condition.js';
import { valuesOfType } from '../../project/type-values.js';
import { bindingsEvidence } from '../evidence.js';
import type { BindingRef } from '../finding.js';
import type { AnalysisInputs } from '../inputs.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unhandledValue = defineRule<'event' | 'channel'>({
  meta: {
    name: 'unhandled-value',
    severity: 'info',
    group: 'listeners',
    what: 'All bindings of an event or channel have a condition on one of its fields, and no binding acts for some values.',
    why: 'One value was probably forgotten.',
    fix: 'Add a binding for the missing values, or remove a condition.',
  },
  messages: {
    event: 'When {at} raises {event}, nothing handles {field} = {values}',
    channel: 'No listener of #{event} handles {field} = {values}',
  },
  parts: [
    {
      unit: 'event',
      after: ['deliveries'],
      concerns: ({ payload }) => choices(payload).length > 0,
      check(inputs, { node, instance, asset, event }, report) {
        const { x } = inputs;
        for (const field of choices(event.payload)) {
          const values = leftOut(inputs, [node], field);
          if (values.length === 0) continue;
          report({
            subject: { asset: asset.decl.id, event: event.name, name: field.name },
            occurrences: [instance],
            message: 'event',
            data: () => ({
              at: x.address(instance),
              event: event.name,
              field: field.name,
              values: values.join(', '),
            }),
            evidence: () => bindingsEvidence(bindingsFrom(inputs, [node])),
          });
        }
      },
    },
    {
      unit: 'channel',
      after: ['use'],
      check(inputs, { number, channel: { name, payload } }, report) {
        const fields = choices(payload);
        if (fields.length === 0) return;
        const nodes = inputs.g.channels.of(number);
        for (const field of fields) {
          const values = leftOut(inputs, nodes, field);
          if (values.length === 0) continue;
          report({
            subject: { channel: name, name: field.name },
            occurrences: [],
            message: 'channel',
            data: () => ({ event: name, field: field.name, values: values.join(', ') }),
            evidence: () => bindingsEvidence(bindingsFrom(inputs, nodes)),
          });
        }
      },
    },
  ],
});

/** Fields of which all values can be listed. */
function choices(fields: readonly Field[] | undefined): Field[] {
  return (fields ?? []).filter((f) => f.type === 'bool' || f.type.startsWith('enum:'));
}

/** Calls `take` for each edge of a binding from one of these nodes, until it says stop. */
function eachBinding(
  { g }: AnalysisInputs,
  nodes: readonly number[],
  take: (number: number) => 'stop' | void,
): void {
  for (const n of nodes) {
    for (let e = g.first[n]; e < g.end[n]; e++) {
      if (g.ref[e] >= 0 && (!isChannel(g, n) || g.meta[e] >> 2 === HEAR) && take(g.ref[e]) === 'stop') return;
    }
  }
}
/** The authored bindings of these nodes, in running order. */
function bindingsFrom(inputs: AnalysisInputs, nodes: readonly number[]): BindingRef[] {
  const { x } = inputs;
  const found = new Set<number>();
  eachBinding(inputs, nodes, (number) => void found.add(number));
  return [...found].sort((a, b) => x.compareRunning(a, b)).map((number) => bindingRef(x, number));
}

/**
 * Values of a field for which no binding of these nodes acts; none unless each of them asks that field. Cost: their edges, up
 * to the first that does not ask.
 */
function leftOut(
  inputs: AnalysisInputs,
  nodes: readonly number[],
  { name, type }: Field,
): (string | boolean)[] {
  const asked: Condition['is'][][] = [];
  let asksAll = true;
  eachBinding(inputs, nodes, (number) => {
    const own = (inputs.x.bindingOf(number).if ?? []).flatMap((c) =>
      'payload' in c && c.payload === name ? [c.is] : [],
    );
    asked.push(own);
    if (own.length > 0) return;
    asksAll = false;
    return 'stop';
  });
  if (!asksAll || asked.length === 0) return [];
  return valuesOfType(inputs.index, type).filter(
    (v) => !asked.some((own) => own.every((is) => holds(is, v))),
  );
}
