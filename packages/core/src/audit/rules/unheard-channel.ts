import { ANY_KEY, NO_KEY, PUBLICATION_STRIDE, type Graph } from '../../graph/graph.js';
import { bindingWords } from '../../wireline/binding-words.js';
import { bindingsEvidence } from '../evidence.js';
import { defineRule } from '../rule.js';

export const unheardChannel = defineRule<'channel' | 'key'>({
  meta: {
    name: 'unheard-channel',
    severity: 'warning',
    classes: { channel: 'warning', key: 'warning' },
    group: 'listeners',
    what: 'A channel is published to, and nothing listens.',
    why: 'Its listeners are gone, or listen at another key.',
    fix: 'Add a listener, correct the key, or stop publishing.',
  },
  messages: {
    channel: '#{channel} is published to, but nothing listens',
    key: '"{binding}" publishes to #{channel} {key}, but nothing listens there',
  },
  parts: [
    {
      unit: 'channel',
      after: ['use'],
      check({ g }, { number, channel: { name } }, report) {
        if (!g.published.any(number) || g.heard.any(number)) return;
        report({
          class: 'channel',
          subject: { channel: name },
          occurrences: [],
          message: 'channel',
          data: () => ({ channel: name }),
          evidence: () => ({ kind: 'nodes', nodes: [{ type: 'channel', name }], more: 0 }),
        });
      },
    },
    {
      unit: 'binding',
      after: ['channel use'],
      concerns: ({ to }) => 'channel' in to,
      check({ g }, { binding, records, subject }, report) {
        const publications = records?.publications ?? [];
        for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
          const [owner, channel, key, resolved] = publications.slice(p, p + 4);
          // One with a missing end has its own finding; so has a channel that nobody hears.
          if (resolved === 0 || !g.heard.any(channel) || isHeard(g, channel, key)) continue;
          report({
            class: 'key',
            subject,
            occurrences: [owner],
            message: 'key',
            data: () => ({
              binding: bindingWords(binding),
              channel: g.x.index.project.channels![channel].name,
              key: key >= 0 ? `at ${JSON.stringify(g.values.value(key))}` : 'without key',
            }),
            evidence: () => bindingsEvidence([subject]),
          });
        }
      },
    },
  ],
});

/** Whether anyone hears what is published at a key. One that is read from a missing end counts as any. */
function isHeard({ heard }: Graph, channel: number, key: number): boolean {
  if (key === ANY_KEY || heard.has(channel, NO_KEY) || heard.has(channel, ANY_KEY)) return true;
  return key !== NO_KEY && heard.has(channel, key);
}
