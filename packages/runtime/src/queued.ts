import type { Value, Values } from './format.js';
import type { Bound, Hold, Instance } from './instance.js';
import type { Through } from './records.js';

/** Peers that receive; null without peers. */
export type Audience = readonly number[] | null;
export interface Raise {
  kind: 'raise';
  cause: number;
  instance: Instance;
  event: number;
  payload: Values;
  special: Special | null;
}
export interface Special {
  step?: number;
  by?: number;
  activator?: string;
  /** Of a start: when it was queued, on the clock of binding. */
  startQueued?: number;
  /** Of a `destroyed` event: the bindings on it as they stood. */
  stood?: readonly { bound: Bound; hold: Hold }[];
  restart?: string;
  dropped?: boolean;
}
export interface Publication {
  kind: 'publication';
  cause: number;
  step: number | undefined;
  channel: string;
  known: boolean;
  key: Value | undefined;
  payload: Values;
  bound: Bound | null;
  audience: Audience;
}
export interface Delivery {
  kind: 'delivery';
  cause: number;
  bound: Bound;
  /** Null where the target does not resolve. */
  instance: Instance | null;
  action: number;
  args: Values;
  audience: Audience;
}
export type Queued = Raise | Publication | Delivery;
export interface Timer {
  instance: Instance;
  event: number;
  from: number;
  tick: number;
}

export function raiseOf(
  instance: Instance,
  event: number,
  payload: Values,
  cause: number,
  special: Special | null = null,
): Raise {
  return { kind: 'raise', cause, instance, event, payload, special };
}
export function through({ owner, decl }: Bound): Through {
  return { owner: owner.address, binding: decl.id };
}
export function actionOf({ decl: { to } }: Bound): string {
  return 'action' in to ? to.action : '';
}
