/** A movement of the hand on the board, from the press until it lets go; and the hand, which shows it at most once a frame. */
import type { Point } from '@foxtrail/core';
import type { Sample } from '../stroke';

/** A place that the pointer has passed. */
export interface Touch extends Sample {
  /** Where that is on the screen, in CSS pixels. */
  readonly screen: Point;
}

/** A press that moves less than this many diameters is a click. */
export const CLICK = 0.45;

export interface Gesture {
  /** Goes on: every place passed since the last frame, in order; at least one. */
  move(passed: readonly [Touch, ...Touch[]]): void;
  /** The hand lets go, and what it showed is done; absent where every move was done as it went. */
  end?(at: Touch): void;
  /** Broken off: what was only shown is gone; absent where nothing was. */
  cancel?(): void;
}

export class Hand {
  private gesture: Gesture | undefined;
  private passed: Touch[] = [];
  private frame = 0;

  /** Something is in hand. */
  get busy(): boolean {
    return this.gesture !== undefined;
  }

  begin(gesture: Gesture): void {
    this.cancel();
    this.gesture = gesture;
  }

  move(passed: readonly Touch[]): void {
    if (!this.gesture) return;
    this.passed.push(...passed);
    if (this.frame === 0) this.frame = requestAnimationFrame(() => this.show());
  }

  /** Lets go; tells whether something was in hand. */
  end(at: Touch): boolean {
    if (!this.gesture) return false;
    this.show();
    const { gesture } = this;
    this.gesture = undefined;
    gesture.end?.(at);
    return true;
  }

  cancel(): void {
    this.forget();
    const { gesture } = this;
    this.gesture = undefined;
    gesture?.cancel?.();
  }

  private show(): void {
    const [first, ...more] = this.passed;
    this.forget();
    if (first) this.gesture?.move([first, ...more]);
  }

  private forget(): void {
    cancelAnimationFrame(this.frame);
    this.frame = 0;
    this.passed = [];
  }
}

/** Where the hand is now. */
export const last = (passed: readonly [Touch, ...Touch[]]): Touch => passed.at(-1) ?? passed[0];
