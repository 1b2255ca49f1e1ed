import {
  ASSET_PARTS,
  type Action,
  type Asset,
  type Binding,
  type Change,
  type EventDecl,
  type Placement,
  type Project,
} from '../src/index.js';
import type { Random } from './random.js';
import { randomProject } from './random-project.js';

/** Rules that random projects often break. */
const RELABELLED = [
  'dangling-target',
  'unheard-event',
  'orphan-listener',
  'never-raised',
  'dead-wiring',
] as const;

/** A change that can be applied to the project, of any kind. */
export function randomChange(r: Random, project: Project): Change {
  return r.chance(0.25) ? randomDeclarationChange(r, project) : randomItemChange(r, project);
}

/** A change of what an asset or the project declares, taken from another random project; or of the assets there are. */
function randomDeclarationChange(r: Random, project: Project): Change {
  const other = randomProject(r.int(1e6));
  const from = r.pick(other.assets);
  const what = r.int(5);
  if (what === 0 && project.assets.length > 1) return { op: 'drop', asset: r.pick(project.assets).id };
  if (what === 1) {
    return { op: 'add', index: r.int(project.assets.length + 1), item: { ...from, id: `N${r.int(1e9)}` } };
  }
  if (what === 2) {
    const part = r.pick(['channels', 'loadSets', 'peers', 'policy', 'waivers', 'note'] as const);
    return { op: 'set', part, ...(other[part] === undefined ? {} : { value: other[part] }) } as Change;
  }
  const part = r.pick(ASSET_PARTS);
  const value = from[part] === undefined ? {} : { value: from[part] };
  return { op: 'set', asset: r.pick(project.assets).id, part, ...value } as Change;
}

function randomItemChange(r: Random, project: Project): Change {
  const asset = r.pick(project.assets);
  const list = r.pick(['bindings', 'placements'] as const);
  const items: { id: string }[] = asset[list] ?? [];
  const op = items.length === 0 ? 'insert' : r.pick(['insert', 'remove', 'replace', 'move'] as const);
  const fresh = (id: string): unknown =>
    list === 'bindings'
      ? { id, from: { at: '.', event: 'onA' }, to: { at: '.', action: 'doA' } }
      : { id, asset: r.pick(project.assets).id };
  const head = { list, asset: asset.id };
  const id = items.length > 0 ? r.pick(items).id : '';
  if (op === 'insert') return { op, ...head, index: r.int(6), item: fresh(`n${r.int(1e9)}`) } as Change;
  if (op === 'replace')
    return { op, ...head, id, item: fresh(r.chance(0.5) ? id : `n${r.int(1e9)}`) } as Change;
  return op === 'move' ? { op, ...head, id, index: r.int(6) } : { op, ...head, id };
}

/** Properties, events or actions of an asset come, go or change their order, or are raised by and do other things. */
export function randomNodesChange(r: Random, project: Project): Change {
  const { id: asset, events = [], actions = [], properties = [] } = r.pick(project.assets);
  if (r.chance(0.3)) {
    const others = randomProject(r.int(1e6)).assets.flatMap((a) => a.properties ?? []);
    const value = properties.filter(() => r.chance(0.7));
    const other = others.find((o) => value.every((p) => p.name !== o.name));
    if (other) value.push(other);
    return { op: 'set', asset, part: 'properties', value };
  }
  const part = r.pick(['events', 'actions'] as const);
  const all = randomProject(r.int(1e6)).assets.concat(project.assets);
  const known: (EventDecl | Action)[] = part === 'events' ? events : actions;
  const others = all
    .flatMap((a): (EventDecl | Action)[] => a[part] ?? [])
    .filter((o) => known.every((k) => k.name !== o.name));
  const value = [...known];
  const one = r.int(value.length + 1);
  const what = r.int(4);
  if (what === 0 && value.length > 0) value.splice(Math.min(one, value.length - 1), 1);
  else if (what === 1 && others.length > 0)
    value.splice(r.chance(0.5) ? value.length : one, 0, r.pick(others));
  else if (what === 2 && value.length > 1) value.push(...value.splice(Math.min(one, value.length - 2), 1));
  else if (value.length > 0) {
    const at = Math.min(one, value.length - 1);
    const like = r.pick(all.flatMap((a): (EventDecl | Action)[] => a[part] ?? []).concat(value[at]));
    value[at] = { ...like, name: r.chance(0.8) ? value[at].name : 'onOther' };
  }
  const names = new Set(value.map((v) => v.name));
  return { op: 'set', asset, part, value: names.size < value.length ? known : value } as Change;
}

/** A thing comes, goes, gives way to another one or stands elsewhere in the list; mostly by names that bindings know. */
export function randomThingChange(r: Random, project: Project): Change {
  const asset = r.pick(project.assets);
  const items = asset.placements ?? [];
  const taken = new Set(items.map((p) => p.id));
  const named = [...items.map((p) => p.id), 'p0', 'p1', 'p2', 'p3'].filter((id) => !taken.has(id));
  const like = r.pick(project.assets.flatMap((a) => a.placements ?? []).concat({ id: '', asset: asset.id }));
  const id = named.length > 0 && r.chance(0.7) ? r.pick(named) : `n${r.int(1e9)}`;
  const item = { ...like, id, ...(r.chance(0.5) ? { asset: r.pick(project.assets).id } : {}) };
  const head = { list: 'placements' as const, asset: asset.id };
  const op =
    items.length === 0 ? 'insert' : r.pick(['insert', 'insert', 'remove', 'remove', 'replace'] as const);
  const index = r.chance(0.7) ? items.length : r.int(items.length + 1);
  if (op === 'insert') return { op, ...head, index, item };
  const one = r.pick(items);
  return op === 'remove' ? { op, ...head, id: one.id } : { op, ...head, id: one.id, item };
}

