import { defineRule } from '../rule.js';
import { below } from '../names.js';

export const unknownAsset = defineRule<'unknown' | 'scene'>({
  meta: {
    name: 'unknown-asset',
    severity: 'error',
    group: 'targets',
    what: 'A placement uses an asset that does not exist, or a scene.',
    why: 'Nothing is placed, and its bindings never trigger.',
    fix: 'Place the intended asset, or remove the placement.',
  },
  messages: {
    unknown: '{placement} in {owner} is a {asset}, which does not exist',
    scene: '{placement} in {owner} is the scene {asset}; only prefabs and widgets are placed',
  },
  parts: [
    {
      unit: 'asset',
      check(inputs, owner, report) {
        const { x, index } = inputs;
        owner.placements.forEach((p, slot) => {
          if (owner.placed[slot] >= 0) return;
          report({
            subject: { asset: owner.decl.id, placement: p.id },
            occurrences: [...inputs.instancesOf(owner.at)].map((i) => below(x, i, p.id)),
            message: index.assetAt.has(p.asset) ? 'scene' : 'unknown',
            data: () => ({ placement: p.id, owner: owner.decl.id, asset: p.asset }),
            evidence: () => ({
              kind: 'names',
              wanted: p.asset,
              known: index.assets.filter((a) => a.decl.kind !== 'scene').map((a) => a.decl.id),
            }),
          });
        });
      },
    },
  ],
});
