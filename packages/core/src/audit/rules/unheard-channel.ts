import { expandedBinding, ANY_KEY, NO_KEY, PUBLICATION_STRIDE } from '../../graph/graph.js';
import { heardKeys } from '../channel-use.js';
import { bindingRef } from '../names.js';
import { defineRule } from '../rule.js';
import { bindingWords } from '../../wireline/binding-words.js';

export const unheardChannel = defineRule<'channel' | 'key'>({
  meta: {
    name: 'unheard-channel',
    severity: 'warning',
    classes: { channel: 'warning', key: 'warning' },
    group: 'listeners',
    what: 'A channel is published to, and nothing listens.',
    why: 'Its listeners are gone, or listen at another key.',
    cure: 'Add a listener, correct the key, or stop publishing.',
  },
  messages: {
    channel: '#{channel} is published to, but nothing listens',
    key: '"{binding}" publishes to #{channel} {key}, but nothing listens there',
  },
  check(ctx, report) {
    const { g, x } = ctx;
    const heard = heardKeys(g);
    const channels = ctx.index.project.channels ?? [];
    for (let p = 0; p < g.publications.length; p += PUBLICATION_STRIDE) {
      const [number, channel, key, resolved] = g.publications.subarray(p, p + 4);
      const { name } = channels[channel];
      const keys = heard.get(channel);
      const evidence = { kind: 'nodes' as const, nodes: [{ type: 'channel' as const, name }], more: 0 };
      if (!keys) {
        const data = { channel: name };
        const subject = { channel: name };
        const what = {
          subject,
          occurrences: [],
          message: 'channel' as const,
          data,
          evidence: () => evidence,
        };
        report({ class: 'channel', ...what });
        continue;
      }
      // One with a missing end has its own finding; a key that is read from there counts as any.
      const isHeard =
        key === ANY_KEY || keys.has(NO_KEY) || keys.has(ANY_KEY) || (key !== NO_KEY && keys.has(key));
      if (resolved === 0 || isHeard) continue;
      const subject = bindingRef(x, number);
      report({
        class: 'key',
        subject,
        occurrences: [x.ownerOf(number)],
        message: 'key',
        data: {
          binding: bindingWords(expandedBinding(x, number).binding),
          channel: name,
          key: key >= 0 ? `at ${JSON.stringify(g.values.value(key))}` : 'without key',
        },
        evidence: () => ({ kind: 'bindings', bindings: [subject] }),
      });
    }
  },
});
