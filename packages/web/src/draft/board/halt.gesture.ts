/** A halt follows the hand along its rope; at a crossing it stays on the strand that it is on. */
import {
  atLength,
  curveOf,
  distance,
  lengthOf,
  lengthTo,
  pointAt,
  ropeOf,
  stretchesOf,
  type Point,
} from '@foxtrail/core';
import type { DraftState } from '../draft-state';
import { last, type Gesture, type Touch } from './gesture';

/** How far along its rope a halt is drawn by one move of the hand, in diameters. */
const REACH = 6;

export class HaltGesture implements Gesture {
  constructor(
    private readonly state: DraftState,
    private readonly index: number,
  ) {}

  move(passed: readonly [Touch, ...Touch[]]): void {
    const at = this.nearest(last(passed).point);
    if (at !== undefined)
      this.state.do({ kind: 'move-halt', index: this.index, at }, { group: `drag-halt-${this.index}` });
  }

  private nearest(to: Point): number | undefined {
    const stretch = stretchesOf(this.state.method())[this.index];
    const rope = stretch && ropeOf(this.state.figure(), stretch.rope);
    if (!rope) return undefined;
    const curve = curveOf(rope);
    const here = lengthTo(curve, stretch.to);
    let [best, away] = [here, Infinity];
    for (let l = Math.max(0, here - REACH); l <= Math.min(lengthOf(curve), here + REACH); l += 0.2) {
      const far = distance(pointAt(curve, atLength(curve, l)), to);
      if (far < away) [best, away] = [l, far];
    }
    return atLength(curve, best);
  }
}
