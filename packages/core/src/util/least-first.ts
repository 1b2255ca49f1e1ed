import TinyQueue from 'tinyqueue';

/** An item with the number by which it waits. */
export type Keyed = [key: number, item: number];

/** A queue that gives out the item with the least key first. Push and pop: O(log n). */
export function leastFirst(): TinyQueue<Keyed> {
  return new TinyQueue<Keyed>([], ([a], [b]) => a - b);
}
