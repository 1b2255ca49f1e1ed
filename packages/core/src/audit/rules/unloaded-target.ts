import { loadedTogether } from '../loaded-together.js';
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
        const { x } = inputs;
        const sets = loadedTogether(inputs);
        for (const { owner, sender, receiver } of inputs.resolvedCopies(asset, position)) {
          const from = x.assetOf(x.sceneOf(sender < 0 ? owner : sender));
          const to = x.assetOf(x.sceneOf(receiver));
          if (from === to || to.decl.persistent) continue;
          const alone = sets.without(to, from);
          const cls = !sets.hold(from, to) ? 'apart' : alone !== undefined ? 'sometimes' : null;
          if (!cls) continue;
          report({
            class: cls,
            subject,
            occurrences: [owner],
            message: cls,
            data: () => ({ from: from.decl.id, to: x.address(receiver), set: alone ?? '' }),
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
