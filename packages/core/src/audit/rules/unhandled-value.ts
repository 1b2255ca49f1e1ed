import { expandedBinding, HEAR, type Graph } from '../../graph/graph.js';
import { holds } from '../../project/condition.js';
import type { ProjectIndex } from '../../project/index-project.js';
import { valuesOfType } from '../../project/type-values.js';
import type { Field } from '../../project/types.js';
import type { EventQuestion } from '../blocks.js';
import { bindingsEvidence } from '../evidence.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';

export const unhandledValue = defineRule<'event' | 'channel'>({
  meta: {
    name: 'unhandled-value',
    severity: 'info',
    group: 'listeners',
    what: 'All bindings of an event or channel have a condition on one of its fields, and no binding acts for some values.',
    why: 'One value was probably forgotten.',
    cure: 'Add a binding for the missing values, or remove a condition.',
  },
  messages: {
    event: 'When {at} raises {event}, nothing handles {field} = {values}',
    channel: 'No listener of #{event} handles {field} = {values}',
  },
  check(ctx, report) {
    const { g, x, index } = ctx;
    const choices = (fields: readonly Field[] | undefined): Field[] =>
      (fields ?? []).filter((f) => f.type === 'bool' || f.type.startsWith('enum:'));
    const question: EventQuestion = {
      name: 'unhandled-value',
      concerns: (event) => choices(event.payload).length > 0,
      test: (node, instance, e) => {
        const bindings = bindingsFrom(g, [node]);
        return choices(x.assetOf(instance).events[e].payload).some(
          (field) => leftOut(g, index, bindings, field).length > 0,
        );
      },
    };
    ctx.eachSuspect(question, (node, instance, e) => {
      const asset = x.assetOf(instance);
      const event = asset.events[e];
      const bindings = bindingsFrom(g, [node]);
      for (const field of choices(event.payload)) {
        const values = leftOut(g, index, bindings, field);
        if (values.length === 0) continue;
        report({
          subject: { asset: asset.decl.id, event: event.name, name: field.name },
          occurrences: [instance],
          message: 'event',
          data: { at: x.address(instance), event: event.name, field: field.name, values: values.join(', ') },
          evidence: bindingsEvidence(bindings.map((b) => bindingRef(x, b))),
        });
      }
    });
    const channels = index.project.channels ?? [];
    if (channels.every((c) => choices(c.payload).length === 0)) return;
    const nodes = channels.map((): number[] => []);
    g.channelOf.forEach((channel, at) => nodes[channel].push(g.channelBase + at));
    channels.forEach(({ name, payload }, channel) => {
      const bindings = bindingsFrom(g, nodes[channel]);
      for (const field of choices(payload)) {
        const values = leftOut(g, index, bindings, field);
        if (values.length === 0) continue;
        report({
          subject: { channel: name, name: field.name },
          occurrences: [],
          message: 'channel',
          data: { at: '', event: name, field: field.name, values: values.join(', ') },
          evidence: bindingsEvidence(bindings.map((b) => bindingRef(x, b))),
        });
      }
    });
  },
});

/** Expanded bindings with an edge from one of these nodes, in order. */
function bindingsFrom({ first, ref, meta, channelBase }: Graph, nodes: readonly number[]): number[] {
  const found = new Set<number>();
  for (const n of nodes) {
    for (let e = first[n]; e < first[n + 1]; e++) {
      if (ref[e] >= 0 && (n < channelBase || meta[e] >> 2 === HEAR)) found.add(ref[e]);
    }
  }
  return [...found].sort((a, b) => a - b);
}

/** Values of a field for which none of these bindings acts; none unless each of them asks that field. */
function leftOut(
  g: Graph,
  index: ProjectIndex,
  bindings: readonly number[],
  { name, type }: Field,
): (string | boolean)[] {
  if (bindings.length === 0) return [];
  const asked = bindings.map((b) =>
    (expandedBinding(g.x, b).binding.if ?? []).flatMap((c) =>
      'payload' in c && c.payload === name ? [c.is] : [],
    ),
  );
  if (asked.some((own) => own.length === 0)) return [];
  return valuesOfType(index, type).filter((v) => !asked.some((own) => own.every((is) => holds(is, v))));
}
