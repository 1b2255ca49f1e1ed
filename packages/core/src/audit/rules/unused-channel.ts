import { heardKeys, publishedKeys } from '../channel-use.js';
import { defineRule } from '../rule.js';

export const unusedChannel = defineRule<'unused'>({
  meta: {
    name: 'unused-channel',
    severity: 'info',
    group: 'listeners',
    what: 'A channel with neither publisher nor listener.',
    why: 'It is a name that means nothing yet, or no longer.',
    cure: 'Use it, or take it away.',
  },
  messages: { unused: 'Nobody publishes to #{channel} and nobody listens' },
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
