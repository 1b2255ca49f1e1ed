import { nodeRef } from '../names.js';
import { defineRule } from '../rule.js';

export const spawnGap = defineRule<'gap'>({
  meta: {
    name: 'spawn-gap',
    severity: 'warning',
    group: 'correctness',
    what: 'An event is bound where the thing is placed, and not where it is spawned.',
    why: 'Copies spawned at run time have none of the bindings that their placed siblings have.',
    cure: 'Wire it inside the prefab, select spawned ones too, or bind the stand-in.',
  },
  messages: { gap: '{at} says {event} to nobody, though placed copies of it are listened to' },
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
