import type { Values } from './format.js';
import type { Instance } from './instance.js';
import type { Queued } from './queued.js';
import type { Through, WorldRecord } from './records.js';

/** What a game gives to its world. All of it may be left out. */
export interface Game {
  /** An action is performed; its effects come after it. */
  perform?: (instance: Instance, action: string, args: Values) => void;
  /** Each thing that happens, in order. Without it no record is made. */
  record?: (record: WorldRecord) => void;
  /** Whether the effects of an asset's actions are left to the game. */
  ownEffects?: (asset: string) => boolean;
  limits?: Partial<Limits>;
  /**
   * What is to come is handed out, with when it is due, instead of being done: for whoever follows a game that has done it
   * elsewhere, and does it here by `World.do` when it has happened there. Timers do not tick then.
   */
  later?: (item: Queued, due: number) => void;
}
/** What would be a runaway. What is due at the instant of one is dropped, and the world goes on. */
export interface Limits {
  /** Performances of one action of one instance at one instant. */
  atOnce: number;
  /** Deliveries, ticks of timers, spawned instances and records in all. */
  deliveries: number;
  ticks: number;
  copies: number;
  records: number;
}
export const LIMITS: Limits = {
  atOnce: 1000,
  deliveries: Infinity,
  ticks: Infinity,
  copies: Infinity,
  records: Infinity,
};

/** One binding as it stands. */
export interface Wired extends Through {
  /** The action, or `#` and the channel. */
  to: string;
  /** Addresses, in running order. */
  receivers: string[];
  /** Microseconds. */
  delay: number;
  /** Raises that its limit still allows. */
  left: number;
}
