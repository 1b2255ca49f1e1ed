import { MISSING } from '../expand/resolve.js';
import { judgeEnds } from '../graph/faults.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Binding, Field } from '../project/types.js';
import type { AuditGround } from './ground.js';

/** What the authored text of a binding leads to. */
export interface TextEnds {
  /** Whether both ends name something that is there. */
  resolved: () => boolean;
  /** What the event or the heard channel carries; null if that is not there. */
  payload: readonly Field[] | null;
  /** Parameters of the action, or fields of the channel published to; null if that is not there. */
  params: readonly Field[] | null;
  /** Whose properties arguments read. */
  reader: AssetIndex | null;
  receiver: AssetIndex | null;
}

/** Resolves a binding by its text alone, as rules on authored text do. */
export function textEnds(ctx: AuditGround, owner: AssetIndex, binding: Binding): TextEnds {
  const { index } = ctx;
  const { from, to } = binding;
  const path = (at: string): number => ctx.assetAtPath(owner.at, at);
  const sender = 'at' in from ? path(from.at) : MISSING;
  const target =
    'at' in to ? path(to.at) : 'every' in to ? (index.assetAt.get(to.every) ?? MISSING) : MISSING;
  const senderAsset = sender >= 0 ? index.assets[sender] : null;
  const receiver = target >= 0 ? index.assets[target] : null;
  const channel = (name: string): readonly Field[] | null => {
    const at = index.channelAt.get(name);
    return at === undefined ? null : (index.project.channels![at].payload ?? []);
  };
  const event =
    'event' in from && senderAsset
      ? senderAsset.events[senderAsset.eventAt.get(from.event) ?? -1]
      : undefined;
  const action =
    !('channel' in to) && receiver ? receiver.actions[receiver.actionAt.get(to.action) ?? -1] : undefined;
  return {
    resolved: () => judgeEnds(index, owner, binding, sender, target) === 0,
    payload: 'channel' in from ? channel(from.channel) : event ? (event.payload ?? []) : null,
    params: 'channel' in to ? channel(to.channel) : action ? (action.params ?? []) : null,
    reader: 'channel' in from ? owner : senderAsset,
    receiver,
  };
}
