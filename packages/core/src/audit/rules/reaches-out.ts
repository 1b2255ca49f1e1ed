import type { Binding } from '../../project/types.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const reachesOut = defineRule<'out'>({
  meta: {
    name: 'reaches-out',
    severity: 'warning',
    group: 'targets',
    what: 'A binding inside a prefab or widget names something in a scene.',
    why: 'Every copy uses the same receiver, and the prefab cannot be used without that scene.',
    fix: 'Raise an event and let the scene bind to it, or go through a channel.',
  },
  messages: { out: '"{binding}" in {owner} reaches out to {path}' },
  parts: [
    {
      unit: 'binding',
      concerns: (binding) => wayOut(binding) !== null,
      check(inputs, { binding, owner, position, subject }, report) {
        if (owner.decl.kind === 'scene') return;
        report({
          subject,
          occurrences: inputs.ownersOf(owner.at, position),
          message: 'out',
          data: () => ({ binding: bindingWords(binding), owner: owner.decl.id, path: wayOut(binding)! }),
          evidence: () => bindingsEvidence([subject]),
        });
      },
    },
  ],
});

/** A path of the binding that begins in a scene. */
function wayOut({ from, to }: Binding): string | null {
  if ('at' in from && from.at.includes(':')) return from.at;
  return 'at' in to && to.at.includes(':') ? to.at : null;
}
