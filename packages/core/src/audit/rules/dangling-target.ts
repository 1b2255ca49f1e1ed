import { isLiteral } from '../../project/value.js';
import { Fault } from '../../graph/faults.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { SelectionTarget } from '../../project/types.js';
import type { AuditContext } from '../context.js';
import { assetAtEnd, knownNames, lacking, placementNames, type EndFault } from '../dangling-ends.js';
import { defineRule, type Report } from '../rule.js';

type Message = 'placement' | 'action' | 'asset' | 'channel' | 'property';

export const danglingTarget = defineRule<Message>({
  meta: {
    name: 'dangling-target',
    severity: 'error',
    classes: { placement: 'error', action: 'error', asset: 'error', channel: 'error', property: 'error' },
    group: 'targets',
    what: 'A binding names a receiver, action, asset, channel or property that does not exist.',
    why: 'Nothing happens when its event is raised, without any error.',
    cure: 'Correct the name, or remove the binding.',
  },
  messages: {
    placement: 'When {when}: "{path}" is not in {owner}, so {action} is never performed',
    action: 'When {when}: {receiver} is a {asset}, which has no action "{action}"',
    asset: 'When {when}: no scene, prefab or widget is called "{asset}"',
    channel: 'When {when}: publishes to "{channel}", but no such channel is declared',
    property: 'When {when}: the key reads "{property}", which {asset} does not have',
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
        data: { ...found.data, when: whenText(fault), owner: owner.decl.id },
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
  const { to, from } = fault.binding;
  switch (fault.fault) {
    case Fault.ToPlacement: {
      if (!('at' in to)) return null;
      const data = { path: to.at, action: to.action };
      return { message: 'placement', data, wanted: to.at, known: placementNames(fault.owner) };
    }
    case Fault.ToAction: {
      if ('channel' in to) return null;
      const at = 'every' in to ? index.assetAt.get(to.every) : assetAtEnd(ctx, fault, to.at)?.at;
      const asset = at === undefined ? null : index.assets[at];
      const receiver = 'every' in to ? `every ${to.every}` : to.at === '.' ? fault.owner.decl.id : to.at;
      return {
        message: 'action',
        data: { receiver, asset: asset ? asset.decl.id : 'thing', action: to.action },
        wanted: to.action,
        known: knownNames(asset ? asset.actionAt.keys() : []),
      };
    }
    case Fault.ToAsset: {
      if (!('every' in to)) return null;
      const known = knownNames(index.assetAt.keys());
      return { message: 'asset', data: { asset: to.every }, wanted: to.every, known };
    }
    case Fault.ToChannel: {
      if (!('channel' in to)) return null;
      const known = knownNames(index.channelAt.keys());
      return { message: 'channel', data: { channel: to.channel }, wanted: to.channel, known };
    }
    case Fault.ToProperty: {
      const reader = 'channel' in from ? fault.owner : assetAtEnd(ctx, fault, from.at);
      const selected = 'every' in to ? index.assets[index.assetAt.get(to.every)!] : null;
      const missing = [
        ...('every' in to ? missingInMatch(to, selected) : []),
        ...keysRead(to).map((p) => lacking(p, [reader])),
      ].find((m) => m !== null);
      if (!missing) return null;
      return {
        message: 'property',
        data: { property: missing.property, asset: missing.asset.decl.id },
        wanted: missing.property,
        known: knownNames(missing.asset.propertyAt.keys()),
      };
    }
    default:
      return null;
  }
}

function missingInMatch(to: SelectionTarget, selected: AssetIndex | null): ReturnType<typeof lacking>[] {
  return to.match === undefined || to.match === 'all' ? [] : [lacking(to.match.property, [selected])];
}
/** Properties that the `to` side reads from the sender (or the owner). */
function keysRead(to: EndFault['binding']['to']): string[] {
  if ('channel' in to) return to.key !== undefined && !isLiteral(to.key) ? [to.key.property] : [];
  if (!('every' in to) || to.match === undefined || to.match === 'all') return [];
  return isLiteral(to.match.equals) ? [] : [to.match.equals.property];
}

function whenText({ binding: { from }, owner }: EndFault): string {
  if ('channel' in from) return `#${from.channel} is heard`;
  return `${from.at === '.' ? owner.decl.id : from.at} raises ${from.event}`;
}
