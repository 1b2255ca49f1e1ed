import { stronglyConnected } from '../../graph/components.js';
import { IntList } from '../../util/int-list.js';
import type { AssetIndex } from '../../project/index-project.js';
import { namesEvidence } from '../evidence.js';
import type { AnalysisInputs } from '../inputs.js';
import { below } from '../names.js';
import { defineRule } from '../rule.js';

export const nestingLoop = defineRule<'loop'>({
  meta: {
    name: 'nesting-loop',
    severity: 'error',
    group: 'targets',
    what: 'An asset contains itself, directly or through others.',
    why: 'It can never be expanded fully; the placement that repeats it is left out.',
    fix: 'Remove one of the placements in the loop, or spawn it instead.',
  },
  messages: { loop: '{asset} contains itself: {way}' },
  parts: [
    {
      unit: 'project',
      check(inputs, _, report) {
        for (const { members, where } of loops(inputs)) {
          const [first] = members;
          const names = members.map((a) => a.decl.id);
          report({
            subject: { asset: first.decl.id },
            occurrences: where,
            message: 'loop',
            data: () => ({ asset: first.decl.id, way: [...names, first.decl.id].join(' > ') }),
            evidence: () => namesEvidence(first.decl.id, names),
          });
        }
      },
    },
  ],
});

/** Assets that contain each other in circles, in order, and the addresses at which that stops. Cost: the placements. */
function loops({ index, x }: AnalysisInputs): { members: AssetIndex[]; where: string[] }[] {
  const { assets } = index;
  const first = new Int32Array(assets.length + 1);
  const heads = new IntList();
  for (const { at, placed } of assets) {
    for (const to of new Set(placed)) if (to >= 0) heads.push(to);
    first[at + 1] = heads.length;
  }
  const head = heads.toArray();
  const meta = new Uint8Array(head.length);
  const { of, count } = stronglyConnected({
    nodes: assets.length,
    first,
    end: first.subarray(1),
    head,
    meta,
  });
  const members = Array.from({ length: count }, (): AssetIndex[] => []);
  for (const asset of assets) members[of[asset.at]].push(asset);
  const where = new Map<number, string[]>();
  for (const { parent, placement } of x.stopped) {
    const { placed, placements } = x.assetOf(parent);
    const component = of[placed[placement]];
    const addresses = where.get(component) ?? [];
    addresses.push(below(x, parent, placements[placement].id));
    where.set(component, addresses);
  }
  return members.flatMap((own, component) => {
    const isLoop = own.length > 1 || own[0].placed.includes(own[0].at);
    return isLoop ? [{ members: own, where: where.get(component) ?? [] }] : [];
  });
}
