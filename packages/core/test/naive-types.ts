import type { Asset, Binding, Effect, EventDecl, Value } from '../src/index.js';

export interface NaiveInstance {
  address: string;
  asset: Asset;
  parent: NaiveInstance | null;
  children: Map<string, NaiveInstance | 'stopped'>;
  standIns: Map<string, NaiveInstance>;
  spawned: boolean;
  /** Of a stand-in: what spawns it first. */
  spawner?: NaiveInstance;
  asleep: boolean;
  overrides: Record<string, Value>;
  muted: string[];
}
export interface NaiveEdge {
  tail: string;
  head: string;
  kind: string;
  class: string;
  /** The expanded binding that makes it; absent for an effect. */
  by?: { owner: NaiveInstance; binding: Binding };
  effect?: Effect;
}
/** What a copy of a binding joins, both of whose ends are there. */
export interface NaiveEnds {
  /** Whose properties are read: the sender, or the owner of one that hears a channel. */
  reader: NaiveInstance;
  /** The event; absent when hearing. */
  event?: EventDecl;
  /** What it publishes at; absent where it leads to actions. */
  publishes?: { key: Value | undefined };
  /** What it leads to; absent where it publishes. */
  receivers?: NaiveInstance[];
  /** What it would lead to if it did not pick the first. */
  candidates?: NaiveInstance[];
}