/** A change of one binding, its ends taken from bindings that are there; null if no asset has any. */
export function randomBindingChange(r: Random, project: Project): Change | null {
  const wired = project.assets.filter((a) => a.bindings !== undefined && a.bindings.length > 0);
  if (wired.length === 0) return null;
  const { id: asset, bindings = [] } = r.pick(wired);
  const head = { list: 'bindings' as const, asset };
  const one = r.pick(bindings);
  const op = r.pick(['insert', 'remove', 'replace', 'replace', 'move'] as const);
  if (op === 'remove') return { op, ...head, id: one.id };
  if (op === 'move') return { op, ...head, id: one.id, index: r.int(bindings.length + 1) };
  const item = mixed(r, bindings, op === 'insert' ? `n${r.int(1e9)}` : one.id);
  return op === 'insert'
    ? { op, ...head, index: r.int(bindings.length + 1), item }
    : { op, ...head, id: one.id, item };
}

function mixed(r: Random, bindings: readonly Binding[], id: string): Binding {
  const from = r.pick(bindings);
  const to = r.pick(bindings);
  const both = 'channel' in from.from && 'channel' in to.to ? from : to;
  return {
    ...from,
    id,
    to: both.to,
    ...(r.chance(0.3) ? { enabled: false } : {}),
    ...(r.chance(0.3) ? { delay: r.int(3) / 2 } : {}),
    ...(r.chance(0.2) ? { limit: 1 } : {}),
  };
}

/**
 * A change that leaves the same things standing and the same names there: something moves, gets another area, value or peer,
 * falls asleep, mutes; events carry and actions take other things; pictures, waivers, limits, rehearsals.
 */
export function randomQuietChange(r: Random, project: Project): Change {
  const asset = r.pick(project.assets);
  const other = randomProject(r.int(1e6));
  const placements = asset.placements ?? [];
  const what = r.int(10);
  if (what < 5 && placements.length > 0) {
    const one = r.pick(placements);
    const placed = project.assets.find((a) => a.id === one.asset);
    const item = { ...one, ...restated(r, one, placed, other) };
    return { op: 'replace', list: 'placements', asset: asset.id, id: one.id, item };
  }
  if (what === 5) {
    if (r.chance(0.3)) {
      const severity = { [r.pick(RELABELLED)]: r.pick(['off', 'info', 'error'] as const) };
      return { op: 'set', part: 'policy', value: { ...project.policy, severity } };
    }
    const part = r.pick(['policy', 'waivers', 'note', 'rehearsals'] as const);
    return { op: 'set', part, ...(other[part] === undefined ? {} : { value: other[part] }) } as Change;
  }
  if (what === 6) return { op: 'set', part: 'name', value: `Harbour ${r.int(9)}` };
  if (what === 7 && asset.events !== undefined) {
    const value = asset.events.map((e) => ({ ...e, ...saidOfEvent(r, other) }));
    return { op: 'set', asset: asset.id, part: 'events', value };
  }
  if (what === 8 && asset.actions !== undefined) {
    const value = asset.actions.map((a) => ({ ...a, ...saidOfAction(r, other) }));
    return { op: 'set', asset: asset.id, part: 'actions', value };
  }
  if (r.chance(0.3)) return { op: 'set', asset: asset.id, part: 'runsInPause', value: r.chance(0.5) };
  if (r.chance(0.3)) return { op: 'set', asset: asset.id, part: 'existsOn', value: 'authority' };
  return { op: 'set', asset: asset.id, part: 'area', value: { circle: 1 + r.int(30) } };
}

function restated(r: Random, one: Placement, placed: Asset | undefined, other: Project): Partial<Placement> {
  const like = r.pick(other.assets.flatMap((a) => a.placements ?? []).concat(one));
  const named = [...(placed?.bindings ?? []).map((b) => b.id), 'nobody'];
  return r.pick<() => Partial<Placement>>([
    () => ({ at: [r.int(40), r.int(40)] }),
    () => ({ area: { circle: 1 + r.int(30) } }),
    () => ({ note: `n${r.int(9)}` }),
    () => ({ properties: like.properties ?? { line: 'east' } }),
    () => ({ properties: { line: r.pick(['east', 'west', 'summit']) } }),
    () => ({ inside: { [r.pick(['p0', 'p1', 'p0/p1'])]: { line: r.pick(['east', 'west']) } } }),
    () => ({ asleep: one.asleep !== true }),
    () => ({ muted: [r.pick(named), r.pick(named)] }),
    () => ({ muted: [] }),
    () => ({ authority: r.pick(['host', 'guest', 'nobody']) }),
    () => ({ operator: r.pick(['host', 'guest', 'nobody']) }),
    () => ({ entry: one.entry !== true }),
  ])();
}
function saidOfEvent(r: Random, other: Project): Partial<EventDecl> {
  const like = r.pick(
    other.assets.flatMap((a) => a.events ?? []).concat({ name: '', cause: { type: 'use' } }),
  );
  return r.pick<() => Partial<EventDecl>>([
    () => ({ note: `n${r.int(9)}` }),
    () => ({ payload: like.payload ?? [] }),
    () => ({ expectsListener: r.chance(0.5) }),
    () => ({ raisedInPause: r.chance(0.5) }),
    () => ({ delivery: like.delivery ?? { reliable: r.chance(0.5) } }),
  ])();
}
function saidOfAction(r: Random, other: Project): Partial<Action> {
  const like = r.pick(other.assets.flatMap((a) => a.actions ?? []).concat({ name: '' }));
  return r.pick<() => Partial<Action>>([
    () => ({ note: `n${r.int(9)}` }),
    () => ({ params: like.params ?? [] }),
    () => ({ expectsSender: r.chance(0.5) }),
  ])();
}
