import { defaultedKeys } from '../defaulted-keys.js';
import { placesEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const defaultKey = defineRule<'default'>({
  meta: {
    name: 'default-key',
    severity: 'warning',
    group: 'correctness',
    what: 'Several copies keep the default key, while others have their own.',
    why: 'What is meant for one copy reaches all copies with the default key.',
    fix: 'Give each copy its own key.',
  },
  messages: { default: '{count} copies of {asset} keep the default {property}, while others have their own' },
  parts: [
    {
      unit: 'copies',
      check(inputs, asset, report) {
        const { id } = asset.decl;
        for (const { property, instances } of defaultedKeys(inputs.ownKeys, asset)) {
          report({
            subject: { asset: id, property },
            occurrences: instances,
            message: 'default',
            data: () => ({ count: instances.length, asset: id, property }),
            evidence: () => placesEvidence(inputs.x, instances, `keeps the default ${property}`),
          });
        }
      },
    },
  ],
});
