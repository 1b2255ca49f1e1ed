import type { Binding } from '../../project/types.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const reachesOut = defineRule<'out'>({
  meta: {
    name: 'reaches-out',
    severity: 'warning',
    group: 'targets',
    what: 'A binding inside a prefab or widget names something in a scene.',
    why: 'Every copy uses the same receiver, and the prefab cannot be used without that scene.',
    cure: 'Raise an event and let the scene bind to it, or go through a channel.',
  },
  messages: { out: '"{binding}" in {owner} reaches out to {path}' },
  check(ctx, report) {
    for (const { owner, at } of ctx.bindingsWhere('reaches-out', (b) => wayOut(b) !== null)) {
      if (owner.decl.kind === 'scene' || !ctx.isJudged(owner.at, at)) continue;
      const binding = owner.bindings[at];
      const subject = { asset: owner.decl.id, binding: binding.id };
      report({
        subject,
        occurrences: ctx.ownersOf(owner.at, at),
        message: 'out',
        data: { binding: bindingWords(binding), owner: owner.decl.id, path: wayOut(binding)! },
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
