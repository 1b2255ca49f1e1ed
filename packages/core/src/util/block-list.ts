/** Items in one block; a block of twice as many is split. */
const BLOCK = 128;
/** Look-ups by id that are made by searching, before an index of the ids is worth its making. */
const SEARCHES = 3;

interface Block<T> {
  items: T[];
}
/** An item of the index. With it, its place in the block is found by identity, without looking into the other items. */
interface Known<T> {
  item: T;
  block: Block<T>;
}
/** Where an item is, until the list changes. */
export interface Spot<T> {
  block: Block<T>;
  place: number;
}

/**
 * A list whose items have ids, for many changes in the middle. It is kept as blocks, so that an insertion, removal or
 * look-up costs about the square root of the list's length instead of the length. Blocks are copied when they first
 * change: the array that is given stays as it is. Cost of making it: one slice of the list; of the index of ids, which
 * is made after a few look-ups: the list.
 */
export class BlockList<T> {
  private readonly blocks: Block<T>[] = [];
  private where: Map<string, Known<T>> | null = null;
  private searches = 0;
  length: number;

  constructor(
    items: readonly T[],
    private readonly idOf: (item: T) => string,
  ) {
    this.length = items.length;
    for (let i = 0; i < items.length; i += BLOCK) this.blocks.push({ items: items.slice(i, i + BLOCK) });
  }

  has(id: string): boolean {
    return this.where ? this.where.has(id) : this.spot(id) !== null;
  }
  /** Where the item with that id is; null if there is none. */
  spot(id: string): Spot<T> | null {
    if (!this.where && this.searches++ < SEARCHES) return this.search(id);
    const known = (this.where ??= this.index()).get(id);
    return known ? { block: known.block, place: known.block.items.indexOf(known.item) } : null;
  }
  /** The position of a spot in the list. */
  indexAt({ block, place }: Spot<T>): number {
    let before = 0;
    for (const b of this.blocks) {
      if (b === block) break;
      before += b.items.length;
    }
    return before + place;
  }
  /** Position of the item with that id; −1 if there is none. */
  indexOf(id: string): number {
    const spot = this.spot(id);
    return spot ? this.indexAt(spot) : -1;
  }
  get(id: string): T | undefined {
    const spot = this.spot(id);
    return spot?.block.items[spot.place];
  }
  at(index: number): T | undefined {
    const { block, place } = this.find(index);
    return block?.items[place];
  }
  /** Puts an item in front of the one at that position; past the end it comes last. */
  insert(index: number, item: T): void {
    if (this.blocks.length === 0) this.blocks.push({ items: [] });
    let { block, place } = this.find(index);
    block ??= this.blocks[this.blocks.length - 1];
    if (index >= this.length) place = block.items.length;
    block.items.splice(place, 0, item);
    this.length++;
    this.where?.set(this.idOf(item), { item, block });
    if (block.items.length >= 2 * BLOCK) this.split(block);
  }
  /** Takes out the item at a spot. */
  removeAt({ block, place }: Spot<T>): void {
    const [item] = block.items.splice(place, 1);
    this.length--;
    this.where?.delete(this.idOf(item));
    if (block.items.length === 0) this.blocks.splice(this.blocks.indexOf(block), 1);
  }
  /** Takes out the item with that id, which must be there. */
  remove(id: string): void {
    this.removeAt(this.spot(id)!);
  }
  /** Puts another item in the place of the one at a spot. */
  replaceAt({ block, place }: Spot<T>, item: T): void {
    this.where?.delete(this.idOf(block.items[place]));
    block.items[place] = item;
    this.where?.set(this.idOf(item), { item, block });
  }
  /** Puts another item in the place of the one with that id, which must be there. */
  replace(id: string, item: T): void {
    this.replaceAt(this.spot(id)!, item);
  }
  toArray(): T[] {
    return this.blocks.flatMap((b) => b.items);
  }

  private search(id: string): Spot<T> | null {
    for (const block of this.blocks) {
      const place = block.items.findIndex((item) => this.idOf(item) === id);
      if (place >= 0) return { block, place };
    }
    return null;
  }
  private index(): Map<string, Known<T>> {
    const where = new Map<string, Known<T>>();
    for (const block of this.blocks)
      for (const item of block.items) where.set(this.idOf(item), { item, block });
    return where;
  }
  private find(index: number): { block: Block<T> | undefined; place: number } {
    let place = index;
    for (const block of this.blocks) {
      if (place < block.items.length) return { block, place };
      place -= block.items.length;
    }
    return { block: undefined, place: 0 };
  }
  private split(block: Block<T>): void {
    const half: Block<T> = { items: block.items.splice(BLOCK) };
    this.blocks.splice(this.blocks.indexOf(block) + 1, 0, half);
    if (this.where) for (const item of half.items) this.where.get(this.idOf(item))!.block = half;
  }
}
