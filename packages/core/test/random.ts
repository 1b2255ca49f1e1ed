/** How many random cases are tried; `OQUEL_SEEDS=5` tries five times as many, `0.2` a fifth, but one at least. */
export function seeds(usual: number): number {
  return Math.max(1, Math.round(usual * Number(process.env.OQUEL_SEEDS ?? 1)));
}

/** A small seeded generator (mulberry32), so that a failing case can be run again by its seed. */
export class Random {
  constructor(private state: number) {}

  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  /** A whole number from 0 up to, not including, n. */
  int(n: number): number {
    return Math.floor(this.next() * n);
  }
  chance(p: number): boolean {
    return this.next() < p;
  }
  pick<T>(list: readonly T[]): T {
    return list[this.int(list.length)];
  }
  list<T>(most: number, make: (i: number) => T): T[] {
    return Array.from({ length: this.int(most + 1) }, (_, i) => make(i));
  }
}
