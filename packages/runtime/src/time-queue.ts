/** Things that are due at whole microseconds; those due at one time in the order in which they came. */
export class TimeQueue<T> {
  private readonly buckets = new Map<number, T[]>();
  /** A binary heap of the times that have a bucket. */
  private readonly heap: number[] = [];
  /** For each time how many of its things are not wanted any more. */
  private readonly dropped = new Map<number, number>();

  /** The earliest time; Infinity when nothing is due. */
  get next(): number {
    const { heap } = this;
    while (this.dropped.size > 0 && heap.length > 0) {
      if (this.dropped.get(heap[0]) !== this.buckets.get(heap[0])!.length) break;
      this.take(heap[0]);
    }
    return heap.length > 0 ? heap[0] : Infinity;
  }
  push(time: number, item: T): void {
    const bucket = this.buckets.get(time);
    if (bucket) {
      bucket.push(item);
      return;
    }
    this.buckets.set(time, [item]);
    const { heap } = this;
    let at = heap.push(time) - 1;
    while (at > 0) {
      const up = (at - 1) >> 1;
      if (heap[up] <= time) break;
      heap[at] = heap[up];
      at = up;
    }
    heap[at] = time;
  }
  /** One thing that is due then is not wanted any more: a time of which nothing is wanted never comes. */
  drop(time: number): void {
    if (this.buckets.has(time)) this.dropped.set(time, (this.dropped.get(time) ?? 0) + 1);
  }
  /** Takes out what is due at that time, which must not be later than the earliest. */
  take(time: number): T[] {
    if (this.heap[0] !== time) return [];
    const bucket = this.buckets.get(time)!;
    this.buckets.delete(time);
    this.dropped.delete(time);
    this.sink();
    return bucket;
  }
  /** All that is left, by due time, then in the order in which it came. */
  *rest(): Iterable<{ due: number; item: T }> {
    for (const due of [...this.buckets.keys()].sort((a, b) => a - b)) {
      for (const item of this.buckets.get(due)!) yield { due, item };
    }
  }
  private sink(): void {
    const { heap } = this;
    const last = heap.pop()!;
    if (heap.length === 0) return;
    let at = 0;
    for (let down = 1; down < heap.length; down = 2 * at + 1) {
      if (down + 1 < heap.length && heap[down + 1] < heap[down]) down++;
      if (heap[down] >= last) break;
      heap[at] = heap[down];
      at = down;
    }
    heap[at] = last;
  }
}
