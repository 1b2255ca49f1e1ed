/**
 * The document types of `oquel.project/1`. Array order matters everywhere: it is the order in which things run.
 * The same shapes are described for reading in `document.ts`; the compiler holds the two together.
 */
import type { Mark } from './marks.js';

export const FORMAT = 'oquel.project/1';

export interface Project {
  /** Where an editor finds the schema. */
  $schema?: string;
  format: typeof FORMAT;
  name: string;
  note?: string;
  enums?: EnumDecl[];
  tables?: KeyTable[];
  channels?: Channel[];
  assets: Asset[];
  loadSets?: LoadSet[];
  peers?: Peer[];
  policy?: Policy;
  waivers?: Waiver[];
  rehearsals?: Rehearsal[];
}

/** Where the game's repository declares something. Lines count from 1. */
export interface Source {
  file: string;
  line?: number;
}
/** What a manifest of the game declares: by the manifest's name, and where. Absent for what is Oquel's own. */
export interface FromGame {
  origin?: string;
  source?: Source;
}

export interface EnumDecl extends FromGame {
  name: string;
  values: string[];
}
export interface KeyTable extends FromGame {
  name: string;
  keys: string[];
}
/** Scenes that are loaded together. */
export interface LoadSet {
  name: string;
  scenes: string[];
}
export interface Channel extends FromGame {
  name: string;
  payload?: Field[];
  note?: string;
}
export interface Field {
  name: string;
  type: Type;
  optional?: boolean;
}
export type Type =
  'bool' | 'int' | 'float' | 'string' | 'vec2' | `enum:${string}` | `key:${string}` | 'instance';
export type Vec2 = [number, number];
export type Value = boolean | number | string | Vec2;

export type AssetKind = 'scene' | 'prefab' | 'widget';
export interface Asset extends FromGame {
  id: string;
  kind: AssetKind;
  tags?: string[];
  note?: string;
  /** Scenes only: loaded at all times. */
  persistent?: boolean;
  /** Answers while the game is paused. Default false. */
  runsInPause?: boolean;
  /** Default "all". */
  existsOn?: 'all' | 'authority';
  /** How it is drawn on a plan; without it by what it declares. */
  mark?: Mark;
  /** Scenes only: the plan's width and height in metres. */
  size?: Vec2;
  /** Scenes only: a picture under the plan. */
  backdrop?: Backdrop;
  /** Default sensing area, relative to the placement. */
  area?: Area;
  properties?: Property[];
  events?: EventDecl[];
  actions?: Action[];
  placements?: Placement[];
  bindings?: Binding[];
}
/** A picture under a plan. */
export interface Backdrop {
  /** Its file name; the file stands beside the document, in `pictures`. */
  picture: string;
  /** Metres: its left upper corner, its width and height. */
  at: Vec2;
  size: Vec2;
  /** How much it is dimmed, from 0 to 1. Default 0.5. */
  dim?: number;
}
export interface Property extends FromGame {
  name: string;
  type: Type;
  default: Value;
  isKey?: boolean;
  unique?: boolean;
}
/** In metres: a radius, a width and height (centred), or corner points. */
export type Area = { circle: number } | { rect: Vec2 } | { polygon: Vec2[] };

export interface EventDecl extends FromGame {
  name: string;
  cause: Cause;
  payload?: Field[];
  /** Raised at most this many times per instance. */
  limit?: number;
  raisedInPause?: boolean;
  expectsListener?: boolean;
  delivery?: Delivery;
  note?: string;
}
export type Cause =
  | { type: 'area-enter' | 'area-leave' | 'use'; activators?: string[] }
  | { type: 'press' }
  | { type: 'start' }
  | { type: 'destroyed' }
  | { type: 'timer'; every: number }
  | { type: 'change'; property: string }
  | { type: 'code' }
  | { type: 'raised' };
export type CauseType = Cause['type'];

export interface Action extends FromGame {
  name: string;
  params?: Field[];
  expectsSender?: boolean;
  whileAsleep?: boolean;
  effects?: Effect[];
  note?: string;
}
/** What is asked of a value beyond being equal. The four of order need numbers on both sides. */
export type Test =
  | { not: Value }
  | { oneOf: Value[] }
  | { under: number }
  | { atMost: number }
  | { over: number }
  | { atLeast: number };
/** A value: to be equal to it; or a test. */
export type Asked = Value | Test;

export interface EffectGuard {
  /** Asked of a property of the instance, or of a parameter of the action. */
  when?: { property: string; is: Asked } | { param: string; is: Asked };
  /** Performed only each n-th time; at least 2. */
  everyNth?: number;
}
export type EffectBody =
  | { set: string; to: Value | { param: string } }
  | { toggle: string }
  | { add: string; by: number | { param: string } }
  /** `restart`: takes the place of the raise by the same effect of the same instance that still waits. */
  | { raise: string; delay?: number; restart?: true; payload?: Record<string, Arg> }
  | { wake: true }
  | { sleep: true }
  | { destroy: true }
  | { spawn: string; properties?: Record<string, Value> };
