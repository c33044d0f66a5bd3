/**
 * Marks on frames of a film: which crossing of the figure is seen where, which of its strands is over, and which way they run. Places in
 * a frame are shares of its width and height, so that they hold at any size it is shown.
 */
import type { CrossingPlace } from '../figure/crossing-place.js';
import type { Point } from '../figure/point.js';
import { refuse, type Refusal } from '../figure/refusal.js';

/** One of a crossing's two strands: that which the trail comes to first, ropes before what they are tied to; or the other. */
export type CrossingStrand = 'first' | 'second';

/** What is seen of a crossing in a frame. */
export interface SeenCrossing {
  readonly over: CrossingStrand;
  /** Where it is. */
  readonly point?: Point | undefined;
  /** A place farther on along each of its strands. */
  readonly first?: Point | undefined;
  readonly second?: Point | undefined;
}

export interface FrameMark extends SeenCrossing {
  readonly crossing: CrossingPlace;
}

/** A frame of a film with its marks. */
export interface FilmedFrame {
  /** Seconds from the beginning of the film. */
  readonly at: number;
  readonly marks: readonly FrameMark[];
}

/** What is said in a film, and from when to when, in seconds; one line of text. */
export interface FilmCue {
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

/** A film of the knot being tied. */
export interface Footage {
  /** SHA-256 of the film's bytes, in hexadecimal digits. */
  readonly film: string;
  readonly name: string;
  /** Seconds. */
  readonly duration: number;
  /** It is played and exported mirrored, because the camera mirrored it. */
  readonly turned?: boolean | undefined;
  readonly frames: readonly FilmedFrame[];
  /** Its captions, in the order in which they are shown. */
  readonly captions?: readonly FilmCue[] | undefined;
}

/**
 * Longest name, most films of a layout, frames marked of a film, marks of a frame, captions of a film, and characters of a caption; longest
 * film in seconds.
 */
export const FOOTAGE = {
  name: 120,
  films: 4,
  frames: 24,
  marks: 120,
  captions: 400,
  caption: 240,
  longest: 4 * 3600,
} as const;

/** Marks needed before anything is said of a knot that has so many crossings. */
export const LEAST_MARKS = 3;

/** Films after the drawing was changed; a mark whose crossing is gone is gone with it. */
export const followFootage = (
  footage: readonly Footage[],
  crossing: (place: CrossingPlace) => CrossingPlace | undefined,
): Footage[] =>
  footage.map((film) => ({
    ...film,
    frames: film.frames.map((frame) => ({
      ...frame,
      marks: frame.marks.flatMap((m) => {
        const now = crossing(m.crossing);
        return now ? [{ ...m, crossing: now }] : [];
      }),
    })),
  }));

/** Why so much cannot be kept of films. */
export function footageTrouble(footage: readonly Footage[]): Refusal | undefined {
  if (footage.length > FOOTAGE.films)
    return refuse('films', `A knot has ${FOOTAGE.films} films at most.`, 'Take one off first.');
  if (footage.some((f) => f.frames.length > FOOTAGE.frames))
    return refuse('film', `${FOOTAGE.frames} frames of a film are marked at most.`, 'Take the marks off one first.');
  return undefined;
}
