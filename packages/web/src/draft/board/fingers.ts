/** Fingers on the board: one lays, two move it and look closer. */
import { distance, type Point } from '@foxtrail/core';
import type { Camera } from './camera';

export class Fingers {
  private readonly down = new Map<number, Point>();

  constructor(private readonly camera: Camera) {}

  /** A finger comes down at a place on the screen; tells how many are down now. */
  press(id: number, screen: Point): number {
    this.down.set(id, screen);
    return this.down.size;
  }

  lift(id: number): void {
    this.down.delete(id);
  }

  /** A finger moves; tells whether it moved the board, with another one. */
  move(id: number, screen: Point): boolean {
    const [a, b] = [...this.down.values()];
    if (!this.down.has(id) || !a) return false;
    this.down.set(id, screen);
    const [c, d] = [...this.down.values()];
    if (!b || !c || !d) return false;
    const middle = (p: Point, q: Point): Point => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    const [before, after] = [middle(a, b), middle(c, d)];
    this.camera.pan([before[0] - after[0], before[1] - after[1]]);
    this.camera.zoom(distance(c, d) / Math.max(1, distance(a, b)), this.camera.at(after));
    return true;
  }
}
