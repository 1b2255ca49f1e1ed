import { SELECTION_STRIDE } from '../../graph/graph.js';
import { authoredBindings } from '../by-binding.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const firstOfMany = defineRule<'first'>({
  meta: {
    name: 'first-of-many',
    severity: 'warning',
    group: 'correctness',
    what: 'A binding picks the first of several receivers.',
    why: 'Which one is first depends on the order of placements, which is easily changed by accident.',
    cure: 'Match a key, or name the intended receiver.',
  },
  messages: { first: '"{binding}" in {owner} picks the first of several {asset}' },
  check(ctx, report) {
    const { selections } = ctx.g;
    for (const b of authoredBindings(ctx.x, selections, SELECTION_STRIDE)) {
      const { to } = b.binding;
      if (!('every' in to) || to.pick !== 'first') continue;
      const several = b.records.filter((r) => selections[r + 1] >= 2);
      if (several.length === 0) continue;
      report({
        subject: b.subject,
        occurrences: several.map((r) => ctx.x.ownerOf(selections[r])),
        message: 'first',
        data: { binding: bindingWords(b.binding), owner: b.owner.decl.id, asset: to.every },
        evidence: () => ({ kind: 'bindings', bindings: [b.subject] }),
      });
    }
  },
});
