import type { Asset, Project } from '../project/types.js';
import { BlockList } from '../util/block-list.js';
import type { Change, ItemChange, ListName, PartChange } from './change.js';
import { checkAsset, checkItem, checkPart, EditRefused, idTaken, noItem } from './check-change.js';
import { own } from '../util/own.js';

type Item = { id: string };
type Insertion = Extract<ItemChange, { op: 'insert' }>;

/** A project after an edit, and the changes that undo it. */
export interface Applied {
  project: Project;
  inverse: Change[];
}

/**
 * Applies the changes in order, all or none. What is not changed is shared with the project given, which stays as it is.
 * An index past the end means the end. Cost: the lists touched, and for each change the square root of its list.
 * @throws EditRefused
 */
export function applyChanges(project: Project, changes: readonly Change[]): Applied {
  const applier = new ChangeApplier(project);
  for (const change of changes) applier.apply(change);
  return applier.result();
}

/**
 * Applies changes one after the other, so that a long edit can be made in slices. After a change has been refused the
 * applier is of no more use.
 */
export class ChangeApplier {
  /** The project's own parts; its assets are in `assets`. */
  private head: Project;
  private readonly assets: BlockList<Asset>;
  /** Lists that have been touched; in `assets` there is a stale one, or an empty one, in their place. */
  private readonly lists = new Map<string, Partial<Record<ListName, BlockList<Item>>>>();
  private readonly inverses: Change[] = [];
  private count = 0;

  constructor(project: Project) {
    this.head = project;
    this.assets = new BlockList(project.assets, (a) => a.id);
  }

  /** @throws EditRefused */
  apply(change: Change): void {
    this.inverses.push(this.one(change, this.count));
    this.count++;
  }
  result(): Applied {
    for (const id of this.lists.keys()) this.settle(id);
    this.lists.clear();
    return { project: { ...this.head, assets: this.assets.toArray() }, inverse: this.inverses.toReversed() };
  }

  private one(change: Change, n: number): Change {
    if (change.op === 'add') return this.add(change, n);
    if (change.op === 'set') return this.set(change, n);
    const asset = this.asset(change.asset, n);
    if (change.op === 'drop') {
      const index = this.assets.indexOf(change.asset);
      this.settle(change.asset);
      const item = this.assets.get(change.asset)!;
      this.assets.remove(change.asset);
      return { op: 'add', index, item };
    }
    return this.item(change, asset, n);
  }

  private asset(id: string, n: number): Asset {
    const asset = this.assets.get(id);
    if (asset) return asset;
    throw new EditRefused(n, 'no-asset', `there is no scene, prefab or widget "${id}"`);
  }
  private add(change: Extract<Change, { op: 'add' }>, n: number): Change {
    checkAsset(change.item, n);
    const { id } = change.item;
    if (this.assets.has(id)) {
      throw new EditRefused(n, 'id-taken', `there already is a scene, prefab or widget "${id}"`);
    }
    this.assets.insert(Math.min(Math.max(0, change.index), this.assets.length), change.item);
    return { op: 'drop', asset: id };
  }
  private set(change: PartChange, n: number): Change {
    if (change.asset === undefined) {
      checkPart(change, n);
      const { next, inverse } = setPart(this.head, change);
      this.head = next;
      return inverse as Change;
    }
    const asset = this.asset(change.asset, n);
    checkPart(change, n);
    const { next, inverse } = setPart(asset, change);
    this.assets.replace(asset.id, next);
    return { ...inverse, asset: asset.id } as Change;
  }

  private item(change: ItemChange, asset: Asset, n: number): Change {
    const isNew = asset[change.list] === undefined;
    const list = this.list(asset, change.list);
    if (change.op === 'insert') {
      const inverse = insert(list, change, n);
      // The list has its place among the asset's parts from now on.
      if (!isNew) return inverse;
      this.assets.replace(asset.id, { ...asset, [change.list]: [] });
      return { ...inverse, dropList: true } as Change;
    }
    const spot = list.spot(change.id);
    if (!spot) throw noItem(change, n);
    const { list: name, asset: owner } = change;
    const before = spot.block.items[spot.place];
    switch (change.op) {
      case 'remove': {
        const index = list.indexAt(spot);
        list.removeAt(spot);
        if (change.dropList && list.length === 0) this.dropList(asset, name);
        return { op: 'insert', list: name, asset: owner, index, item: before } as ItemChange;
      }
      case 'move': {
        const index = list.indexAt(spot);
        list.removeAt(spot);
        list.insert(Math.min(Math.max(0, change.index), list.length), before);
        return { op: 'move', list: name, asset: owner, id: change.id, index };
      }
      case 'replace':
        checkItem(change, n);
        if (change.item.id !== change.id && list.has(change.item.id)) throw idTaken(change, n);
        list.replaceAt(spot, change.item);
        return { op: 'replace', list: name, asset: owner, id: change.item.id, item: before } as ItemChange;
    }
  }

  private list(asset: Asset, name: ListName): BlockList<Item> {
    let lists = this.lists.get(asset.id);
    if (!lists) this.lists.set(asset.id, (lists = {}));
    return (lists[name] ??= new BlockList<Item>(asset[name] ?? [], (item) => item.id));
  }
  private dropList(asset: Asset, name: ListName): void {
    const { [name]: _gone, ...rest } = asset;
    this.assets.replace(asset.id, rest);
    delete this.lists.get(asset.id)![name];
  }
  /** Puts the touched lists of an asset into it. */
  private settle(id: string): void {
    const lists = this.lists.get(id);
    const asset = this.assets.get(id);
    if (!lists || !asset) return;
    const next = { ...asset };
    for (const name of ['bindings', 'placements'] as const) {
      // A list that was only looked at, to find that something is not there, has not come to be.
      if (lists[name] && next[name] !== undefined) next[name] = lists[name].toArray() as never;
    }
    this.assets.replace(id, next);
    this.lists.delete(id);
  }
}

function insert(list: BlockList<Item>, change: Insertion, n: number): ItemChange {
  checkItem(change, n);
  const { id } = change.item;
  if (list.has(id)) throw idTaken(change, n);
  list.insert(Math.min(Math.max(0, change.index), list.length), change.item);
  return { op: 'remove', list: change.list, asset: change.asset, id };
}

/** The same thing with another part, every other one in its place. */
function setPart<T extends object>(whole: T, change: PartChange): { next: T; inverse: object } {
  const { part, value, before } = change;
  const entries = Object.entries(whole);
  const place = entries.findIndex(([name]) => name === part);
  const old = own(whole as Record<string, unknown>, part);
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
