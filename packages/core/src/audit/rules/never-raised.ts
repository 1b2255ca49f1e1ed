import { nodesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const neverRaised = defineRule<'never'>({
  meta: {
    name: 'never-raised',
    severity: 'warning',
    group: 'listeners',
    what: 'An event that only actions of its own asset can raise has listeners, and no action raises it.',
    why: 'Its listeners are never triggered.',
    fix: 'Let an action raise it, or declare another cause.',
  },
  messages: { never: '{event} has listeners, but no action of {asset} raises it' },
  parts: [
    {
      unit: 'event',
      concerns: ({ cause }) => cause.type === 'raised',
      isCandidate: ({ facts }, node) => facts.neverRaised.has(node),
      check({ g }, { node, instance, asset, event }, report) {
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: 'never',
          data: () => ({ asset: asset.decl.id, event: event.name }),
          evidence: () => nodesEvidence(g, [node]),
        });
      },
    },
  ],
});
