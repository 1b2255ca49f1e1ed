import { defineRule } from '../rule.js';
import { below } from '../names.js';

export const unknownAsset = defineRule<'unknown' | 'scene'>({
  meta: {
    name: 'unknown-asset',
    severity: 'error',
    group: 'targets',
    ignoresBindings: true,
    what: 'A placement uses an asset that does not exist, or a scene.',
    why: 'Nothing is placed, and its bindings never trigger.',
    cure: 'Place the intended asset, or remove the placement.',
  },
  messages: {
    unknown: '{placement} in {owner} is a {asset}, which does not exist',
    scene: '{placement} in {owner} is the scene {asset}; only prefabs and widgets are placed',
  },
  check(ctx, report) {
    for (const owner of ctx.index.assets) {
      owner.placements.forEach((p, slot) => {
        if (owner.placed[slot] >= 0) return;
        report({
          subject: { asset: owner.decl.id, placement: p.id },
          occurrences: [...ctx.instancesOf(owner.at)].map((i) => below(ctx.x, i, p.id)),
          message: ctx.index.assetAt.has(p.asset) ? 'scene' : 'unknown',
          data: { placement: p.id, owner: owner.decl.id, asset: p.asset },
          evidence: () => ({
            kind: 'names',
            wanted: p.asset,
            known: ctx.index.assets.filter((a) => a.decl.kind !== 'scene').map((a) => a.decl.id),
          }),
        });
      });
    }
  },
});
