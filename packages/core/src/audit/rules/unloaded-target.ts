import type { AssetIndex } from '../../project/index-project.js';
import type { LoadSet } from '../../project/types.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const unloadedTarget = defineRule<'apart' | 'sometimes'>({
  meta: {
    name: 'unloaded-target',
    severity: 'error',
    classes: { apart: 'error', sometimes: 'warning' },
    group: 'targets',
    what: 'A binding reaches into another scene that is not loaded with the sender’s.',
    why: 'While that scene is not loaded, nothing happens, without any error.',
    fix: 'Load the scenes together, make the receiver’s scene persistent, or use a channel.',
  },
  messages: {
    apart: '{from} triggers {to}, but no load set holds both scenes',
    sometimes: '{from} triggers {to}, which is not loaded in {set}',
  },
  parts: [
    {
      unit: 'binding',
      applies: ({ index }) => (index.project.loadSets ?? []).length > 0,
      concerns: ({ from, to }) => 'at' in to && (isAbsolute(to.at) || ('at' in from && isAbsolute(from.at))),
      check(inputs, { owner: asset, position, subject }, report) {
        const { x, index } = inputs;
        const sets = index.project.loadSets ?? [];
        for (const { owner, sender, receiver } of inputs.resolvedCopies(asset, position)) {
          const from = x.assetOf(x.sceneOf(sender < 0 ? owner : sender));
          const to = x.assetOf(x.sceneOf(receiver));
          if (from === to || to.decl.persistent) continue;
          const holds = (set: LoadSet, scene: AssetIndex): boolean =>
            scene.decl.persistent === true || set.scenes.includes(scene.decl.id);
          const together = sets.some((s) => holds(s, from) && holds(s, to));
          const alone = sets.find((s) => holds(s, from) && !holds(s, to));
          const cls = !together ? 'apart' : alone ? 'sometimes' : null;
          if (!cls) continue;
          report({
            class: cls,
            subject,
            occurrences: [owner],
            message: cls,
            data: () => ({ from: from.decl.id, to: x.address(receiver), set: alone?.name ?? '' }),
            evidence: () => bindingsEvidence([subject]),
          });
        }
      },
    },
  ],
});

/** Whether a path begins in a scene. */
function isAbsolute(path: string): boolean {
  return path.includes(':');
}
