import { heardKeys, publishedKeys } from '../channel-use.js';
import { defineRule } from '../rule.js';

export const unusedChannel = defineRule<'unused'>({
  meta: {
    name: 'unused-channel',
    severity: 'info',
    group: 'listeners',
    what: 'A channel has neither publisher nor listener.',
    why: 'The name has no meaning yet, or no longer.',
    cure: 'Use it, or remove it.',
  },
  messages: { unused: '#{channel} has neither publisher nor listener' },
  check(ctx, report) {
    const [published, heard] = [publishedKeys(ctx.g), heardKeys(ctx.g)];
    (ctx.index.project.channels ?? []).forEach(({ name }, at) => {
      if (published.has(at) || heard.has(at)) return;
      report({
        subject: { channel: name },
        occurrences: [],
        message: 'unused',
        data: { channel: name },
        evidence: () => ({ kind: 'nodes', nodes: [{ type: 'channel', name }], more: 0 }),
      });
    });
  },
});
