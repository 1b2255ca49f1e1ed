import { isAction } from '../../graph/graph.js';
import { nodesEvidence } from '../evidence.js';
import type { AnalysisInputs } from '../inputs.js';
import { defineRule } from '../rule.js';

export const largeReach = defineRule<'large'>({
  meta: {
    name: 'large-reach',
    severity: 'warning',
    group: 'shape',
    what: 'One event triggers more actions, over any number of hops, than the policy allows.',
    why: 'The effect of a change to it is hard to foresee.',
    fix: 'Split the wiring into parts that are less connected.',
  },
  messages: { large: '{at} {event} reaches more than {limit} actions' },
  parts: [
    {
      unit: 'event',
      after: ['downstream', 'limit of reaches'],
      isCandidate: ({ facts, limits }, node) => facts.reachBounds[node] > limits.maxReach,
      concerns: ({ cause }) => cause.type !== 'raised',
      check(inputs, { node, instance, asset, event }, report) {
        const { x, limits, facts } = inputs;
        if (facts.outside[node] === 0) return;
        const actions = actionsBeyond(inputs, node);
        if (!actions) return;
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: 'large',
          data: () => ({ at: x.address(instance), event: event.name, limit: limits.maxReach }),
          evidence: () => nodesEvidence(inputs.g, actions, SHOWN),
        });
      },
    },
  ],
});

const SHOWN = 50;

/** The first distinct actions that a node reaches, one more than the policy allows; null if there are not so many. */
function actionsBeyond({ g, limits }: AnalysisInputs, from: number): number[] | null {
  const seen = new Set([from]);
  const queue = [from];
  const actions: number[] = [];
  for (let n = queue.pop(); n !== undefined; n = queue.pop()) {
    if (isAction(g, n)) actions.push(n);
    if (actions.length > limits.maxReach) return actions;
    for (let e = g.first[n]; e < g.end[n]; e++) {
      if (seen.has(g.head[e])) continue;
      seen.add(g.head[e]);
      queue.push(g.head[e]);
    }
  }
  return null;
}
