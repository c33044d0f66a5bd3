/** What part of a board is seen: brought nearer, moved, and never beyond the board. */
import type { Box, Point } from '@foxtrail/core';

/** How near it is brought at most, and by how much at a press. */
export const NEAREST = 6;
export const NEARER = 1.6;
/** What is led is kept within this share of the view, about its middle. */
const IN_SIGHT = 0.6;

const within = (v: number, low: number, high: number): number => Math.min(Math.max(v, low), Math.max(low, high));

export class BoardView {
  private zoom = 1;
  /** Left and top of what is seen. */
  private at: Point;

  constructor(private readonly whole: Box) {
    this.at = [whole[0], whole[1]];
  }

  get isWhole(): boolean {
    return this.zoom <= 1 + 1e-9;
  }
  get isNearest(): boolean {
    return this.zoom >= NEAREST - 1e-9;
  }

  get box(): Box {
    const [w, h] = this.size();
    return [this.at[0], this.at[1], this.at[0] + w, this.at[1] + h];
  }

  private size(): Point {
    const [l, t, r, b] = this.whole;
    return [(r - l) / this.zoom, (b - t) / this.zoom];
  }

  private put(left: number, top: number): void {
    const [l, t, r, b] = this.whole;
    const [w, h] = this.size();
    this.at = [within(left, l, r - w), within(top, t, b - h)];
  }

  /** Nearer by a factor, or farther by one below 1; a place of the board stays where it is seen. */
  nearer(by: number, about: Point = this.middle()): void {
    const before = this.zoom;
    this.zoom = within(this.zoom * by, 1, NEAREST);
    const k = before / this.zoom;
    this.put(about[0] - (about[0] - this.at[0]) * k, about[1] - (about[1] - this.at[1]) * k);
  }

  /** What was seen at one place is seen at another: both in board units of before. */
  drag([fx, fy]: Point, [tx, ty]: Point): void {
    this.put(this.at[0] + fx - tx, this.at[1] + fy - ty);
  }

  /** Moves as little as brings a place well into sight. */
  keepInSight([x, y]: Point): void {
    const [w, h] = this.size();
    const edge = (1 - IN_SIGHT) / 2;
    this.put(
      within(this.at[0], x - w * (1 - edge), x - w * edge),
      within(this.at[1], y - h * (1 - edge), y - h * edge),
    );
  }

  showWhole(): void {
    this.zoom = 1;
    this.put(this.whole[0], this.whole[1]);
  }

  private middle(): Point {
    const [l, t, r, b] = this.box;
    return [(l + r) / 2, (t + b) / 2];
  }
}
