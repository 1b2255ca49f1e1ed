import type { ProjectIndex } from '../project/index-project.js';
import type { Alignment } from '../util/align-lists.js';

/** How many bindings each asset may get before all are numbered anew. */
export type Room = 'none' | 'for edits';

/**
 * Numbers for authored bindings that stay the same while the binding is there. Each asset has a run of them, its slots;
 * a binding keeps its slot wherever it stands in the list, and a slot that is free is given out again.
 */
export class BindingSlots {
  /** Where the slots of each asset begin; one entry more at the end, the count of all. */
  readonly base: Int32Array;
  /** For each asset the slot of each position, and back (−1 for a free one); undefined while both are the same. */
  private readonly slotOf: (Int32Array | undefined)[] = [];
  private readonly positionOf: (Int32Array | undefined)[] = [];

  constructor(index: ProjectIndex, room: Room) {
    this.base = new Int32Array(index.assets.length + 1);
    for (const { at, decl, bindings } of index.assets) {
      const more = room === 'none' ? 0 : decl.kind === 'scene' ? 64 + (bindings.length >> 3) : 4;
      this.base[at + 1] = this.base[at] + bindings.length + more;
    }
  }
  /** How many slots an asset has. */
  count(asset: number): number {
    return this.base[asset + 1] - this.base[asset];
  }
  slot(asset: number, position: number): number {
    const slots = this.slotOf[asset];
    return slots === undefined ? position : slots[position];
  }
  /** −1 for a slot that is free. */
  position(asset: number, slot: number): number {
    const positions = this.positionOf[asset];
    return positions === undefined ? slot : positions[slot];
  }
  /** The asset that an authored number belongs to. Cost: a search among the assets. */
  assetOf(authored: number): number {
    const { base } = this;
    let low = 0;
    let high = base.length - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (base[middle] <= authored) low = middle;
      else high = middle;
    }
    return low;
  }

  /** Slots for the next state of an asset's list, in which so many stand; null if it has too few. Cost: its bindings. */
  next(asset: number, { moved, fresh }: Alignment, length: number): Int32Array | null {
    const count = this.count(asset);
    if (length > count) return null;
    const slots = new Int32Array(length);
    const taken = new Uint8Array(count);
    moved.forEach((to, from) => {
      if (to < 0) return;
      slots[to] = this.slot(asset, from);
      taken[slots[to]] = 1;
    });
    let free = 0;
    for (const position of fresh) {
      while (taken[free] === 1) free++;
      slots[position] = free;
      taken[free] = 1;
    }
    return slots;
  }
  take(asset: number, slots: Int32Array): void {
    const positions = new Int32Array(this.count(asset)).fill(-1);
    slots.forEach((slot, position) => (positions[slot] = position));
    this.slotOf[asset] = slots;
    this.positionOf[asset] = positions;
  }
}