export type Effect = EffectGuard & EffectBody;

export interface Placement extends FromGame {
  id: string;
  asset: string;
  /** Metres on the owner's plan. */
  at?: Vec2;
  area?: Area;
  asleep?: boolean;
  properties?: Record<string, Value>;
  /** Values of properties of what stands inside it, by its path from here: `{ lamp: { line: 'east' } }`. */
  inside?: Record<string, Record<string, Value>>;
  /** Ids of the placed asset's own bindings that are off in this placement. */
  muted?: string[];
  authority?: string;
  operator?: string;
  /** A place where players start. */
  entry?: boolean;
  note?: string;
}

/**
 * `.` is the owner itself; `mast-2` a placement of the owner; `cabin-3/heater` a nested one; `crane-1/~Sled` the
 * stand-in of what is spawned there; `summit-refuge:horn-1` absolute, from a scene.
 */
export type Path = string;
/** In `to`: read from the sender (from the owner when a channel is heard); in `from.key`: from each listener. */
export type KeyExpr = Value | { property: string };
export type Arg =
  Value | { payload: string; as?: 'string' } | { property: string; as?: 'string' } | { sender: true };

export type EventSource = { at: Path; event: string };
export type ChannelEnd = { channel: string; key?: KeyExpr };
export type BindingFrom = EventSource | ChannelEnd;
export type InstanceTarget = { at: Path; action: string };
export interface SelectionTarget {
  every: string;
  action: string;
  within?: 'asset' | 'project';
  pick?: 'all' | 'first';
  match?: 'all' | { property: string; equals: KeyExpr };
  spawned?: boolean;
}
export type BindingTo = InstanceTarget | SelectionTarget | ChannelEnd;

/** Asked of a field of what the event or the heard channel carries, or of a property of the sender (of the owner, on a channel). */
export type Condition = { payload: string; is: Asked } | { property: string; is: Asked };

export interface Binding {
  id: string;
  from: BindingFrom;
  to: BindingTo;
  args?: Record<string, Arg>;
  /** Raises served at most, per expanded binding; 1 is "once". */
  limit?: number;
  /** Seconds; default 0. */
  delay?: number;
  /** All must hold when the raise, or the publication, is taken. */
  if?: Condition[];
  /** Default true. */
  enabled?: boolean;
  origin?: 'authored' | 'code';
  bind?: 'load' | 'start';
  release?: 'own' | 'all' | 'never';
  note?: string;
}

export interface Peer {
  name: string;
  role: 'server' | 'client';
}
export type Role = 'authority' | 'operator' | 'others';
export type Roles = 'everyone' | { only: Role[] } | { except: Role[] };
export interface Delivery {
  send?: Roles | 'nobody';
  to?: Roles | 'raiser';
  reliable?: boolean;
}

export interface Waiver {
  fingerprint: string;
  reason: string;
  by: string;
  /** ISO date; the waiver counts up to and including it. */
  until?: string;
  occurrences?: string[];
  /** It counts once somebody who answers for the build has accepted it. */
  proposed?: true;
}
export type Severity = 'error' | 'warning' | 'info' | 'off';
export interface Policy {
  maxFanOut?: number;
  maxChain?: number;
  maxReach?: number;
  maxTangle?: number;
  names?: { event?: string; action?: string; channel?: string; placement?: string; asset?: string };
  /** Keys are `rule` or `rule/class`; the longer one wins. */
  severity?: Record<string, Severity>;
  gate?: 'error' | 'warning';
  rehearsals?: boolean;
}

export interface Rehearsal {
  name: string;
  note?: string;
  loadSet?: string;
  /** It fails if anything is lost or refused in it. Default false. */
  strict?: boolean;
  steps: Step[];
}
export type Expectation =
  | { at: string; property: string; is: Value }
  | { at: string; asleep: boolean }
  | { at: string; gone: boolean }
  | { at: string; action: string; times: number };
/** `at` is in seconds. */
export type Step = { at: number } & (
  | { raise: { at: string; event: string; payload?: Record<string, Value>; activator?: string; by?: string } }
  | { publish: { channel: string; key?: Value; payload?: Record<string, Value> } }
  | { expect: Expectation }
  | { pause: boolean }
);

/** An event of a manifest, which may leave open what brings it about. */
export type ManifestEvent = Omit<EventDecl, 'cause'> & { cause?: Cause };
/** An asset of a manifest: what the game declares, without what is wired in Oquel. */
export type ManifestAsset = Omit<Asset, 'bindings' | 'events' | 'origin'> & { events?: ManifestEvent[] };
/** `oquel.declarations/1`: what exists in a game, printed by its own build. */
export interface Manifest {
  /** Where an editor finds the schema. */
  $schema?: string;
  format: 'oquel.declarations/1';
  /** By which it is known again what came from here. */
  origin: string;
  enums?: EnumDecl[];
  tables?: KeyTable[];
  channels?: Channel[];
  assets?: ManifestAsset[];
  loadSets?: LoadSet[];
  peers?: Peer[];
}
