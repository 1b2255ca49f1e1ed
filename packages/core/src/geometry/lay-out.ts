import type { Vec2 } from '../project/types.js';

/** Metres of a place on a plan, at the most and at the least: names stand beside marks. */
const CELL: { most: Vec2; least: Vec2 } = { most: [10, 6], least: [4, 3] };
/** So many places fit beside and above one another before they become smaller. */
const ACROSS = 8;
/** Rings around a thing that are tried before the next free place of the plan is taken. */
const RINGS = 6;

/** On which side of what it talks to something is put first. */
export type Side = 'right' | 'left';

/**
 * Finds places for things that nobody has placed: in cells of a grid, one in each, near what they talk to, the rest row by
 * row. A plan with a size grows downwards when it is full. The same for the same questions in the same order. Cost: the
 * things that stand there, and a bounded number of cells for each that is placed; rows are walked once.
 */
export class LayOut {
  private readonly cell: Vec2;
  private readonly columns: number;
  private readonly taken = new Set<number>();
  /** Where the next free row, and the next free cell, is looked for. */
  private nextRow = 0;
  private nextCell = 0;
  private lowest = 0;

  constructor(
    private readonly size: Vec2 | undefined,
    standing: Iterable<Vec2>,
  ) {
    this.cell = [0, 1].map((i) =>
      size ? Math.min(CELL.most[i], Math.max(CELL.least[i], size[i] / ACROSS)) : CELL.most[i],
    ) as Vec2;
    this.columns = size ? Math.max(1, Math.floor(size[0] / this.cell[0])) : ACROSS;
    for (const at of standing) {
      const [column, row] = this.cellOf(at);
      if (column >= 0 && column < this.columns && row >= 0) this.taken.add(this.number(column, row));
    }
  }

  /** A place near another, on that side first. */
  near(at: Vec2, side: Side): Vec2 {
    const [column, row] = this.cellOf(at);
    for (const [dx, dy] of side === 'right' ? RIGHT : LEFT) {
      if (this.isWithin(row + dy) && this.isFree(column + dx, row + dy))
        return this.take(column + dx, row + dy);
    }
    return this.next();
  }
  /** The beginning of a row in which nothing stands yet. */
  row(): Vec2 {
    for (; ; this.nextRow++) {
      let isFree = true;
      for (let c = 0; c < Math.min(this.columns, ACROSS) && isFree; c++)
        isFree = this.isFree(c, this.nextRow);
      if (isFree) return this.take(0, this.nextRow);
      if (!this.isWithin(this.nextRow + 1)) return this.next();
    }
  }
  /** How large the plan must be to hold what was placed; null if it is large enough, or has no size. */
  grown(): Vec2 | null {
    if (!this.size) return null;
    const bottom = Math.ceil(this.lowest * this.cell[1]);
    return bottom > this.size[1] ? [this.size[0], bottom] : null;
  }

  /** The next free place, row by row. */
  next(): Vec2 {
    while (!this.isFree(this.nextCell % this.columns, Math.floor(this.nextCell / this.columns)))
      this.nextCell++;
    return this.take(this.nextCell % this.columns, Math.floor(this.nextCell / this.columns));
  }
  private take(column: number, row: number): Vec2 {
    this.taken.add(this.number(column, row));
    this.lowest = Math.max(this.lowest, row + 1);
    return [half((column + 0.5) * this.cell[0]), half((row + 0.5) * this.cell[1])];
  }
  private isFree(column: number, row: number): boolean {
    if (column < 0 || column >= this.columns || row < 0) return false;
    return !this.taken.has(this.number(column, row));
  }
  private isWithin(row: number): boolean {
    return !this.size || (row + 1) * this.cell[1] <= this.size[1];
  }
  private cellOf([x, y]: Vec2): [number, number] {
    return [Math.floor(x / this.cell[0]), Math.floor(y / this.cell[1])];
  }
  private number(column: number, row: number): number {
    return row * this.columns + column;
  }
}
function half(metres: number): number {
  return Math.round(metres * 2) / 2;
}

/** Steps to the cells around one, those that are nearest and on the right first. */
const RIGHT: readonly [number, number][] = around();
const LEFT = RIGHT.map(([dx, dy]): [number, number] => [-dx, dy]);
function around(): [number, number][] {
  const steps: [number, number, number][] = [];
  for (let dx = -RINGS; dx <= RINGS; dx++) {
    for (let dy = -RINGS; dy <= RINGS; dy++) {
      // What is on the other side, or straight above and below, reads worse.
      if (dx !== 0 || dy !== 0) steps.push([dx, dy, Math.hypot(dx, dy * 1.2) + (dx > 0 ? 0 : 1.5 - dx)]);
    }
  }
  return steps.sort((a, b) => a[2] - b[2] || b[1] - a[1] || a[0] - b[0]).map(([dx, dy]) => [dx, dy]);
}
