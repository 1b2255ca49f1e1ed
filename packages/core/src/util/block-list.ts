/** Items in one block; a block of twice as many is split. */
const BLOCK = 128;
/** Look-ups by id that are made by searching, before an index of the ids is worth its making. */
const SEARCHES = 3;

interface Block<T> {
  items: T[];
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
  private where: Map<string, Block<T>> | null = null;
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
    return this.blockOf(id) !== undefined;
  }
  /** Where the item with that id is; null if there is none. */
  spot(id: string): Spot<T> | null {
    const block = this.blockOf(id);
    return block ? { block, place: this.placeIn(block, id) } : null;
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
    this.where?.set(this.idOf(item), block);
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
    this.where?.set(this.idOf(item), block);
  }
  /** Puts another item in the place of the one with that id, which must be there. */
  replace(id: string, item: T): void {
    this.replaceAt(this.spot(id)!, item);
  }
  toArray(): T[] {
    return this.blocks.flatMap((b) => b.items);
  }

  private blockOf(id: string): Block<T> | undefined {
    if (this.where) return this.where.get(id);
    if (this.searches++ < SEARCHES) return this.blocks.find((b) => this.placeIn(b, id) >= 0);
    const where = new Map<string, Block<T>>();
    for (const block of this.blocks) for (const item of block.items) where.set(this.idOf(item), block);
    this.where = where;
    return where.get(id);
  }
  private placeIn({ items }: Block<T>, id: string): number {
    for (let i = 0; i < items.length; i++) if (this.idOf(items[i]) === id) return i;
    return -1;
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
    if (this.where) for (const item of half.items) this.where.set(this.idOf(item), half);
  }
}
