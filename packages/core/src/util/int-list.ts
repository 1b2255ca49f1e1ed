/** A growing list of 32-bit integers: amortised constant `push`, 4 bytes for each number. */
export class IntList {
  private data: Int32Array<ArrayBuffer>;
  length = 0;

  constructor(capacity = 16) {
    this.data = new Int32Array(Math.max(1, capacity));
  }
  push(value: number): void {
    if (this.length === this.data.length) {
      const grown = new Int32Array(this.data.length * 2);
      grown.set(this.data);
      this.data = grown;
    }
    this.data[this.length++] = value;
  }
  pop(): number {
    return this.data[--this.length];
  }
  get(i: number): number {
    return this.data[i];
  }
  set(i: number, value: number): void {
    this.data[i] = value;
  }
  /** A view of what is in the list; valid until the next push. */
  view(): Int32Array {
    return this.data.subarray(0, this.length);
  }
  toArray(): Int32Array {
    return this.data.slice(0, this.length);
  }
}
