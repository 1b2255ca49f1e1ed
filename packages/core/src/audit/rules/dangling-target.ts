import { isLiteral } from '../../project/value.js';
import { Fault } from '../../graph/faults.js';
import type { AssetIndex } from '../../project/index-project.js';
import type { Binding, SelectionTarget } from '../../project/types.js';
import type { AnalysisInputs } from '../inputs.js';
import { assetAtEnd, danglingEnd, lacking, type DanglingEnd } from '../dangling-ends.js';
import { defineRule } from '../rule.js';
import type { BindingUnit } from '../units.js';

type Message = 'placement' | 'action' | 'asset' | 'channel' | 'property';

export const danglingTarget = defineRule<Message>({
  meta: {
    name: 'dangling-target',
    severity: 'error',
    classes: { placement: 'error', action: 'error', asset: 'error', channel: 'error', property: 'error' },
    group: 'targets',
    what: 'A binding names a receiver, action, asset, channel or property that does not exist.',
    why: 'Nothing happens when its event is raised, without any error.',
    fix: 'Correct the name, or remove the binding.',
  },
  messages: {
    placement: 'When {when}: "{path}" is not in {owner}, so {action} is never performed',
    action: 'When {when}: {receiver} is a {asset}, which has no action "{action}"',
    asset: 'When {when}: no scene, prefab or widget is called "{asset}"',
    channel: 'When {when}: publishes to "{channel}", but no such channel is declared',
    property: 'When {when}: the key reads "{property}", which {asset} does not have',
  },
  parts: [danglingEnd(describe, (unit) => ({ when: whenText(unit) }))],
});

function describe(
  inputs: AnalysisInputs,
  { binding, owner }: BindingUnit,
  fault: number,
): DanglingEnd<Message> | null {
  const { index } = inputs;
  const { to, from } = binding;
  switch (fault) {
    case Fault.ToPlacement: {
      if (!('at' in to)) return null;
      const data = { path: to.at, action: to.action };
      return { message: 'placement', data, wanted: to.at, known: owner.placements.map((p) => p.id) };
    }
    case Fault.ToAction: {
      if ('channel' in to) return null;
      const at = 'every' in to ? index.assetAt.get(to.every) : assetAtEnd(inputs, owner, to.at)?.at;
      const asset = at === undefined ? null : index.assets[at];
      const receiver = 'every' in to ? `every ${to.every}` : to.at === '.' ? owner.decl.id : to.at;
      return {
        message: 'action',
        data: { receiver, asset: asset ? asset.decl.id : 'thing', action: to.action },
        wanted: to.action,
        known: asset ? asset.actionAt.keys() : [],
      };
    }
    case Fault.ToAsset: {
      if (!('every' in to)) return null;
      const known = index.assetAt.keys();
      return { message: 'asset', data: { asset: to.every }, wanted: to.every, known };
    }
    case Fault.ToChannel: {
      if (!('channel' in to)) return null;
      const known = index.channelAt.keys();
      return { message: 'channel', data: { channel: to.channel }, wanted: to.channel, known };
    }
    case Fault.ToProperty: {
      const reader = 'channel' in from ? owner : assetAtEnd(inputs, owner, from.at);
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
        known: missing.asset.propertyAt.keys(),
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
function keysRead(to: Binding['to']): string[] {
  if ('channel' in to) return to.key !== undefined && !isLiteral(to.key) ? [to.key.property] : [];
  if (!('every' in to) || to.match === undefined || to.match === 'all') return [];
  return isLiteral(to.match.equals) ? [] : [to.match.equals.property];
}

function whenText({ binding: { from }, owner }: BindingUnit): string {
  if ('channel' in from) return `#${from.channel} is heard`;
  return `${from.at === '.' ? owner.decl.id : from.at} raises ${from.event}`;
}
