/**
 * Marks on frames of a film: which crossing of the figure is seen where, which of its strands is over, and which way they run. Places in
 * a frame are shares of its width and height, so that they hold at any size it is shown.
 */
import type { CrossingPlace } from '../figure/crossing-place.js';
import type { Point } from '../figure/point.js';
import { refuse, type Refusal } from '../figure/refusal.js';
import { onFilmTrouble, type OnFilm } from './on-film.js';

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
export interface Footage extends OnFilm {
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
  /** What of it is played, from when to when in seconds; absent: all of it. */
  readonly cut?: readonly [from: number, to: number] | undefined;
  /** Where steps of the method begin in it, in its time. */
  readonly steps?: readonly FilmedStep[] | undefined;
}

/** A step, by its index among all steps of the method, and when it begins in a film, in seconds. */
export interface FilmedStep {
  readonly step: number;
  readonly at: number;
}

/** What is played of a film, in seconds. */
export const playedOf = ({ duration, cut }: Footage): readonly [from: number, to: number] => cut ?? [0, duration];

/** The same film with a step that begins at a time; it begins there once, and a step at that time begins there alone. */
export function withFilmedStep(film: Footage, step: number, at: number | undefined): Footage {
  const { steps = [], ...rest } = film;
  const others = steps.filter((s) => s.step !== step && (at === undefined || Math.abs(s.at - at) > 1e-3));
  const next = [...others, ...(at === undefined ? [] : [{ step, at }])].sort((a, b) => a.at - b.at);
  return next.length > 0 ? { ...rest, steps: next } : rest;
}

/** A film cut to what lies between two times; all of it where that is nearly all, or none. */
export function withCut(film: Footage, from: number, to: number): Footage {
  const { cut: _old, ...rest } = film;
  const [a, b] = [Math.max(0, from), Math.min(film.duration, to)];
  const isAll = a < SHORTEST_CUT && b > film.duration - SHORTEST_CUT;
  return isAll || b - a < SHORTEST_CUT ? rest : { ...rest, cut: [a, b] };
}

/** Less than this is neither cut off nor left, in seconds. */
const SHORTEST_CUT = 0.2;

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
  const wrong = footage.find(({ duration, cut, steps = [] }) => {
    const beyond = (at: number): boolean => at < 0 || at > duration + 1e-3;
    return (
      (cut !== undefined && (beyond(cut[0]) || beyond(cut[1]) || cut[0] >= cut[1])) || steps.some((s) => beyond(s.at))
    );
  });
  if (wrong)
    return refuse(
      'film',
      `“${wrong.name}” lasts ${wrong.duration.toFixed(1)} seconds: it is cut, or a step begins, elsewhere.`,
      'Name times within the film.',
    );
  for (const film of footage) {
    const reason = onFilmTrouble(film, film.duration);
    if (reason !== undefined)
      return refuse(`film “${film.name}”`, reason, 'Name times within the film, one after the other.');
  }
  if (footage.some((f) => f.frames.length > FOOTAGE.frames))
    return refuse('film', `${FOOTAGE.frames} frames of a film are marked at most.`, 'Take the marks off one first.');
  return undefined;
}
