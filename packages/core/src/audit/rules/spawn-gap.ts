import { nodesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const spawnGap = defineRule<'gap'>({
  meta: {
    name: 'spawn-gap',
    severity: 'warning',
    group: 'correctness',
    what: 'An event is bound for placed copies, but not for spawned ones.',
    why: 'Copies spawned at run time lack the bindings of the placed copies.',
    fix: 'Wire it inside the prefab, include spawned copies in the selection, or bind the spawn stand-in.',
  },
  messages: { gap: '{event} of {at} has no listener, although placed copies have one' },
  parts: [
    {
      unit: 'gap',
      check({ g, x }, { node, instance, asset, event }, report) {
        report({
          subject: { asset: asset.decl.id, event: event.name },
          occurrences: [instance],
          message: 'gap',
          data: () => ({ at: x.address(instance), event: event.name }),
          evidence: () => nodesEvidence(g, [node]),
        });
      },
    },
  ],
});
