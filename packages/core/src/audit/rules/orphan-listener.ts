import { ANY_KEY, HEARING_STRIDE, NO_KEY, type Graph } from '../../graph/graph.js';
import { nodesEvidence } from '../evidence.js';
import type { AnalysisInputs } from '../inputs.js';
import { nodeRef } from '../names.js';
import { defineRule, type TakeReport } from '../rule.js';
import type { BindingUnit } from '../units.js';

type Message = 'action' | 'silent' | 'key';

export const orphanListener = defineRule<Message>({
  meta: {
    name: 'orphan-listener',
    severity: 'warning',
    classes: { action: 'warning', channel: 'warning' },
    group: 'listeners',
    what: 'An action or a listener expects to be triggered, and nothing triggers it.',
    why: 'A receiver was placed but never wired, or its sender is gone.',
    fix: 'Wire a sender to it, publish to its channel, or remove the listener.',
  },
  messages: {
    action: '{at} expects a sender for {action}, but none is wired',
    silent: '{who} listens on #{channel}, but nothing publishes there',
    key: '{who} listens on #{channel} at {key}, but nothing publishes at that key',
  },
  parts: [
    {
      unit: 'action',
      after: ['drivers', 'expectations'],
      isCandidate: (inputs, node) => !inputs.isBoundAnyway(node),
      check(inputs, { node, instance, asset, action }, report) {
        if (action.expectsSender !== true) return;
        report({
          class: 'action',
          subject: { asset: asset.decl.id, action: action.name },
          occurrences: [instance],
          message: 'action',
          data: () => ({ at: inputs.x.address(instance), action: action.name }),
          evidence: () => nodesEvidence(inputs.g, [node]),
        });
      },
    },
    {
      unit: 'binding',
      after: ['channel use'],
      concerns: ({ from }) => 'channel' in from,
      check: checkListener,
    },
  ],
});

/** A listener without key hears everything published on its channel, one with a key only what is equal. */
function checkListener(
  { g, index }: AnalysisInputs,
  { records, subject }: BindingUnit,
  report: TakeReport<Message>,
): void {
  const hearings = records?.hearings ?? [];
  for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
    const [owner, channel, key, node] = hearings.slice(h, h + 4);
    if (node < 0) continue;
    const any = g.published.any(channel);
    if (any && (key === NO_KEY || g.published.has(channel, key) || g.published.has(channel, ANY_KEY)))
      continue;
    report({
      class: 'channel',
      subject,
      occurrences: [owner],
      message: any ? 'key' : 'silent',
      data: () => ({
        who: nodeText(g, node),
        channel: index.project.channels![channel].name,
        key: key >= 0 ? JSON.stringify(g.values.value(key)) : '',
      }),
      evidence: () => nodesEvidence(g, [node]),
    });
  }
}

function nodeText(g: Graph, node: number): string {
  const ref = nodeRef(g, node);
  return `${ref.at ?? `#${ref.name}`} (${ref.name})`;
}
