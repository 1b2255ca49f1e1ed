import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Field } from '../project/types.js';
import { assetAtPath } from './wiring.js';

/** What the ends of a binding, or of the beginning of one, name by their text. Null for what is not there. */
export interface BindingEnds {
  readonly sender: AssetIndex | null;
  readonly receiver: AssetIndex | null;
  /** What the event or the heard channel carries. */
  readonly payload: readonly Field[] | null;
  /** Parameters of the action, or fields of the channel published to. */
  readonly params: readonly Field[] | null;
  /** Whose properties arguments and conditions read. */
  readonly reader: AssetIndex | null;
  /** Whose properties a key reads: the sender's, or where a channel is heard the listener's. */
  readonly keyReader: AssetIndex | null;
}
/** A binding, or as much of one as is known. */
type Begun = Partial<Pick<Binding, 'from' | 'to'>>;

const known = new WeakMap<ProjectIndex, WeakMap<AssetIndex, WeakMap<object, BindingEnds>>>();

/** Resolves a binding by its text, once for each state of a project. Cost: its paths at first, then a look-up. */
export function bindingEnds(index: ProjectIndex, owner: AssetIndex, binding: Begun): BindingEnds {
  let owners = known.get(index);
  if (!owners) known.set(index, (owners = new WeakMap<AssetIndex, WeakMap<object, BindingEnds>>()));
  let bindings = owners.get(owner);
  if (!bindings) owners.set(owner, (bindings = new WeakMap<object, BindingEnds>()));
  let ends = bindings.get(binding);
  if (!ends) bindings.set(binding, (ends = resolved(index, owner, binding)));
  return ends;
}
function resolved(index: ProjectIndex, owner: AssetIndex, { from, to }: Begun): BindingEnds {
  const sender = from && 'at' in from ? assetAtPath(index, owner, from.at) : null;
  const receiver =
    to && 'at' in to
      ? assetAtPath(index, owner, to.at)
      : to && 'every' in to
        ? (index.assets[index.assetAt.get(to.every) ?? -1] ?? null)
        : null;
  return endsBetween(index, owner, { from, to }, sender, receiver);
}

/** The same for a binding whose ends lead to these assets. */
export function endsBetween(
  index: ProjectIndex,
  owner: AssetIndex,
  { from, to }: Begun,
  sender: AssetIndex | null,
  receiver: AssetIndex | null,
): BindingEnds {
  const hears = from !== undefined && 'channel' in from;
  return {
    sender,
    receiver,
    payload: !from ? null : hears ? channelFields(index, from.channel) : eventFields(sender, from.event),
    params: !to
      ? null
      : 'channel' in to
        ? channelFields(index, to.channel)
        : actionFields(receiver, to.action),
    reader: hears ? owner : sender,
    keyReader: hears ? (to ? receiver : owner) : sender,
  };
}

const NO_FIELDS: readonly Field[] = [];

function channelFields(index: ProjectIndex, name: string): readonly Field[] | null {
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
