import type { EdgeClass } from '../graph/graph.js';
import type { Value } from '../project/types.js';
import type { Heaviest } from './heaviest.js';
import type { Direction } from './reached.js';
import type { RippleStart } from './start.js';

export interface RippleAsk {
  start: RippleStart;
  direction: Direction;
  /** Copies of the same at the same hop are folded from this number on; Infinity: nothing is folded at all. Default 4. */
  fold?: number;
  /** Folds that are open. */
  open?: readonly string[];
}

/** One place of the picture: an action of an instance, or of many copies; a channel; a cycle; an event that stands at the start. */
export interface RippleEntry {
  key: string;
  kind: 'event' | 'action' | 'channel' | 'cycle';
  /** Of the event, action or channel; of a fold by asset `3 actions`; of a cycle `cycle of 3`. */
  name: string;
  /** Its asset's id; empty for a channel and a cycle. */
  asset: string;
  /** Of all that it stands for. */
  assets: readonly string[];
  /** Of a channel node that has one. */
  channelKey?: Value;
  /** Hops from the start by the shortest way; a channel lies half a hop further than what publishes to it. */
  hop: number;
  /** Hops by the longest way; a cycle counts each of its actions once. */
  longest: number;
  /** Seconds by the quickest way. */
  time: number;
  /** How many it stands for. */
  count: number;
  /** Their addresses, at most {@link MOST_ADDRESSES}. */
  at: readonly string[];
  /** Ids of the scenes where they are. */
  scenes: readonly string[];
  tags: readonly string[];
  spawned: boolean;
  asleep: boolean;
  /** An outside cause of the event, backward: nothing in the wiring need come before it. */
  outside: boolean;
  /** Distinct entries that follow at once. */
  fanOut: number;
  /** Of a trial: none of it would be reached any more. */
  gone: boolean;
  /** It stands for several and can be opened. */
  folded: boolean;
  /** The innermost open fold that it came out of, by key. */
  within: string | null;
}
/** How one entry leads to another. */
export interface RippleLink {
  from: string;
  to: string;
  /** Events on the way, when an action raises one that is bound. */
  via: readonly string[];
  count: number;
  class: EdgeClass;
  /** Seconds, the least. */
  delay: number;
  /** Seconds, the most. */
  delayMost: number;
  /** Authored bindings on the way, at most {@link MOST_BINDINGS}. */
  bindings: readonly { asset: string; binding: string; owner: string }[];
  /**
   * What must hold on the way, in words, at most {@link MOST_ASKED}: `if $speed > 12` of bindings, `when isOpen is true` of
   * effects; one for each of several ways. Empty if some way asks nothing.
   */
  asks: readonly string[];
  /** It leads into a column that lies before or at its own, and is not unrolled: a return, or a longer way to the same. */
  returns: boolean;
  /** Both ends lie on a cycle. */
  cycle: boolean;
}
export interface Ripple {
  direction: Direction;
  entries: RippleEntry[];
  links: RippleLink[];
  /** Actions reached, each once; hops of the longest way. */
  reach: number;
  longest: number;
  /** More was reached than is shown. */
  cut: boolean;
  /** The heaviest chain as the audit finds it. Forward alone. */
  heaviest: Heaviest | null;
}
export const MOST_ADDRESSES = 60;
export const MOST_BINDINGS = 12;
export const MOST_ASKED = 4;
