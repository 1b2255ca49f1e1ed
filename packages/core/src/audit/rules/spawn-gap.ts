import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const spawnGap = defineRule<'gap'>({
  meta: {
    name: 'spawn-gap',
    severity: 'warning',
    group: 'correctness',
    what: 'An event is bound for placed copies, but not for spawned ones.',
    why: 'Copies spawned at run time lack the bindings of the placed copies.',
    cure: 'Wire it inside the prefab, include spawned copies in the selection, or bind the spawn stand-in.',
  },
  messages: { gap: '{event} of {at} has no listener, although placed copies have one' },
  check(ctx, report) {
    const { g, x } = ctx;
    for (const node of ctx.spawnGaps) {
      const i = g.instanceOf[node];
      const asset = x.assetOf(i);
      const event = asset.events[node - x.nodeBase[i]].name;
      report({
        subject: { asset: asset.decl.id, event },
        occurrences: [i],
        message: 'gap',
        data: { at: x.address(i), event },
        evidence: () => ({ kind: 'nodes', nodes: [nodeRef(g, node)], more: 0 }),
      });
    }
  },
});
