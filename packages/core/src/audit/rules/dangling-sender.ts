import { Fault } from '../../graph/faults.js';
import { isLiteral } from '../../project/value.js';
import type { AuditContext } from '../context.js';
import { assetAtEnd, knownNames, placementNames, type EndFault } from '../dangling-ends.js';
import { defineRule, type Report } from '../rule.js';

type Message = 'placement' | 'event' | 'channel' | 'property';

export const danglingSender = defineRule<Message>({
  meta: {
    name: 'dangling-sender',
    severity: 'error',
    classes: { placement: 'error', event: 'error', channel: 'error', property: 'error' },
    group: 'targets',
    what: 'A binding names a sender, event, channel or property that does not exist.',
    why: 'Its receiver is never triggered, without any error.',
    cure: 'Correct the name, or remove the binding.',
  },
  messages: {
    placement: '"{path}" is not in {owner}, so {event} is never raised and {what} never runs',
    event: '{sender} is a {asset}, which has no event "{event}", so {what} never runs',
    channel: 'No channel is called "{channel}", so {what} never runs',
    property: '{what} on #{channel} uses the key "{property}", which {asset} does not have',
  },
  check(ctx, report) {
    for (const fault of ctx.endFaults) {
      const found = describe(ctx, fault);
      if (!found) continue;
      const { owner, binding } = fault;
      report({
        subject: { asset: owner.decl.id, binding: binding.id },
        occurrences: fault.owners,
        class: found.message,
        message: found.message,
        data: { ...found.data, what: whatText(fault), owner: owner.decl.id },
        evidence: () => ({ kind: 'names', wanted: found.wanted, known: found.known }),
      });
    }
  },
});

interface Found {
  message: Message;
  data: Report<Message>['data'];
  wanted: string;
  known: string[];
}

function describe(ctx: AuditContext, fault: EndFault): Found | null {
  const { index } = ctx;
  const { from, to } = fault.binding;
  switch (fault.fault) {
    case Fault.FromPlacement: {
      if (!('at' in from)) return null;
      const data = { path: from.at, event: from.event };
      return { message: 'placement', data, wanted: from.at, known: placementNames(fault.owner) };
    }
    case Fault.FromEvent: {
      if (!('at' in from)) return null;
      const asset = assetAtEnd(ctx, fault, from.at);
      return {
        message: 'event',
        data: {
          sender: from.at === '.' ? fault.owner.decl.id : from.at,
          asset: asset ? asset.decl.id : 'thing',
          event: from.event,
        },
        wanted: from.event,
        known: knownNames(asset ? asset.eventAt.keys() : []),
      };
    }
    case Fault.FromChannel: {
      if (!('channel' in from)) return null;
      const known = knownNames(index.channelAt.keys());
      return { message: 'channel', data: { channel: from.channel }, wanted: from.channel, known };
    }
    case Fault.FromProperty: {
      if (!('channel' in from) || from.key === undefined || isLiteral(from.key) || 'channel' in to)
        return null;
      const at = 'every' in to ? index.assetAt.get(to.every) : assetAtEnd(ctx, fault, to.at)?.at;
      const asset = at === undefined ? null : index.assets[at];
      const { property } = from.key;
      return {
        message: 'property',
        data: { channel: from.channel, property, asset: asset ? asset.decl.id : 'the listener' },
        wanted: property,
        known: knownNames(asset ? asset.propertyAt.keys() : []),
      };
    }
    default:
      return null;
  }
}

function whatText({ binding: { to }, owner }: EndFault): string {
  if ('channel' in to) return `publishing to #${to.channel}`;
  if ('every' in to) return `every ${to.every} ${to.action}`;
  return `${to.at === '.' ? owner.decl.id : to.at} ${to.action}`;
}
