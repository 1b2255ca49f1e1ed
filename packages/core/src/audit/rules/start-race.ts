import {
  edgeDelay,
  eventNode,
  HEARING_STRIDE,
  NO_KEY,
  type BindingRecords,
  type Graph,
} from '../../graph/graph.js';
import { append } from '../../util/append.js';
import type { Incoming } from '../../graph/incoming.js';
import type { Binding } from '../../project/types.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { BINDING_TRAITS } from '../binding-traits.js';
import type { AnalysisInputs, ResolvedCopy } from '../inputs.js';
import { ownerText } from '../names.js';
import { defineRule } from '../rule.js';

export const startRace = defineRule<'race'>({
  meta: {
    name: 'start-race',
    severity: 'warning',
    group: 'correctness',
    what: 'An event can be raised at the start before its binding is active.',
    why: 'Whether it triggers depends on the order in which things start.',
    fix: 'Make the binding active at load, or delay the event.',
  },
  messages: {
    race: '"{binding}" in {owner} becomes active at its start and may miss events that other starts raise',
  },
  parts: [
    {
      unit: 'binding',
      after: ['upstream'],
      concerns: BINDING_TRAITS['begin at start'],
      check(inputs, { binding, owner: asset, position, subject, records }, report) {
        const { x } = inputs;
        for (const copy of inputs.resolvedCopies(asset, position)) {
          if (!mayMiss(inputs, binding, copy, x.numberOf(copy.owner, position), records)) continue;
          report({
            subject,
            occurrences: [copy.owner],
            message: 'race',
            data: () => ({ binding: bindingWords(binding), owner: ownerText(x, copy.owner) }),
            evidence: () => bindingsEvidence([subject]),
          });
        }
      },
    },
  ],
});

/** Whether a copy takes hold so late that it may miss what the starts raise. */
function mayMiss(
  inputs: AnalysisInputs,
  binding: Binding,
  copy: ResolvedCopy,
  number: number,
  records: BindingRecords | undefined,
): boolean {
  const { g, x, incoming } = inputs;
  const { from } = binding;
  // Its own start, and that of what it contains, come after it has taken hold.
  const races = (event: number): boolean =>
    isReachedAtOnce(g, incoming, event) ||
    (isStart(g, event) && !x.contains(copy.owner, g.instanceOf[event]));
  if ('at' in from) {
    const event = eventNode(x, copy.sender, x.assetOf(copy.sender).eventAt.get(from.event)!);
    return delivers(g, event, number) && races(event);
  }
  return heardNodes(g, copy.owner, records).some((node) => sendersAtOnce(g, incoming, node).some(races));
}

/** Whether an expanded binding has an edge from its event; a selection may take nothing. */
function delivers(g: Graph, event: number, number: number): boolean {
  for (let e = g.first[event]; e < g.end[event]; e++) if (g.ref[e] === number) return true;
  return false;
}

/** The channel nodes that one copy of a binding hears. */
function heardNodes(g: Graph, owner: number, records: BindingRecords | undefined): number[] {
  const nodes: number[] = [];
  const hearings = records?.hearings ?? [];
  for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
    const [of, channel, key, action] = hearings.slice(h, h + 4);
    if (of !== owner || action < 0) continue;
    if (key === NO_KEY) append(nodes, g.channels.of(channel));
    else nodes.push(g.channels.find(channel, key)!);
  }
  return nodes;
}

/** Whether an event is the start of something that is there from the beginning. */
function isStart({ x, instanceOf, action }: Graph, node: number): boolean {
  const instance = instanceOf[node];
  if (instance < 0 || action[node] === 1 || x.isSpawned(instance)) return false;
  return x.assetOf(instance).events[node - x.nodeBase[instance]].cause.type === 'start';
}

/** Whether a start leads to a node by one or more edges without delay. Cost: what leads to it so. */
function isReachedAtOnce(g: Graph, incoming: Incoming, node: number): boolean {
  const seen = new Set([node]);
  const stack = [node];
  for (let n = stack.pop(); n !== undefined; n = stack.pop()) {
    for (const tail of sendersAtOnce(g, incoming, n)) {
      if (isStart(g, tail)) return true;
      if (seen.has(tail)) continue;
      seen.add(tail);
      stack.push(tail);
    }
  }
  return false;
}
/** The tails of the edges without delay that lead to a node. */
function sendersAtOnce(g: Graph, incoming: Incoming, node: number): number[] {
  const tails: number[] = [];
  for (const tail of new Set(incoming.tails(node))) {
    for (let e = g.first[tail]; e < g.end[tail]; e++) {
      if (g.head[e] !== node || edgeDelay(g, e, tail) > 0) continue;
      tails.push(tail);
      break;
    }
  }
  return tails;
}
