/** The board is moved under the eye. */
import type { Point } from '@foxtrail/core';
import type { Camera } from './camera';
import { last, type Gesture, type Touch } from './gesture';

export class PanGesture implements Gesture {
  constructor(
    private readonly camera: Camera,
    private from: Point,
  ) {}

  move(passed: readonly [Touch, ...Touch[]]): void {
    const { screen } = last(passed);
    this.camera.pan([this.from[0] - screen[0], this.from[1] - screen[1]]);
    this.from = screen;
  }
}
