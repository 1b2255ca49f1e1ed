/**
 * The compiled wiring, `oquel.wiring/1`: one file for the project, and one for each scene. Everything has a number: its place
 * in the list that declares it. Numbers of instances are local to their scene's file; addresses are names that last.
 */
export const FORMAT = 'oquel.wiring/1';

export type Value = boolean | number | string | readonly [number, number];
/** What a payload or a list of arguments holds. */
export type Values = Readonly<Record<string, Value>>;

/** `wiring.json`: what is declared, once, whatever is loaded. */
export interface WiringProject {
  format: typeof FORMAT;
  /** SHA-256 of the project's canonical JSON, in hex. The files of one compilation have the same. */
  hash: string;
  name: string;
  assets: WiringAsset[];
  channels: { name: string; payload?: WiringField[] }[];
  enums: { name: string; values: string[] }[];
  /** Scenes that are loaded together, by name. */
  loadSets: { name: string; scenes: string[] }[];
  /** Peers by name; empty where the project says nothing of peers. */
  peers: string[];
  /** Peers that placements name and that are none of {@link peers}: their numbers go on from there. */
  strangers: string[];
  /** Scenes in expansion order: files that are loaded together are taken in this order. */
  scenes: { scene: string; file: string }[];
}

export interface WiringField {
  name: string;
  type: string;
  optional?: true;
}
export interface WiringAsset {
  id: string;
  kind: 'scene' | 'prefab' | 'widget';
  tags?: string[];
  /** Loaded at all times. */
  persistent?: true;
  runsInPause?: true;
  /** It exists on its authority alone. */
  onAuthority?: true;
  properties: { name: string; type: string; default: Value }[];
  events: WiringEvent[];
  actions: WiringAction[];
  /** Bindings that are on, in running order. */
  bindings: WiringBinding[];
}
export interface WiringEvent {
  name: string;
  cause:
    | 'area-enter'
    | 'area-leave'
    | 'use'
    | 'press'
    | 'start'
    | 'destroyed'
    | 'timer'
    | 'change'
    | 'code'
    | 'raised';
  payload?: WiringField[];
  /** Assets or `#tag`s, one of which must enter, leave or use it; absent: whoever does. */
  activators?: string[];
  /** Of a timer: microseconds. */
  every?: number;
  /** Of a change: the number of the property. */
  property?: number;
  /** Raises of each instance at most. */
  limit?: number;
  raisedInPause?: true;
  send?: Roles | 'nobody';
  to?: Roles | 'raiser';
  reliable?: boolean;
}
export type Role = 'authority' | 'operator' | 'others';
export type Roles = 'everyone' | { only: Role[] } | { except: Role[] };

export interface WiringAction {
  name: string;
  params?: WiringField[];
  whileAsleep?: true;
  effects?: WiringEffect[];
}
export type Asked =
  | Value
  | { not: Value }
  | { oneOf: Value[] }
  | { under: number }
  | { atMost: number }
  | { over: number }
  | { atLeast: number };
/** Delays in microseconds. */
export type WiringEffect = {
  when?: { property: string; is: Asked } | { param: string; is: Asked };
  everyNth?: number;
} & (
  | { set: string; to: Value | { param: string } }
  | { toggle: string }
  | { add: string; by: number | { param: string } }
  | { raise: string; delay?: number; restart?: true; payload?: Record<string, Arg> }
  | { wake: true }
  | { sleep: true }
  | { destroy: true }
  | { spawn: string; properties?: Record<string, Value> }
);
export type KeyExpr = Value | { property: string };
export type Arg =
  Value | { payload: string; as?: 'string' } | { property: string; as?: 'string' } | { sender: true };

export type WiringFrom = { at: string; event: string } | { channel: string; key?: KeyExpr };
export type WiringTo =
  | { at: string; action: string }
  | {
      every: string;
      action: string;
      within?: 'asset' | 'project';
      pick?: 'all' | 'first';
      match?: 'all' | { property: string; equals: KeyExpr };
      spawned?: boolean;
    }
  | { channel: string; key?: KeyExpr };
export interface WiringBinding {
  id: string;
  from: WiringFrom;
  to: WiringTo;
  args?: Record<string, Arg>;
  if?: ({ payload: string; is: Asked } | { property: string; is: Asked })[];
  limit?: number;
  /** Microseconds. */
  delay?: number;
  /** It takes hold when its owner starts, instead of when that is loaded. */
  bind?: 'start';
  /** What it releases when its owner is gone: every binding beside it, or nothing. Absent: itself. */
  release?: 'all' | 'never';
}

/**
 * The file of one scene. Instances stand in expansion order: depth first, placements in order, then the templates of
 * what is spawned there, whose names begin with `~`.
 */
export interface WiringScene {
  format: typeof FORMAT;
  hash: string;
  scene: string;
  /** For each instance the number of its asset. */
  asset: number[];
  /** For each instance the one that it stands in; −1 for the scene. */
  parent: number[];
  /** For each instance the last part of its address. */
  name: string[];
  /** Instances that begin asleep by themselves. */
  asleep: number[];
  /** Instances whose properties begin with other values than their defaults. */
  values: [instance: number, values: Record<string, Value>][];
  /** For instances inside a template: which instance has the templates of what they spawn. */
  spawner: [instance: number, holder: number][];
  /** Absent without peers: for each instance its authority and operator, and whether its placement names them (1, 2 or 3). */
  peers?: { authority: number[]; operator: number[]; named: [instance: number, bits: number][] };
  /** Instances of other scenes that are named here, by address; `sender` and `receiver` have −2 − place for them. */
  others: string[];
  /** For bindings that hear a channel by a key of a receiver in another scene: the key that this begins with. */
  keys: [row: number, key: Value][];
  /** Expanded bindings in running order, one entry each. */
  bindings: {
    /** Instance that has it. */
    owner: number[];
    /** Its number in the owner's asset. */
    binding: number[];
    /** Instance whose event it listens to; −1 for one that hears a channel. */
    sender: number[];
    /** Number of that event in the sender's asset; −1 for one that hears a channel. */
    event: number[];
    /** Instance that it delivers to; −1 for a channel, for `every`, and for a path that leads nowhere. */
    receiver: number[];
    /** Number of the action in the receiver's (or selected) asset; −1 for none. */
    action: number[];
  };
}
