import { SELECTION_STRIDE } from '../../graph/graph.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const emptySelection = defineRule<'empty'>({
  meta: {
    name: 'empty-selection',
    severity: 'warning',
    group: 'targets',
    what: 'A binding to every instance of an asset selects none.',
    why: 'Nothing happens when its event is raised.',
    fix: 'Place one, widen the selection, or correct its match.',
  },
  messages: { empty: '"{binding}" in {owner} selects no {asset} in any copy' },
  parts: [
    {
      unit: 'binding',
      concerns: ({ to }) => 'every' in to,
      check(_, { binding, owner, records, subject }, report) {
        const selections = records?.selections ?? [];
        if (!('every' in binding.to) || selections.length === 0) return;
        const owners: number[] = [];
        for (let s = 0; s < selections.length; s += SELECTION_STRIDE) {
          if (selections[s + 1] > 0) return;
          owners.push(selections[s]);
        }
        const { every } = binding.to;
        report({
          subject,
          occurrences: owners,
          message: 'empty',
          data: () => ({ binding: bindingWords(binding), owner: owner.decl.id, asset: every }),
          evidence: () => bindingsEvidence([subject]),
        });
      },
    },
  ],
});
