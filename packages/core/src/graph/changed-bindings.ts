import type { Expansion } from '../expand/expansion.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Binding } from '../project/types.js';
import { alignLists } from '../util/align-lists.js';
import type { GraphEdit } from './graph-delta.js';

/** A binding in one copy of its owner. */
export interface Copy {
  owner: number;
  position: number;
}
/** An asset some of whose bindings differ, or are to be resolved again, in all copies. */
interface ChangedAsset {
  asset: number;
  /** Positions of what goes, in the list before, and of what comes, in the list after. */
  gone: readonly number[];
  fresh: readonly number[];
  /** The slots of the list after; null where they stay. */
  slots: Int32Array | null;
}
/** A binding that changes in some of its copies: their owners before, and after. */
interface ChangedCopies {
  gone: Set<number>;
  fresh: Set<number>;
}

/**
 * Which bindings an edit takes out of a graph and puts into it, in which copies: what is gone is asked for before the expansion
 * goes over to its next state, what is fresh afterwards. Cost: the lists that differ, and those copies.
 */
export class ChangedBindings {
  /** Authored bindings that are in it, each once. */
  readonly authored = new Set<number>();
  /** By authored number, those that change in some copies only. */
  readonly partly = new Map<number, ChangedCopies>();

  private constructor(
    private readonly x: Expansion,
    private readonly assets: readonly ChangedAsset[],
  ) {}

  /** Null where an asset has no room for its bindings. */
  static of(
    x: Expansion,
    index: ProjectIndex,
    { again, withdrawn, restored, things }: Required<GraphEdit>,
    leaving: ReadonlySet<number>,
  ): ChangedBindings | null {
    const assets = changedAssets(x, index, again, withdrawn, restored);
    if (!assets) return null;
    const changed = new ChangedBindings(x, assets);
    const { partly } = changed;
    for (const [number, owners] of things.partly) {
      const staying = [...owners].filter((i) => !leaving.has(i));
      partly.set(number, { gone: new Set(staying), fresh: new Set(staying) });
    }
    for (const [number, owners] of changed.ownOf(leaving)) {
      for (const i of owners) changed.part(number).gone.add(i);
    }
    for (const number of restored) partly.delete(number);
    for (const number of changed.whole('gone')) partly.delete(number);
    for (const number of [...changed.whole('gone'), ...partly.keys()]) changed.authored.add(number);
    return changed;
  }

  /** The copies that go, in running order. */
  gone(): Copy[] {
    return this.copies('gone');
  }
  /** Goes over to the positions after, once the expansion has its next index. */
  takeSlots(): void {
    for (const { asset, slots } of this.assets) if (slots) this.x.slots.take(asset, slots);
  }
  /** The copies that come, in running order, with those of instances that come. */
  fresh(coming: Iterable<number>): Copy[] {
    const whole = this.whole('fresh');
    for (const number of whole) this.authored.add(number);
    for (const [number, owners] of this.ownOf(coming)) {
      if (whole.has(number)) continue;
      this.authored.add(number);
      for (const i of owners) this.part(number).fresh.add(i);
    }
    return this.copies('fresh');
  }
  /** Those that change in all copies. */
  whole(which: 'gone' | 'fresh'): Set<number> {
    const numbers = this.assets.flatMap(({ asset, [which]: positions }) =>
      positions.map((p) => authoredNumber(this.x, asset, p)),
    );
    return new Set(numbers);
  }

  private part(number: number): ChangedCopies {
    let copies = this.partly.get(number);
    if (!copies) this.partly.set(number, (copies = { gone: new Set(), fresh: new Set() }));
    return copies;
  }
  /** The own bindings of instances, each with those instances. */
  private ownOf(instances: Iterable<number>): Map<number, Set<number>> {
    const own = new Map<number, Set<number>>();
    for (const i of instances) {
      const { at, bindings } = this.x.assetOf(i);
      for (let position = 0; position < bindings.length; position++) {
        const number = authoredNumber(this.x, at, position);
        const owners = own.get(number);
        if (owners) owners.add(i);
        else own.set(number, new Set([i]));
      }
    }
    return own;
  }
  private copies(which: 'gone' | 'fresh'): Copy[] {
    const { x, assets, partly } = this;
    const copies: Copy[] = [];
    for (const { asset, [which]: positions } of assets) {
      if (positions.length === 0) continue;
      for (const owner of x.instancesOf(asset)) {
        for (const position of positions) copies.push({ owner, position });
      }
    }
    for (const [number, { [which]: owners }] of partly) {
      const asset = x.slots.assetOf(number);
      const position = x.slots.position(asset, number - x.slots.base[asset]);
      if (position >= 0) for (const owner of owners) copies.push({ owner, position });
    }
    return copies.sort((a, b) => a.owner - b.owner || a.position - b.position);
  }
}

function authoredNumber({ slots }: Expansion, asset: number, position: number): number {
  return slots.base[asset] + slots.slot(asset, position);
}

function changedAssets(
  x: Expansion,
  index: ProjectIndex,
  ...[again, withdrawn, restored]: readonly ReadonlySet<number>[]
): ChangedAsset[] | null {
  const [same, out, back] = [again, withdrawn, restored].map((all) => positionsOf(x, all));
  const changed: ChangedAsset[] = [];
  for (const { at: asset, bindings } of index.assets) {
    const before = x.index.assets[asset].bindings;
    const [staying, outs, backs] = [same, out, back].map((all) => all.get(asset) ?? []);
    if (bindings === before) {
      if ([staying, outs, backs].every((positions) => positions.length === 0)) continue;
      changed.push({ asset, gone: [...staying, ...outs], fresh: [...staying, ...backs], slots: null });
      continue;
    }
    const aligned = alignLists<Binding>(before, bindings);
    const slots = x.slots.next(asset, aligned, bindings.length);
    if (!slots) return null;
    const isOut = new Set(backs);
    const stays = (position: number): boolean => aligned.moved[position] >= 0;
    const gone = [...aligned.gone.filter((p) => !isOut.has(p)), ...staying.filter(stays)];
    const fresh = [...staying, ...backs].filter(stays).map((p) => aligned.moved[p]);
    changed.push({ asset, gone, fresh: [...aligned.fresh, ...fresh], slots });
  }
  return changed;
}
/** Where bindings stand now, by their owner's asset. */
function positionsOf({ slots, index }: Expansion, authored: ReadonlySet<number>): Map<number, number[]> {
  const byAsset = new Map<number, number[]>();
  for (const number of authored) {
    const asset = slots.assetOf(number);
    const position = slots.position(asset, number - slots.base[asset]);
    if (position < 0 || position >= index.assets[asset].bindings.length) continue;
    const own = byAsset.get(asset);
    if (own) own.push(position);
    else byAsset.set(asset, [position]);
  }
  return byAsset;
}
