import { own } from '../util/own.js';
import { sameJson } from '../util/same-json.js';
import type { Action, Asset, Channel, EventDecl, Placement, Project } from '../project/types.js';

/** What the audit looks at again after an edit of a part, besides what it looks at each time (waivers, the gate, the name). */
export type Touch =
  /** Bindings: edges, and all that hangs on them. */
  | 'bindings'
  /** Which things an asset places. */
  | 'things'
  /** Which events and actions an asset has, what raises and what they do. */
  | 'nodes'
  /** Which properties an asset has. */
  | 'properties'
  /** Where things stand, their areas, and where players start. */
  | 'plan'
  /** Limits, severities and patterns of names. */
  | 'policy'
  /** Values of placements: keys, and what selections match. */
  | 'values'
  /** What sleeps at the start. */
  | 'sleep'
  /** Which bindings placements mute. */
  | 'mutes'
  /** Which peers keep and steer things. */
  | 'roles'
  /** Whether events expect listeners. */
  | 'expected listeners'
  /** Whether actions expect senders. */
  | 'expected senders'
  /** Who may raise an event and who gets it, and whether it is raised in a pause. */
  | 'delivery'
  /** What events carry. */
  | 'payload'
  /** What actions take. */
  | 'params'
  /** Where and when an asset's instances run. */
  | 'presence'
  /** Everything. */
  | 'all';

/** Where something was touched: an asset by its number, and a placement of it; −1 where it is the asset itself. */
export interface TouchedPlace {
  asset: number;
  slot: number;
}
/** What was touched, and where. Of bindings and the policy it is not said where. */
export type Touched = ReadonlyMap<Touch, readonly TouchedPlace[]>;

/** For each part of a thing what it touches; for a list of things the parts of each. */
type Touches<T> = {
  readonly [P in keyof Required<T>]:
    Touch | 'nothing' | (Required<T>[P] extends readonly (infer I extends object)[] ? Touches<I> : never);
};

const EVENT: Touches<EventDecl> = {
  name: 'nodes',
  cause: 'nodes',
  payload: 'payload',
  limit: 'nodes',
  raisedInPause: 'delivery',
  expectsListener: 'expected listeners',
  delivery: 'delivery',
  note: 'nothing',
  origin: 'nothing',
  source: 'nothing',
};
const ACTION: Touches<Action> = {
  name: 'nodes',
  params: 'params',
  expectsSender: 'expected senders',
  whileAsleep: 'nodes',
  effects: 'nodes',
  note: 'nothing',
  origin: 'nothing',
  source: 'nothing',
};
const PLACEMENT: Touches<Placement> = {
  id: 'all',
  asset: 'all',
  at: 'plan',
  area: 'plan',
  asleep: 'sleep',
  properties: 'values',
  inside: 'values',
  muted: 'mutes',
  authority: 'roles',
  operator: 'roles',
  entry: 'plan',
  note: 'nothing',
  origin: 'nothing',
  source: 'nothing',
};
const ASSET: Touches<Asset> = {
  id: 'all',
  kind: 'all',
  tags: 'all',
  note: 'nothing',
  persistent: 'all',
  runsInPause: 'presence',
  existsOn: 'presence',
  mark: 'nothing',
  size: 'nothing',
  backdrop: 'nothing',
  area: 'plan',
  properties: 'properties',
  events: EVENT,
  actions: ACTION,
  placements: PLACEMENT,
  bindings: 'bindings',
  origin: 'nothing',
  source: 'nothing',
};
const CHANNEL: Touches<Channel> = {
  name: 'all',
  payload: 'all',
  note: 'nothing',
  origin: 'nothing',
  source: 'nothing',
};
const PROJECT: Touches<Project> = {
  $schema: 'nothing',
  format: 'all',
  name: 'nothing',
  note: 'nothing',
  enums: 'all',
  tables: 'all',
  channels: CHANNEL,
  assets: ASSET,
  loadSets: 'all',
  peers: 'all',
  policy: 'policy',
  waivers: 'nothing',
  rehearsals: 'nothing',
};

/**
 * What the difference between two states of a project touches. What is the very same object in both is not looked into. Cost:
 * the lists that differ, what the items in them say that differ, and the number of assets.
 */
export function touchedBy(before: Project, after: Project): Touched {
  const comparison = new Comparison();
  comparison.compare(before, after, PROJECT, NOWHERE);
  return comparison.touched;
}
const NOWHERE: TouchedPlace = { asset: -1, slot: -1 };

type AnyTouches = Readonly<Record<string, Touch | 'nothing' | object>>;
class Comparison {
  readonly touched = new Map<Touch, TouchedPlace[]>();

  compare(before: object, after: object, touches: AnyTouches, where: TouchedPlace): void {
    const [was, is] = [before as Record<string, unknown>, after as Record<string, unknown>];
    for (const part of new Set([...Object.keys(was), ...Object.keys(is)])) {
      const [old, now] = [own(was, part), own(is, part)];
      if (old === now) continue;
      // What the format does not know is kept, and nothing asks for it.
      const touch = own(touches, part) ?? 'nothing';
      if (typeof touch === 'object') this.compareLists(old, now, part, touch as AnyTouches, where);
      // What comes from a window is a copy, with parts that say the same.
      else if (touch !== 'nothing' && !sameJson(old, now)) this.touch(touch, where);
      if (this.touched.has('all')) return;
    }
  }
  /** Things that came, went or changed places are another matter than what a thing says. */
  private compareLists(
    was: unknown,
    is: unknown,
    part: string,
    touches: AnyTouches,
    where: TouchedPlace,
  ): void {
    const before = (was ?? []) as readonly object[];
    const after = (is ?? []) as readonly object[];
    if (part === 'placements' && placesOthers(before as Placement[], after as Placement[])) {
      this.touch('things', where);
      return;
    }
    if (before.length !== after.length) {
      this.touch(part === 'events' || part === 'actions' ? 'nodes' : 'all', where);
      return;
    }
    for (const [i, item] of after.entries()) {
      if (item === before[i]) continue;
      this.compare(before[i], item, touches, placeOf(part, i, where));
      if (this.touched.has('all')) return;
    }
  }
  private touch(touch: Touch, where: TouchedPlace): void {
    const places = this.touched.get(touch);
    if (!places) this.touched.set(touch, [where]);
    else if (places[places.length - 1] !== where) places.push(where);
  }
}
/** Whether an asset places other things than before, or in another order. */
function placesOthers(before: readonly Placement[], after: readonly Placement[]): boolean {
  if (before.length !== after.length) return true;
  return after.some((p, i) => p !== before[i] && (p.id !== before[i].id || p.asset !== before[i].asset));
}
function placeOf(part: string, i: number, where: TouchedPlace): TouchedPlace {
  if (part === 'assets') return { asset: i, slot: -1 };
  return part === 'placements' ? { asset: where.asset, slot: i } : where;
}
