import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import type { Evidence } from '../finding.js';
import { BINDING_TRAITS } from '../binding-traits.js';
import type { AnalysisInputs } from '../inputs.js';
import { ownerText } from '../names.js';
import { defineRule } from '../rule.js';

export const leakyBinding = defineRule<'outlives' | 'destroyed'>({
  meta: {
    name: 'leaky-binding',
    severity: 'warning',
    classes: { outlives: 'warning', destroyed: 'warning' },
    group: 'correctness',
    what: 'A binding made in code is never released, although its owner ends before its sender.',
    why: 'The next raise calls an object that is gone: an error, or worse.',
    fix: 'Release it when its owner ends.',
  },
  messages: {
    outlives: '"{binding}" in {owner} is never released, and its sender outlives the scene',
    destroyed: '"{binding}" in {owner} is never released, and {who} can be destroyed',
  },
  parts: [
    {
      unit: 'binding',
      concerns: BINDING_TRAITS['release nothing'],
      check(inputs, { binding, owner: asset, position, subject }, report) {
        const { x } = inputs;
        const persistent = (i: number): boolean => x.assetOf(x.sceneOf(i)).decl.persistent === true;
        const evidence = (): Evidence => bindingsEvidence([subject]);
        for (const { owner, sender } of inputs.resolvedCopies(asset, position)) {
          const data = (who: string): Record<string, string> => ({
            binding: bindingWords(binding),
            owner: ownerText(x, owner),
            who,
          });
          if (!persistent(owner) && (sender < 0 || persistent(sender))) {
            report({
              class: 'outlives',
              subject,
              occurrences: [owner],
              message: 'outlives',
              data: () => data(''),
              evidence,
            });
          }
          const who = destroyedAround(inputs, owner, sender);
          if (who < 0) continue;
          report({
            class: 'destroyed',
            subject,
            occurrences: [owner],
            message: 'destroyed',
            data: () => data(x.address(who)),
            evidence,
          });
        }
      },
    },
  ],
});

/** The innermost thing around an owner that can be destroyed while its sender stays; −1 if there is none. */
function destroyedAround({ x }: AnalysisInputs, owner: number, sender: number): number {
  for (let at = owner; at >= 0; at = x.containerOf(at)) {
    const destroys = x.assetOf(at).effects.some(({ effect }) => 'destroy' in effect);
    if (destroys && !(sender >= 0 && x.contains(at, sender))) return at;
  }
  return -1;
}
