import type { Binding } from '../../project/types.js';
import { defineRule } from '../rule.js';

export const reachesOut = defineRule<'out'>({
  meta: {
    name: 'reaches-out',
    severity: 'warning',
    group: 'targets',
    what: 'A binding inside a prefab or widget names something in a scene.',
    why: 'Every copy reaches for the same thing, and the prefab cannot be used where that scene is not.',
    cure: 'Raise an event and let the scene bind to it, or go through a channel.',
  },
  messages: { out: '{binding} of {owner} reaches out to {path}' },
  check(ctx, report) {
    for (const { owner, at } of ctx.bindingsWhere('reaches-out', (b) => wayOut(b) !== null)) {
      if (owner.decl.kind === 'scene' || !ctx.isJudged(owner.at, at)) continue;
      const binding = owner.bindings[at];
      const subject = { asset: owner.decl.id, binding: binding.id };
      report({
        subject,
        occurrences: ctx.ownersOf(owner.at, at),
        message: 'out',
        data: { binding: binding.id, owner: owner.decl.id, path: wayOut(binding)! },
        evidence: () => ({ kind: 'bindings', bindings: [subject] }),
      });
    }
  },
});

/** A path of the binding that begins in a scene. */
function wayOut({ from, to }: Binding): string | null {
  if ('at' in from && from.at.includes(':')) return from.at;
  return 'at' in to && to.at.includes(':') ? to.at : null;
}
