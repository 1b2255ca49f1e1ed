/** How many things have each value, from 1 on; so the greatest value is known however they change. */
export class Histogram {
  private readonly counts = new Map<number, number>();

  /** A thing goes over from one value to another; 0 is none. */
  move(from: number, to: number): void {
    if (from === to) return;
    if (from > 0) {
      const left = this.counts.get(from)! - 1;
      if (left === 0) this.counts.delete(from);
      else this.counts.set(from, left);
    }
    if (to > 0) this.counts.set(to, (this.counts.get(to) ?? 0) + 1);
  }
  /** 0 if there is nothing. Cost: the distinct values. */
  get greatest(): number {
    let greatest = 0;
    for (const value of this.counts.keys()) if (value > greatest) greatest = value;
    return greatest;
  }
}
