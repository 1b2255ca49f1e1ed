import { SELECTION_STRIDE } from '../../graph/graph.js';
import { authoredBindings } from '../by-binding.js';
import { defineRule } from '../rule.js';

export const firstOfMany = defineRule<'first'>({
  meta: {
    name: 'first-of-many',
    severity: 'warning',
    group: 'correctness',
    what: 'A binding picks the first of several.',
    why: 'Which one is first is a matter of order in a list that nobody looks at.',
    cure: 'Match a key, or name the one that is meant.',
  },
  messages: { first: '{binding} of {owner} picks the first of several {asset}' },
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
        data: { binding: b.binding.id, owner: b.owner.decl.id, asset: to.every },
        evidence: () => ({ kind: 'bindings', bindings: [b.subject] }),
      });
    }
  },
});
