import { Fault } from '../../graph/faults.js';
import { isLiteral } from '../../project/value.js';
import type { AnalysisInputs } from '../inputs.js';
import { assetAtEnd, danglingEnd, type DanglingEnd } from '../dangling-ends.js';
import { defineRule } from '../rule.js';
import type { BindingUnit } from '../units.js';

type Message = 'placement' | 'event' | 'channel' | 'property';

export const danglingSender = defineRule<Message>({
  meta: {
    name: 'dangling-sender',
    severity: 'error',
    classes: { placement: 'error', event: 'error', channel: 'error', property: 'error' },
    group: 'targets',
    what: 'A binding names a sender, event, channel or property that does not exist.',
    why: 'Its receiver is never triggered, without any error.',
    fix: 'Correct the name, or remove the binding.',
  },
  messages: {
    placement: '"{path}" is not in {owner}, so {event} is never raised and {what} never runs',
    event: '{sender} is a {asset}, which has no event "{event}", so {what} never runs',
    channel: 'No channel is called "{channel}", so {what} never runs',
    property: '{what} on #{channel} uses the key "{property}", which {asset} does not have',
  },
  parts: [danglingEnd(describe, (unit) => ({ what: whatText(unit) }))],
});

function describe(
  inputs: AnalysisInputs,
  { binding, owner }: BindingUnit,
  fault: number,
): DanglingEnd<Message> | null {
  const { index } = inputs;
  const { from, to } = binding;
  switch (fault) {
    case Fault.FromPlacement: {
      if (!('at' in from)) return null;
      const data = { path: from.at, event: from.event };
      return { message: 'placement', data, wanted: from.at, known: owner.placements.map((p) => p.id) };
    }
    case Fault.FromEvent: {
      if (!('at' in from)) return null;
      const asset = assetAtEnd(inputs, owner, from.at);
      return {
        message: 'event',
        data: {
          sender: from.at === '.' ? owner.decl.id : from.at,
          asset: asset ? asset.decl.id : 'thing',
          event: from.event,
        },
        wanted: from.event,
        known: asset ? asset.eventAt.keys() : [],
      };
    }
    case Fault.FromChannel: {
      if (!('channel' in from)) return null;
      const known = index.channelAt.keys();
      return { message: 'channel', data: { channel: from.channel }, wanted: from.channel, known };
    }
    case Fault.FromProperty: {
      if (!('channel' in from) || from.key === undefined || isLiteral(from.key) || 'channel' in to)
        return null;
      const at = 'every' in to ? index.assetAt.get(to.every) : assetAtEnd(inputs, owner, to.at)?.at;
      const asset = at === undefined ? null : index.assets[at];
      const { property } = from.key;
      return {
        message: 'property',
        data: { channel: from.channel, property, asset: asset ? asset.decl.id : 'the listener' },
        wanted: property,
        known: asset ? asset.propertyAt.keys() : [],
      };
    }
    default:
      return null;
  }
}

function whatText({ binding: { to }, owner }: BindingUnit): string {
  if ('channel' in to) return `publishing to #${to.channel}`;
  if ('every' in to) return `every ${to.every} ${to.action}`;
  return `${to.at === '.' ? owner.decl.id : to.at} ${to.action}`;
}
