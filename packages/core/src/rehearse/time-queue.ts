import TinyQueue from 'tinyqueue';

/**
 * Things that are due at whole microseconds; those due at one time in the order in which they came. Buckets by time
 * and a binary heap of the times that have one: `push` is constant for a time that is there, else log of the times.
 */
export class TimeQueue<T> {
  private readonly buckets = new Map<number, T[]>();
  private readonly times = new TinyQueue<number>([], (a, b) => a - b);
  /** For each time how many of its things are not wanted any more. */
  private readonly dropped = new Map<number, number>();

  /** The earliest time; Infinity when nothing is due. */
  get next(): number {
    while (this.dropped.size > 0 && this.times.length > 0) {
      const time = this.times.peek()!;
      if (this.dropped.get(time) !== this.buckets.get(time)!.length) break;
      this.take(time);
    }
    return this.times.peek() ?? Infinity;
  }
  push(time: number, item: T): void {
    const bucket = this.buckets.get(time);
    if (bucket) {
      bucket.push(item);
      return;
    }
    this.buckets.set(time, [item]);
    this.times.push(time);
  }
  /** One thing that is due then is not wanted any more: a time of which nothing is wanted never comes. */
  drop(time: number): void {
    if (this.buckets.has(time)) this.dropped.set(time, (this.dropped.get(time) ?? 0) + 1);
  }
  /** Takes out what is due at that time, which must not be later than the earliest. */
  take(time: number): T[] {
    if (this.times.peek() !== time) return [];
    const bucket = this.buckets.get(time)!;
    this.buckets.delete(time);
    this.dropped.delete(time);
    this.times.pop();
    return bucket;
  }
  /** All that is left, by due time, then in the order in which it came. */
  *rest(): Iterable<{ due: number; item: T }> {
    const times = [...this.buckets.keys()].sort((a, b) => a - b);
    for (const due of times) for (const item of this.buckets.get(due)!) yield { due, item };
  }
}
