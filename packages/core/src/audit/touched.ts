import { own } from '../util/own.js';
import { sameJson } from '../util/same-json.js';
import type { Action, Asset, Channel, EventDecl, Placement, Project } from '../project/types.js';

/** What an edit of a part makes the audit ask anew, besides what it asks each time (waivers, the gate, the name). */
export type Touch =
  /** What bindings have a part in. */
  | 'bindings'
  /** What depends on where things stand, and on their areas. */
  | 'plan'
  /** What depends on limits, severities and patterns of names. */
  | 'policy'
  /** Everything. */
  | 'all';

/** What an answer depends on besides declarations and placements. */
export type Besides = Extract<Touch, 'plan' | 'policy'>;

/** For each part of a thing what it touches; for a list of things the parts of each. */
type Touches<T> = {
  readonly [P in keyof Required<T>]:
    Touch | 'nothing' | (Required<T>[P] extends readonly (infer I extends object)[] ? Touches<I> : never);
};

const EVENT: Touches<EventDecl> = {
  name: 'all',
  cause: 'all',
  payload: 'all',
  limit: 'all',
  raisedInPause: 'all',
  expectsListener: 'all',
  delivery: 'all',
  note: 'nothing',
  origin: 'all',
  source: 'all',
};
const ACTION: Touches<Action> = {
  name: 'all',
  params: 'all',
  expectsSender: 'all',
  whileAsleep: 'all',
  effects: 'all',
  note: 'nothing',
  origin: 'all',
  source: 'all',
};
const PLACEMENT: Touches<Placement> = {
  id: 'all',
  asset: 'all',
  at: 'plan',
  area: 'plan',
  asleep: 'all',
  properties: 'all',
  inside: 'all',
  muted: 'all',
  authority: 'all',
  operator: 'all',
  entry: 'all',
  note: 'nothing',
  origin: 'all',
  source: 'all',
};
const ASSET: Touches<Asset> = {
  id: 'all',
  kind: 'all',
  tags: 'all',
  note: 'nothing',
  persistent: 'all',
  runsInPause: 'all',
  existsOn: 'all',
  mark: 'nothing',
  size: 'nothing',
  backdrop: 'nothing',
  area: 'plan',
  properties: 'all',
  events: EVENT,
  actions: ACTION,
  placements: PLACEMENT,
  bindings: 'bindings',
  origin: 'all',
  source: 'all',
};
const CHANNEL: Touches<Channel> = {
  name: 'all',
  payload: 'all',
  note: 'nothing',
  origin: 'all',
  source: 'all',
};
const PROJECT: Touches<Project> = {
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
export function touchedBy(before: Project, after: Project): ReadonlySet<Touch> {
  const touched = new Set<Touch>();
  compare(before, after, PROJECT, touched);
  return touched;
}

type AnyTouches = Readonly<Record<string, Touch | 'nothing' | object>>;
function compare(before: object, after: object, touches: AnyTouches, touched: Set<Touch>): void {
  const [was, is] = [before as Record<string, unknown>, after as Record<string, unknown>];
  for (const part of new Set([...Object.keys(was), ...Object.keys(is)])) {
    const [old, now] = [own(was, part), own(is, part)];
    if (old === now) continue;
    // What the format does not know is kept, and nothing asks for it.
    const touch = own(touches, part) ?? 'nothing';
    if (typeof touch === 'object') compareLists(old, now, touch as AnyTouches, touched);
    // What comes from a window is a copy, with parts that say the same.
    else if (touch !== 'nothing' && !touched.has(touch) && !sameJson(old, now)) touched.add(touch);
    if (touched.has('all')) return;
  }
}
/** Things that came, went or changed places are another matter than what a thing says. */
function compareLists(was: unknown, is: unknown, touches: AnyTouches, touched: Set<Touch>): void {
  const before = (was ?? []) as readonly object[];
  const after = (is ?? []) as readonly object[];
  if (before.length !== after.length) {
    touched.add('all');
    return;
  }
  for (const [i, item] of after.entries()) {
    if (item !== before[i]) compare(before[i], item, touches, touched);
    if (touched.has('all')) return;
  }
}
