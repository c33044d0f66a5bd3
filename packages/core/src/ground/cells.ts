/**
 * Things in the plane found by place: square cells, each with what reaches into it.
 */

/** Cells from one column to the next: more than any board has, so that no two cells share a number. */
const COLUMN = 1 << 16;
/** The number of the cell at the origin: cells on either side of it have numbers of their own. */
const MIDDLE = COLUMN / 2;

export class Cells<T> {
  private readonly cells = new Map<number, T[]>();

  /** `size`: the side of a cell, in the units of the plane. */
  constructor(private readonly size: number) {}

  private index(n: number): number {
    return Math.floor(n / this.size) + MIDDLE;
  }

  /** Puts a thing into every cell that a box reaches into. */
  put(thing: T, left: number, top: number, right = left, bottom = top): void {
    for (let i = this.index(left); i <= this.index(right); i += 1)
      for (let j = this.index(top); j <= this.index(bottom); j += 1) {
        const cell = this.cells.get(i * COLUMN + j);
        if (cell) cell.push(thing);
        else this.cells.set(i * COLUMN + j, [thing]);
      }
  }

  /** What reaches into the cell of a place. */
  at(x: number, y: number): readonly T[] {
    return this.cells.get(this.index(x) * COLUMN + this.index(y)) ?? [];
  }

  /** Visits what reaches into the cells within so far of a place: all that is nearer, and some that is not. */
  near(x: number, y: number, reach: number, visit: (thing: T) => void): void {
    for (let i = this.index(x - reach); i <= this.index(x + reach); i += 1)
      for (let j = this.index(y - reach); j <= this.index(y + reach); j += 1)
        for (const thing of this.cells.get(i * COLUMN + j) ?? []) visit(thing);
  }
}
