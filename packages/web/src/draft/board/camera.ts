/**
 * What of the board is in view: the figure's own frame, looked at more closely or not. It stays while the hand is on the board, so
 * that nothing moves under it.
 */
import { computed, signal } from '@angular/core';
import { wholeBox, type Box, type Figure, type Point } from '@foxtrail/core';

/** The empty board, in diameters. */
const BLANK: Box = [-18, -11, 18, 11];
/** Room kept round the figure for laying on. */
const ROOM = 2.5;
/** Bounds on looking closer. */
const MOST_ZOOM = 12;
const LEAST_ZOOM = 0.25;

export class Camera {
  /** Of the board on the screen, in CSS pixels. */
  readonly size = signal<readonly [number, number]>([900, 560]);
  private readonly frame = signal<Box>(BLANK);
  /** Looked at more closely: how often larger than the whole frame, and what is in the middle. */
  private readonly closer = signal<{ readonly times: number; readonly middle: Point } | null>(null);
  /** Which figure, in which view, the frame was last fitted to. */
  private fitted = '';

  /** What is in view, in diameters. */
  readonly box = computed<Box>(() => {
    const whole = fitTo(this.frame(), this.size());
    const closer = this.closer();
    if (!closer) return whole;
    const [w, h] = [(whole[2] - whole[0]) / closer.times, (whole[3] - whole[1]) / closer.times];
    const [x, y] = closer.middle;
    return [x - w / 2, y - h / 2, x + w / 2, y + h / 2];
  });
  readonly viewBox = computed(() => {
    const [l, t, r, b] = this.box();
    return `${l} ${t} ${r - l} ${b - t}`;
  });
  /** CSS pixels for a diameter. */
  readonly scale = computed(() => this.size()[0] / (this.box()[2] - this.box()[0]));
  readonly middle = computed<Point>(() => {
    const [l, t, r, b] = this.box();
    return [(l + r) / 2, (t + b) / 2];
  });

  /** The place of the board under a place of it on the screen, in CSS pixels from its left upper corner. */
  at([x, y]: Point): Point {
    const [l, t] = this.box();
    return [l + x / this.scale(), t + y / this.scale()];
  }

  /** Looks closer (or from farther off), keeping a place of the board where it is on the screen. */
  zoom(by: number, about: Point = this.middle()): void {
    const before = this.closer()?.times ?? 1;
    const times = Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, before * by));
    const [x, y] = this.middle();
    const k = before / times;
    this.closer.set({ times, middle: [about[0] + (x - about[0]) * k, about[1] + (y - about[1]) * k] });
  }

  /** Moves the board under the eye, in CSS pixels. */
  pan([dx, dy]: Point): void {
    const [x, y] = this.middle();
    const s = this.scale();
    this.closer.set({ times: this.closer()?.times ?? 1, middle: [x + dx / s, y + dy / s] });
  }

  /**
   * Brings the whole figure into view when it has grown out of it, or when something else is `shown` (a figure or a view by its
   * name). Otherwise the board stays still under the hand.
   */
  fit(figure: Figure, shown = this.fitted): void {
    if (figure.ropes.length === 0) {
      if (this.fitted !== shown) this.frame.set(BLANK);
    } else {
      const whole = wholeBox(figure);
      if (this.fitted === shown && contains(this.box(), whole)) return;
      const [l, t, r, b] = whole;
      this.frame.set([l - ROOM, t - ROOM, r + ROOM, b + ROOM]);
    }
    this.fitted = shown;
  }

  /** Shows the whole figure again. */
  fitAll(figure: Figure): void {
    const shown = this.fitted;
    this.closer.set(null);
    this.fitted = '';
    this.fit(figure, shown);
  }
}

const contains = (outer: Box, inner: Box): boolean =>
  inner[0] >= outer[0] && inner[1] >= outer[1] && inner[2] <= outer[2] && inner[3] <= outer[3];

/** A box widened to a shape in CSS pixels. */
function fitTo([l, t, r, b]: Box, [width, height]: readonly [number, number]): Box {
  const scale = Math.max((r - l) / width, (b - t) / height);
  const [x, y] = [(l + r) / 2, (t + b) / 2];
  return [x - (width * scale) / 2, y - (height * scale) / 2, x + (width * scale) / 2, y + (height * scale) / 2];
}
