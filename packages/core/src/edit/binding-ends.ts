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
  return new EndsBetween(index, owner, { from, to }, sender, receiver);
}

/** The ends of a binding that lead to these assets. What is said there is looked up when somebody asks. */
export class EndsBetween implements BindingEnds {
  constructor(
    protected readonly index: ProjectIndex,
    protected readonly owner: AssetIndex,
    protected readonly binding: Begun,
    readonly sender: AssetIndex | null,
    readonly receiver: AssetIndex | null,
  ) {}

  get payload(): readonly Field[] | null {
    const { from } = this.binding;
    if (!from) return null;
    return 'channel' in from ? channelFields(this.index, from.channel) : eventFields(this.sender, from.event);
  }
  get params(): readonly Field[] | null {
    const { to } = this.binding;
    if (!to) return null;
    return 'channel' in to ? channelFields(this.index, to.channel) : actionFields(this.receiver, to.action);
  }
  get reader(): AssetIndex | null {
    return this.hears ? this.owner : this.sender;
  }
  get keyReader(): AssetIndex | null {
    if (!this.hears) return this.sender;
    return this.binding.to ? this.receiver : this.owner;
  }
  private get hears(): boolean {
    const { from } = this.binding;
    return from !== undefined && 'channel' in from;
  }
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
