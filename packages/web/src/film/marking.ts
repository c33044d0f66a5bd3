/**
 * A mark in the making: where a crossing is in the frame, then farther on along each of its strands, then which of them is over. The
 * directions may be left out.
 */
import { placeOfCrossing, type Crossing, type Point } from '@foxtrail/core';
import type { CrossingStrand, FilmedFrame, FrameMark } from '@foxtrail/core/footage';

/** What is asked for next. */
export type Asked = 'point' | 'first' | 'second' | 'over';

export interface Marking {
  readonly crossing: number;
  readonly point?: Point;
  readonly first?: Point;
  readonly second?: Point;
  /** The directions are left out. */
  readonly short?: boolean;
}

export const askedIn = ({ point, first, second, short }: Marking): Asked =>
  !point ? 'point' : short ? 'over' : !first ? 'first' : !second ? 'second' : 'over';

/** After a place was pressed. */
export function pressed(marking: Marking, at: Point): Marking {
  const asked = askedIn(marking);
  return asked === 'over' ? marking : { ...marking, [asked]: at };
}

/** One press back. */
export function back({ crossing, point, first, second, short }: Marking): Marking {
  if (short) return { crossing, ...(point ? { point } : {}) };
  if (second) return { crossing, ...(point ? { point } : {}), ...(first ? { first } : {}) };
  return first && point ? { crossing, point } : { crossing };
}

/** The whole mark. */
export const markOf = (
  { point, first, second, short }: Marking,
  crossing: Crossing,
  over: CrossingStrand,
): FrameMark => ({
  crossing: placeOfCrossing(crossing),
  over,
  ...(point ? { point } : {}),
  ...(first && second && !short ? { first, second } : {}),
});

/** Frames nearer to each other than this are one, in seconds. */
const SAME_FRAME = 0.006;

/** The frame at a time, where it has been marked. */
export const frameAt = (frames: readonly FilmedFrame[], at: number): FilmedFrame | undefined =>
  frames.find((f) => Math.abs(f.at - at) < SAME_FRAME);

/** Frames with the one at a time changed; one that has no mark left is left out. */
export function withFrame(
  frames: readonly FilmedFrame[],
  at: number,
  changed: (frame: FilmedFrame) => FilmedFrame,
): FilmedFrame[] {
  const there = frameAt(frames, at);
  const next = changed(there ?? { at, marks: [] });
  return [...frames.filter((f) => f !== there), ...(next.marks.length > 0 ? [next] : [])].sort((a, b) => a.at - b.at);
}
