/** A strand as a hand leads it over a board, stroke by stroke: what may be taken back, and crossings that were turned over. */
import { distance, type Point } from '@foxtrail/core';
import { evenWay, NOT_LED, type Led } from '@foxtrail/core/drill';

/** Two places on a way are one when they are nearer than this, in control points. */
const SAME = 1e-3;

export class Leading {
  private now: Led = NOT_LED;
  /** How many places each stroke that stands has led to. */
  private strokes: number[] = [];
  /** With the stroke that is being led, if any. */
  private underway: Led | undefined;

  get led(): Led {
    return this.underway ?? this.now;
  }
  get mayTakeBack(): boolean {
    return this.strokes.length > 0;
  }
  get last(): Point | undefined {
    return this.led.points.at(-1)?.point;
  }

  /** Leads on along a hand's way; `from` is where the strand begins that has no place yet. */
  lead(way: readonly Point[], under: boolean, isDone: boolean, from?: Point): void {
    this.underway = undefined;
    const start = this.last ?? from;
    const even = evenWay(start ? [start, ...way.slice(1)] : way);
    const points = (start ? even.slice(1) : even).map((point) => ({ point, under }));
    const longer = { ...this.now, points: [...this.now.points, ...points] };
    if (!isDone) {
      this.underway = longer;
      return;
    }
    if (points.length === 0) return;
    this.now = longer;
    this.strokes.push(points.length);
  }

  /** Turns a crossing over, by its place on the way. */
  turn(at: number): void {
    const { turned } = this.now;
    const others = turned.filter((t) => Math.abs(t - at) >= SAME);
    this.now = { ...this.now, turned: others.length < turned.length ? others : [...turned, at] };
  }

  takeBack(): void {
    const last = this.strokes.at(-1);
    if (last !== undefined) this.cutTo(this.now.points.length - last);
  }

  /** Keeps so many places, and what was turned over on them. */
  cutTo(count: number): void {
    const kept = Math.max(0, count);
    this.now = { points: this.now.points.slice(0, kept), turned: this.now.turned.filter((t) => t <= kept) };
    let sum = 0;
    this.strokes = this.strokes.flatMap((n) => {
      const room = Math.min(n, kept - sum);
      sum += Math.max(0, room);
      return room > 0 ? [room] : [];
    });
  }

  /** Whether a pointer with so much reach takes hold of the end. */
  isAtEnd(at: Point, reach: number, from?: Point): boolean {
    const end = this.last ?? from;
    return end === undefined || distance(at, end) <= reach;
  }
}
