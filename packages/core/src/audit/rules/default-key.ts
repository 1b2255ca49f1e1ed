import { placesEvidence } from '../places.js';
import { defineRule } from '../rule.js';

export const defaultKey = defineRule<'default'>({
  meta: {
    name: 'default-key',
    severity: 'warning',
    group: 'correctness',
    ignoresBindings: true,
    what: 'Several copies keep the default key, while others have their own.',
    why: 'What is meant for one copy reaches all copies with the default key.',
    cure: 'Give each copy its own key.',
  },
  messages: { default: '{count} copies of {asset} keep the default {property}, while others have their own' },
  check(ctx, report) {
    for (const { asset, property, instances } of ctx.defaultedKeys) {
      const { id } = ctx.index.assets[asset].decl;
      report({
        subject: { asset: id, property },
        occurrences: instances,
        message: 'default',
        data: { count: instances.length, asset: id, property },
        evidence: () => placesEvidence(ctx.x, instances, `keeps the default ${property}`),
      });
    }
  },
});
