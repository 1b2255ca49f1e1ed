import { asset as assetShape, binding, placement, project as projectShape } from '../project/document.js';
import { toPointer, type Problem } from '../project/problem.js';
import { Reading, type Shape } from '../project/shape.js';
import { FORMAT, type Project } from '../project/types.js';
import type { Change, ItemChange, ListName, PartChange } from './change.js';

/** Thrown when an edit cannot be applied to the project as it stands; the project is unchanged. */
export class EditRefused extends Error {
  override readonly name = 'EditRefused';
  constructor(
    /** Position of the change in its set. */
    readonly change: number,
    readonly reason: 'no-asset' | 'no-item' | 'id-taken' | 'broken-item',
    message: string,
    /** Where an item is broken, with pointers into the change. */
    readonly problems: readonly Problem[] = [],
  ) {
    super(message);
  }
}

const SHAPES: Record<ListName, Shape<unknown>> = { bindings: binding, placements: placement };
const ONE: Record<ListName, string> = { bindings: 'binding', placements: 'placement' };
type Item = { id: string };

/** A project after an edit, and the changes that take it back. */
export interface Applied {
  project: Project;
  inverse: Change[];
}

/**
 * Applies the changes in order, all or none. What is not changed is shared with the project given, which stays as it is.
 * An index past the end means the end. `from` is the place of the first change in its set, for what is refused.
 * Cost: the lists touched.
 * @throws EditRefused
 */
export function applyChanges(project: Project, changes: readonly Change[], from = 0): Applied {
  const inverse: Change[] = [];
  let current = project;
  for (let i = 0; i < changes.length;) {
    const run = appendRun(current, changes, i);
    const step =
      run > 1
        ? appendAll(current, changes.slice(i, i + run) as Insertion[], from + i)
        : applyOne(current, changes[i], from + i);
    current = step.project;
    inverse.push(...('inverses' in step ? step.inverses : [step.inverse]));
    i += Math.max(1, run);
  }
  return { project: current, inverse: inverse.reverse() };
}

type Insertion = Extract<ItemChange, { op: 'insert' }>;
/**
 * How many changes from a place on put items at the end of one and the same list: they can be done at one go, as when
 * many bindings are brought in. Cost: their number.
 */
export function appendRun(project: Project, changes: readonly Change[], from: number): number {
  const first = changes[from];
  if (first.op !== 'insert') return 0;
  const asset = project.assets.find((a) => a.id === first.asset);
  if (!asset) return 0;
  let end = asset[first.list]?.length ?? 0;
  let n = from;
  for (; n < changes.length; n++, end++) {
    const c = changes[n];
    if (c.op !== 'insert' || c.asset !== first.asset || c.list !== first.list || c.index < end) break;
  }
  return n - from;
}

/** The same as one by one, but the list is copied once. */
function appendAll(
  project: Project,
  changes: readonly Insertion[],
  at: number,
): { project: Project; inverses: Change[] } {
  const [{ asset: id, list }] = changes;
  const assetAt = project.assets.findIndex((a) => a.id === id);
  const asset = project.assets[assetAt];
  const items: Item[] = [...(asset[list] ?? [])];
  const taken = new Set(items.map((item) => item.id));
  const inverses = changes.map((change, i): Change => {
    checkItem(change, at + i);
    if (taken.has(change.item.id)) throw idTaken(change, change.item.id, at + i);
    taken.add(change.item.id);
    items.push(change.item);
    const made = i === 0 && asset[list] === undefined;
    return { op: 'remove', list, asset: id, id: change.item.id, ...(made ? { dropList: true } : {}) };
  });
  const assets = project.assets.slice();
  assets[assetAt] = { ...asset, [list]: items };
  return { project: { ...project, assets }, inverses };
}

function applyOne(project: Project, change: Change, at: number): { project: Project; inverse: Change } {
  if (change.op === 'add') return addAsset(project, change, at);
  if (change.op === 'set' && change.asset === undefined) {
    checkPart(change, at);
    const { next, inverse } = setPart(project, change);
    return { project: next, inverse: inverse as Change };
  }
  const assetAt = project.assets.findIndex((a) => a.id === change.asset);
  if (assetAt < 0) {
    throw new EditRefused(at, 'no-asset', `there is no scene, prefab or widget "${change.asset}"`);
  }
  const asset = project.assets[assetAt];
  const assets = project.assets.slice();
  if (change.op === 'drop') {
    assets.splice(assetAt, 1);
    return { project: { ...project, assets }, inverse: { op: 'add', index: assetAt, item: asset } };
  }
  if (change.op === 'set') {
    checkPart(change, at);
    const { next, inverse } = setPart(asset, change);
    assets[assetAt] = next;
    return { project: { ...project, assets }, inverse: { ...inverse, asset: asset.id } as Change };
  }
  const items: readonly Item[] = asset[change.list] ?? [];
  const { next, inverse } = changeList(items, change, at);
  const changed = { ...asset, [change.list]: next };
  if (change.op === 'remove' && change.dropList && next.length === 0) delete changed[change.list];
  assets[assetAt] = changed;
  const madeList = asset[change.list] === undefined && inverse.op === 'remove';
  return { project: { ...project, assets }, inverse: madeList ? { ...inverse, dropList: true } : inverse };
}

