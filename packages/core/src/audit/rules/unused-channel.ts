import { defineRule } from '../rule.js';

export const unusedChannel = defineRule<'unused'>({
  meta: {
    name: 'unused-channel',
    severity: 'info',
    group: 'listeners',
    what: 'A channel has neither publisher nor listener.',
    why: 'The name has no meaning yet, or no longer.',
    fix: 'Use it, or remove it.',
  },
  messages: { unused: '#{channel} has neither publisher nor listener' },
  parts: [
    {
      unit: 'channel',
      after: ['use'],
      check({ g }, { number, channel: { name } }, report) {
        if (g.published.any(number) || g.heard.any(number)) return;
        report({
          subject: { channel: name },
          occurrences: [],
          message: 'unused',
          data: () => ({ channel: name }),
          evidence: () => ({ kind: 'nodes', nodes: [{ type: 'channel', name }], more: 0 }),
        });
      },
    },
  ],
});
