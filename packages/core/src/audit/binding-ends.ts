import { MISSING } from '../expand/resolve.js';
import { judgeEnds } from '../graph/faults.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Field } from '../project/types.js';

/** What the authored text of a binding leads to. */
export interface BindingEnds {
  /** The assets that the paths of both ends lead to, or that are selected; negative for none. */
  readonly sender: number;
  readonly target: number;
  /** Bits of `Fault`; 0 if both ends name something that is there. */
  readonly faults: number;
  /** What the event or the heard channel carries; null if that is not there. */
  readonly payload: readonly Field[] | null;
  /** Parameters of the action, or fields of the channel published to; null if that is not there. */
  readonly params: readonly Field[] | null;
  /** Whose properties arguments read. */
  readonly reader: AssetIndex | null;
  readonly receiver: AssetIndex | null;
}

const NO_FIELDS: readonly Field[] = [];

/** A project in which paths are resolved by their text. */
export interface TextResolver {
  readonly index: ProjectIndex;
  /** The asset that a path of an owner names; negative if none. */
  assetAtPath: (owner: number, path: string) => number;
}

/** Resolves a binding by its text alone, as rules on authored text do. Cost: its paths. */
export function bindingEnds(inputs: TextResolver, owner: AssetIndex, binding: Binding): BindingEnds {
  const { index } = inputs;
  const { from, to } = binding;
  const sender = 'at' in from ? inputs.assetAtPath(owner.at, from.at) : MISSING;
  const target =
    'at' in to
      ? inputs.assetAtPath(owner.at, to.at)
      : 'every' in to
        ? (index.assetAt.get(to.every) ?? MISSING)
        : MISSING;
  const senderAsset = sender >= 0 ? index.assets[sender] : null;
  const receiver = target >= 0 ? index.assets[target] : null;
  const faults = judgeEnds(index, owner, binding, sender, target);
  return {
    sender,
    target,
    faults,
    payload: 'channel' in from ? channelFields(inputs, from.channel) : eventFields(senderAsset, from.event),
    params: 'channel' in to ? channelFields(inputs, to.channel) : actionFields(receiver, to.action),
    reader: 'channel' in from ? owner : senderAsset,
    receiver,
  };
}

function channelFields({ index }: TextResolver, name: string): readonly Field[] | null {
  const at = index.channelAt.get(name);
  return at === undefined ? null : (index.project.channels![at].payload ?? NO_FIELDS);
}
function eventFields(asset: AssetIndex | null, name: string): readonly Field[] | null {
  const event = asset?.events[asset.eventAt.get(name) ?? -1];
  return event ? (event.payload ?? NO_FIELDS) : null;
}
function actionFields(asset: AssetIndex | null, name: string): readonly Field[] | null {
  const action = asset?.actions[asset.actionAt.get(name) ?? -1];
  return action ? (action.params ?? NO_FIELDS) : null;
}
