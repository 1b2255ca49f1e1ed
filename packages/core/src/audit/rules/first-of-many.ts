import { SELECTION_STRIDE } from '../../graph/graph.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const firstOfMany = defineRule<'first'>({
  meta: {
    name: 'first-of-many',
    severity: 'warning',
    group: 'correctness',
    what: 'A binding picks the first of several receivers.',
    why: 'Which one is first depends on the order of placements, which is easily changed by accident.',
    fix: 'Match a key, or name the intended receiver.',
  },
  messages: { first: '"{binding}" in {owner} picks the first of several {asset}' },
  parts: [
    {
      unit: 'binding',
      concerns: ({ to }) => 'every' in to && to.pick === 'first',
      check(_, { binding, owner, records, subject }, report) {
        if (!('every' in binding.to)) return;
        const selections = records?.selections ?? [];
        const owners: number[] = [];
        for (let s = 0; s < selections.length; s += SELECTION_STRIDE) {
          if (selections[s + 1] >= 2) owners.push(selections[s]);
        }
        if (owners.length === 0) return;
        const { every } = binding.to;
        report({
          subject,
          occurrences: owners,
          message: 'first',
          data: () => ({ binding: bindingWords(binding), owner: owner.decl.id, asset: every }),
          evidence: () => bindingsEvidence([subject]),
        });
      },
    },
  ],
});
