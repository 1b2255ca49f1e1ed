/** A binary min-heap of numbers by a key. Push and pop: O(log n). */
export class MinHeap {
  private readonly keys: number[] = [];
  private readonly items: number[] = [];

  get size(): number {
    return this.items.length;
  }
  /** The least key; undefined when it is empty. */
  get leastKey(): number | undefined {
    return this.keys[0];
  }
  push(key: number, item: number): void {
    const { keys, items } = this;
    let at = items.length;
    for (; at > 0; at = (at - 1) >> 1) {
      const up = (at - 1) >> 1;
      if (keys[up] <= key) break;
      keys[at] = keys[up];
      items[at] = items[up];
    }
    keys[at] = key;
    items[at] = item;
  }
  /** Takes the item with the least key out; undefined when it is empty. */
  pop(): number | undefined {
    const { keys, items } = this;
    const [top] = items;
    const key = keys.pop();
    const item = items.pop();
    if (key === undefined || item === undefined || items.length === 0) return top;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= items.length) break;
      if (child + 1 < items.length && keys[child + 1] < keys[child]) child++;
      if (keys[child] >= key) break;
      keys[at] = keys[child];
      items[at] = items[child];
      at = child;
    }
    keys[at] = key;
    items[at] = item;
    return top;
  }
}
