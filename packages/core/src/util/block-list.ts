/** Items in one block; a block of twice as many is split. */
const BLOCK = 512;
/** Look-ups by id that are made by searching, before an index of the ids is worth its making. */
const SEARCHES = 3;

interface Block<T> {
  items: T[];
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
  /** Position of the item with that id; −1 if there is none. */
  indexOf(id: string): number {
    const block = this.blockOf(id);
    if (!block) return -1;
    let before = 0;
    for (const b of this.blocks) {
      if (b === block) break;
      before += b.items.length;
    }
    return before + this.placeIn(block, id);
  }
  get(id: string): T | undefined {
    const block = this.blockOf(id);
    return block?.items[this.placeIn(block, id)];
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
  /** Takes out the item with that id, which must be there. */
  remove(id: string): void {
    const block = this.blockOf(id)!;
    block.items.splice(this.placeIn(block, id), 1);
    this.length--;
    this.where?.delete(id);
    if (block.items.length === 0) this.blocks.splice(this.blocks.indexOf(block), 1);
  }
  /** Puts another item in the place of the one with that id, which must be there. */
  replace(id: string, item: T): void {
    const block = this.blockOf(id)!;
    block.items[this.placeIn(block, id)] = item;
    this.where?.delete(id);
    this.where?.set(this.idOf(item), block);
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
    return items.findIndex((item) => this.idOf(item) === id);
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
