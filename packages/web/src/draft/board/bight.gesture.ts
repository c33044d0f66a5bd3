/** The way of a bight's apex is drawn; it stays with its tool until it is laid or put away. */
import { distance, type Point } from '@foxtrail/core';
import type { LayingTools } from '../laying-tools';
import { CLICK, type Gesture, type Touch } from './gesture';

export class BightGesture implements Gesture {
  constructor(
    private readonly tools: LayingTools,
    private from: Point,
  ) {}

  move(passed: readonly Touch[]): void {
    for (const { point, under } of passed) {
      if (distance(point, this.from) < CLICK) continue;
      this.from = point;
      this.tools.draw({ point, under });
    }
  }
}
