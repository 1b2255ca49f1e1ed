import { binding, placement } from '../project/document.js';
import { toPointer, type Problem } from '../project/problem.js';
import { Reading, type Shape } from '../project/shape.js';
import type { Project } from '../project/types.js';
import type { Change, ListName } from './change.js';

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
  changes.forEach((change, i) => {
    const step = applyOne(current, change, from + i);
    current = step.project;
    inverse.unshift(step.inverse);
  });
  return { project: current, inverse };
}

function applyOne(project: Project, change: Change, at: number): { project: Project; inverse: Change } {
  const assetAt = project.assets.findIndex((a) => a.id === change.asset);
  if (assetAt < 0) {
    throw new EditRefused(at, 'no-asset', `there is no scene, prefab or widget "${change.asset}"`);
  }
  const asset = project.assets[assetAt];
  const items: readonly Item[] = asset[change.list] ?? [];
  const { next, inverse } = changeList(items, change, at);
  const changed = { ...asset, [change.list]: next };
  if (change.op === 'remove' && change.dropList && next.length === 0) delete changed[change.list];
  const assets = project.assets.slice();
  assets[assetAt] = changed;
  const madeList = asset[change.list] === undefined && inverse.op === 'remove';
  return { project: { ...project, assets }, inverse: madeList ? { ...inverse, dropList: true } : inverse };
}

function changeList(items: readonly Item[], change: Change, at: number): { next: Item[]; inverse: Change } {
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
    return { next, inverse: { op: 'insert', list, asset, index, item: before } as Change };
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
  return { next, inverse: { op: 'replace', list, asset, id: change.item.id, item: before } as Change };
}

function checkItem(change: Change & { item: unknown }, at: number): void {
  const reading = new Reading();
  SHAPES[change.list].check(change.item, reading);
  if (reading.problems.length === 0) return;
  const base = toPointer(['changes', at, 'item']);
  const problems = reading.problems.map((p) => ({ ...p, pointer: base + p.pointer }));
  const [{ expected, found, pointer }] = problems;
  const message = `the ${ONE[change.list]} is not sound: expected ${expected}, found ${found} at ${pointer}`;
  throw new EditRefused(at, 'broken-item', message, problems);
}
function checkFree(items: readonly Item[], id: string, change: Change, at: number): void {
  if (items.some((item) => item.id === id)) {
    throw new EditRefused(at, 'id-taken', `${change.asset} already has a ${ONE[change.list]} "${id}"`);
  }
}
