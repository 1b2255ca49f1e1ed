import { SELECTION_STRIDE } from '../../graph/graph.js';
import { authoredBindings } from '../by-binding.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const emptySelection = defineRule<'empty'>({
  meta: {
    name: 'empty-selection',
    severity: 'warning',
    group: 'targets',
    what: 'A binding to every instance of an asset selects none.',
    why: 'Nothing happens when its event is raised.',
    cure: 'Place one, widen the selection, or correct its match.',
  },
  messages: { empty: '"{binding}" in {owner} selects no {asset} in any copy' },
  check(ctx, report) {
    const { selections } = ctx.g;
    for (const b of authoredBindings(ctx.x, selections, SELECTION_STRIDE)) {
      if (b.records.some((r) => selections[r + 1] > 0) || !('every' in b.binding.to)) continue;
      const { every } = b.binding.to;
      report({
        subject: b.subject,
        occurrences: b.records.map((r) => ctx.x.ownerOf(selections[r])),
        message: 'empty',
        data: { binding: bindingWords(b.binding), owner: b.owner.decl.id, asset: every },
        evidence: () => ({ kind: 'bindings', bindings: [b.subject] }),
      });
    }
  },
});
