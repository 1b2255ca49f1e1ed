import { actionNode, ANY_KEY, HEARING_STRIDE, NO_KEY, type Graph } from '../../graph/graph.js';
import { expandedBinding } from '../../graph/graph.js';
import { publishedKeys } from '../channel-use.js';
import type { AuditContext } from '../context.js';
import { bindingRef, nodeRef } from '../names.js';
import { defineRule, type Report } from '../rule.js';

type Message = 'action' | 'silent' | 'key';

export const orphanListener = defineRule<Message>({
  meta: {
    name: 'orphan-listener',
    severity: 'warning',
    classes: { action: 'warning', channel: 'warning' },
    group: 'listeners',
    what: 'An action or a listener expects to be triggered, and nothing triggers it.',
    why: 'A receiver was placed but never wired, or its sender is gone.',
    cure: 'Wire a sender to it, publish to its channel, or remove the listener.',
  },
  messages: {
    action: '{at} expects a sender for {action}, but none is wired',
    silent: '{who} listens on #{channel}, but nothing publishes there',
    key: '{who} listens on #{channel} at {key}, but nothing publishes at that key',
  },
  check(ctx, report) {
    checkActions(ctx, report);
    checkChannels(ctx, report);
  },
});

function checkActions(ctx: AuditContext, report: (r: Report<Message>) => void): void {
  const { x } = ctx;
  for (const asset of ctx.index.assets) {
    const expecting = [...asset.actions.keys()].filter((a) => asset.actions[a].expectsSender === true);
    for (const i of expecting.length > 0 ? ctx.instancesOf(asset.at) : []) {
      for (const a of expecting) {
        const action = asset.actions[a];
        if (ctx.isBoundAnyway(actionNode(x, i, a))) continue;
        report({
          class: 'action',
          subject: { asset: asset.decl.id, action: action.name },
          occurrences: [i],
          message: 'action',
          data: { at: x.address(i), action: action.name },
          evidence: () => ({ kind: 'nodes', nodes: [nodeRef(ctx.g, actionNode(x, i, a))], more: 0 }),
        });
      }
    }
  }
}

/** A listener without key hears everything published on its channel, one with a key only what is equal. */
function checkChannels(ctx: AuditContext, report: (r: Report<Message>) => void): void {
  const { g, x } = ctx;
  const published = publishedKeys(g);
  for (let h = 0; h < g.hearings.length; h += HEARING_STRIDE) {
    const [number, channel, key, node] = g.hearings.subarray(h, h + 4);
    if (node < 0) continue;
    const keys = published.get(channel);
    if (keys && (key === NO_KEY || keys.has(key) || keys.has(ANY_KEY))) continue;
    const { owner } = expandedBinding(x, number);
    report({
      class: 'channel',
      subject: bindingRef(x, number),
      occurrences: [owner],
      message: keys ? 'key' : 'silent',
      data: {
        who: nodeText(g, node),
        channel: ctx.index.project.channels![channel].name,
        key: key >= 0 ? JSON.stringify(g.values.value(key)) : '',
      },
      evidence: () => ({ kind: 'nodes', nodes: [nodeRef(g, node)], more: 0 }),
    });
  }
}

function nodeText(g: Graph, node: number): string {
  const ref = nodeRef(g, node);
  return `${ref.at ?? `#${ref.name}`} (${ref.name})`;
}
