import { fieldNamed } from '../project/fields.js';
import type { Expansion } from '../expand/expansion.js';
import { expandedBinding, isChannel, type Graph } from '../graph/graph.js';
import { canHold, type Question } from '../project/can-hold.js';
import { hasConditions } from '../project/condition.js';
import type { Field } from '../project/types.js';

/** An expanded binding, and what it serves: the node of an event, or of a channel that it hears. */
export interface Asker {
  number: number;
  node: number;
}

/** Whether two expanded bindings can serve the same raise; two whose conditions exclude each other cannot. */
export function canBothServe(g: Graph, a: Asker, b: Asker): boolean {
  const asks = ({ number }: Asker): boolean => hasConditions(expandedBinding(g.x, number).binding.if);
  if (!asks(a) && !asks(b)) return true;
  return canHold(g.x.index, [...questionsOf(g, a), ...questionsOf(g, b)]);
}

/** What an expanded binding asks. Names that are not there ask nothing here: that is reported as such. */
export function questionsOf(g: Graph, { number, node }: Asker): Question[] {
  const { x } = g;
  const { owner, binding } = expandedBinding(x, number);
  const { from, if: conditions } = binding;
  if (!hasConditions(conditions)) return [];
  const sender = isChannel(g, node) ? owner : g.instanceOf[node];
  const fields = 'channel' in from ? channelFields(x, from.channel) : eventFields(x, sender, from.event);
  const { properties, propertyAt } = x.assetOf(sender);
  return conditions.flatMap((c): Question[] => {
    if ('payload' in c) {
      const field = fieldNamed(fields, c.payload);
      if (!field) return [];
      return [{ of: `${node} ${c.payload}`, type: field.type, optional: field.optional === true, is: c.is }];
    }
    const type = properties[propertyAt.get(c.property) ?? -1]?.type;
    return type === undefined ? [] : [{ of: `@${sender} ${c.property}`, type, optional: false, is: c.is }];
  });
}
function channelFields({ index }: Expansion, channel: string): readonly Field[] {
  return index.project.channels?.[index.channelAt.get(channel) ?? -1]?.payload ?? [];
}
function eventFields(x: Expansion, sender: number, event: string): readonly Field[] {
  const { events, eventAt } = x.assetOf(sender);
  return events[eventAt.get(event) ?? -1]?.payload ?? [];
}
