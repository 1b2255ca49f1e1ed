import type { Value } from '../project/types.js';
import type { BindingActivity } from './compiled-binding.js';
import type { BindingState, InstanceState } from './instance-state.js';
import type { Values } from './records.js';

/** What waits in the queue of a run. `seq` is the order in which things were queued. */
export type Item = Raise | Publication | Delivery;

export interface Raise {
  kind: 'raise';
  seq: number;
  cause: number;
  live: InstanceState;
  event: number;
  payload: Values;
  /** What few raises have; null for the others, of which there are very many. */
  special: SpecialRaise | null;
}
export interface SpecialRaise {
  step?: number;
  /** Number of the raising peer's name; null for the instance's authority. */
  by?: number | null;
  activator?: string | null;
  /** For a start: when it was queued, on the clock of binding. */
  startQueued?: number;
  /** For a `destroyed` raise: the bindings on it as they stood when the effect was performed. */
  stood?: readonly { state: BindingState; activity: BindingActivity }[];
  /** It waits for an effect with `restart`: which one of its instance, until it is taken or another takes its place. */
  restart?: string;
  dropped?: boolean;
}
/** Peers that receive; null where nothing is reported of peers. */
export type Audience = readonly number[] | null;

export interface Publication {
  kind: 'publication';
  seq: number;
  cause: number;
  step: number;
  channel: string;
  /** Whether the channel, and the key that is read, are there. */
  known: boolean;
  key: Value | undefined;
  payload: Values;
  state: BindingState | null;
  audience: Audience;
}
export interface Delivery {
  kind: 'delivery';
  seq: number;
  cause: number;
  state: BindingState;
  /** The receiver; null where the target does not resolve. */
  live: InstanceState | null;
  /** Number of the action in its asset; −1 for one that is not there. */
  action: number;
  args: Values;
  audience: Audience;
}
