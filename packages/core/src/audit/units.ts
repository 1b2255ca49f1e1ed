import type { BindingRecords } from '../graph/graph.js';
import type { AssetIndex } from '../project/index-project.js';
import type { Action, Binding, Channel, EventDecl } from '../project/types.js';
import type { AssetTie } from './facts/asset-ties.js';
import type { Audience } from './facts/audiences.js';
import type { BindingRef } from './finding.js';
import type { JudgedEnds } from './binding-ends.js';

/** An authored binding that is enabled, and not muted in every copy. */
export interface BindingUnit {
  /** Among authored bindings. */
  readonly number: number;
  readonly owner: AssetIndex;
  /** Its position in its owner. */
  readonly position: number;
  readonly binding: Binding;
  readonly subject: BindingRef;
  /** What its text leads to. Made when first asked for. */
  readonly ends: JudgedEnds;
  /** What it puts into the graph besides edges, in all copies; undefined if nothing. */
  readonly records: BindingRecords | undefined;
}
/** An expanded event that has a binding. */
export interface EventUnit {
  readonly node: number;
  readonly instance: number;
  readonly asset: AssetIndex;
  /** Its number in the asset. */
  readonly number: number;
  readonly event: EventDecl;
}
/** An expanded action. */
export interface ActionUnit {
  readonly node: number;
  readonly instance: number;
  readonly asset: AssetIndex;
  readonly number: number;
  readonly action: Action;
}
export interface ChannelUnit {
  readonly number: number;
  readonly channel: Channel;
}

/** What rules judge, by kind. */
export interface Units {
  /** The project as a whole: what stands beside its assets. */
  project: null;
  asset: AssetIndex;
  /** What the copies of an asset begin with, together. */
  copies: AssetIndex;
  channel: ChannelUnit;
  binding: BindingUnit;
  event: EventUnit;
  action: ActionUnit;
  /** An instance. */
  instance: number;
  /** The nodes of a component that has a cycle. */
  cycle: Int32Array | readonly number[];
  tie: AssetTie;
  audience: Audience;
  /** An event of a stand-in that has no binding, although it has one in placed copies. */
  gap: EventUnit;
}
export type UnitKind = keyof Units;

/** Changes elsewhere after which units of a kind may have to be judged again. */
export interface UnitChanges {
  project:
    | 'name patterns'
    /** Which types declarations use. */
    | 'types';
  asset:
    | 'name patterns'
    /** Bindings of an asset that it places, whose placements may mute them. */
    | 'placed bindings'
    /** Whether an event of one of its instances has bindings, or lacks them at a stand-in. */
    | 'event bindings';
  copies: never;
  /** Publications or listeners of the channel. */
  channel: 'use';
  binding:
    /** At which keys a channel that it names is published to and heard. */
    | 'channel use'
    /** An edge changed somewhere on the way to its sender. */
    | 'upstream';
  event:
    /** What it delivers to, and how. */
    | 'deliveries'
    /** Another event or action of its instance got its first binding, or lost the last. */
    | 'neighbours'
    /** An edge changed somewhere on a way that begins with it. */
    | 'downstream'
    /** Where its instance stands, its area, and where entries stand. */
    | 'area'
    | 'limit of fan-outs'
    | 'limit of chains'
    | 'limit of reaches';
  action:
    /** Whether anything can bring it about. */
    | 'liveness'
    /** Whether it expects a sender. */
    | 'expectations'
    /** What leads to it, or is published to a channel that leads to it. */
    | 'drivers';
  instance:
    /** Whether it can be awake. */
    | 'sleep'
    /** Its events' and actions' bindings. */
    | 'bindings'
    /** Which of its events expect listeners. */
    | 'expectations';
  cycle: never;
  tie: 'limit of tangles';
  audience: never;
  gap: never;
}

/** The same for whoever does not compile: all changes by kind of unit. */
export const UNIT_CHANGES: { readonly [U in UnitKind]: readonly UnitChanges[U][] } = {
  project: ['name patterns', 'types'],
  asset: ['name patterns', 'placed bindings', 'event bindings'],
  copies: [],
  channel: ['use'],
  binding: ['channel use', 'upstream'],
  event: [
    'deliveries',
    'neighbours',
    'downstream',
    'area',
    'limit of fan-outs',
    'limit of chains',
    'limit of reaches',
  ],
  action: ['liveness', 'expectations', 'drivers'],
  instance: ['sleep', 'bindings', 'expectations'],
  cycle: [],
  tie: ['limit of tangles'],
  audience: [],
  gap: [],
};