function addAsset(
  project: Project,
  change: Extract<Change, { op: 'add' }>,
  at: number,
): { project: Project; inverse: Change } {
  check(assetShape, change.item, ['item'], `${change.item.kind} ${change.item.id}`, at);
  const { id } = change.item;
  if (project.assets.some((a) => a.id === id)) {
    throw new EditRefused(at, 'id-taken', `there already is a scene, prefab or widget "${id}"`);
  }
  const assets = project.assets.slice();
  assets.splice(Math.min(Math.max(0, change.index), assets.length), 0, change.item);
  return { project: { ...project, assets }, inverse: { op: 'drop', asset: id } };
}

/** The same thing with another part, every other one in its place. */
function setPart<T extends object>(whole: T, change: PartChange): { next: T; inverse: object } {
  const { part, value, before } = change;
  const entries = Object.entries(whole);
  const place = entries.findIndex(([name]) => name === part);
  const old = (whole as Record<string, unknown>)[part];
  const after = entries[place + 1]?.[0];
  const inverse =
    place < 0
      ? { op: 'set', part }
      : {
          op: 'set',
          part,
          value: old,
          ...(value === undefined && after !== undefined ? { before: after } : {}),
        };
  if (place >= 0 && value !== undefined) entries[place] = [part, value];
  else if (place >= 0) entries.splice(place, 1);
  else if (value !== undefined) {
    const to = entries.findIndex(([name]) => name === before);
    entries.splice(to < 0 ? entries.length : to, 0, [part, value]);
  }
  return { next: Object.fromEntries(entries) as T, inverse };
}

/** Checks a part as it would stand in an otherwise empty document. */
function checkPart(change: PartChange, at: number): void {
  const { part, value } = change;
  if (value === undefined) {
    if (part === 'name') throw new EditRefused(at, 'broken-item', 'a project cannot be without a name');
    return;
  }
  const [shape, bare] =
    change.asset === undefined
      ? [projectShape, { format: FORMAT, name: 'x', assets: [] }]
      : [assetShape, { id: 'x', kind: 'scene' }];
  check(shape, { ...bare, [part]: value }, [], part, at);
}

function check(shape: Shape<unknown>, value: unknown, under: string[], what: string, at: number): void {
  const reading = new Reading();
  shape.check(value, reading);
  if (reading.problems.length === 0) return;
  const base = toPointer(['changes', at, ...under]);
  const problems = reading.problems.map((p) => ({ ...p, pointer: base + p.pointer }));
  const [{ expected, found, pointer }] = problems;
  const message = `the ${what} is not sound: expected ${expected}, found ${found} at ${pointer}`;
  throw new EditRefused(at, 'broken-item', message, problems);
}

function changeList(
  items: readonly Item[],
  change: ItemChange,
  at: number,
): { next: Item[]; inverse: ItemChange } {
  const { list, asset } = change;
  const next = items.slice();
  if (change.op === 'insert') {
    checkItem(change, at);
    checkFree(items, change.item.id, change, at);
    const index = Math.min(Math.max(0, change.index), items.length);
    next.splice(index, 0, change.item);
    return { next, inverse: { op: 'remove', list, asset, id: change.item.id } };
  }
  const index = items.findIndex((item) => item.id === change.id);
  if (index < 0) {
    throw new EditRefused(at, 'no-item', `${asset} has no ${ONE[list]} "${change.id}"`);
  }
  const before = items[index];
  if (change.op === 'remove') {
    next.splice(index, 1);
    return { next, inverse: { op: 'insert', list, asset, index, item: before } as ItemChange };
  }
  if (change.op === 'move') {
    const to = Math.min(Math.max(0, change.index), items.length - 1);
    next.splice(index, 1);
    next.splice(to, 0, before);
    return { next, inverse: { op: 'move', list, asset, id: change.id, index } };
  }
  checkItem(change, at);
  if (change.item.id !== change.id) checkFree(items, change.item.id, change, at);
  next[index] = change.item;
  return { next, inverse: { op: 'replace', list, asset, id: change.item.id, item: before } as ItemChange };
}

function checkItem(change: ItemChange & { item: unknown }, at: number): void {
  check(SHAPES[change.list], change.item, ['item'], ONE[change.list], at);
}
function checkFree(items: readonly Item[], id: string, change: ItemChange, at: number): void {
  if (items.some((item) => item.id === id)) throw idTaken(change, id, at);
}
function idTaken({ asset, list }: ItemChange, id: string, at: number): EditRefused {
  return new EditRefused(at, 'id-taken', `${asset} already has a ${ONE[list]} "${id}"`);
}
