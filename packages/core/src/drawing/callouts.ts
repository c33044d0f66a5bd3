/**
 * Callouts on a picture: words that point at a place of the trail, set where they hide as little of the knot as may be.
 */
import { inLines } from '../words/in-lines.js';
import { crossingsOf } from '../figure/crossings.js';
import { curveOf, lineBetween, pointAt } from '../figure/curve.js';
import { hostOf, lastAt, ropeOf, type Figure } from '../figure/figure.js';
import { boxesMeet, distance, type Box, type Point } from '../figure/point.js';
import { isReached, reached, WHOLE, type Callout, type Extents } from '../tying/method.js';

/** A callout set on a picture, in board units. */
export interface Note {
  readonly lines: readonly string[];
  /** Height of its letters, in diameters. */
  readonly size: number;
  readonly box: Box;
  /** What it points at, and where its pointer leaves the box. */
  readonly at: Point;
  readonly from: Point;
  /** Numbers of crossings that lie beneath its box: there was no room beside the knot. */
  readonly hides: readonly number[];
}

/** Height of the letters, in diameters: not smaller than the rope is thick. */
export const NOTE_SIZE = 1.05;
/** The least height of letters that can be read on a screen, in CSS pixels. */
export const LEAST_LETTERS = 12.5;
/** From one line to the next, and the room round them, in the height of the letters. */
const LINE = 1.19;
const ROOM = 0.43;
/** Mean width of a letter, in its height; wide enough for the font that is shipped and for the ones that stand in for it. */
const LETTER = 0.56;
const LINE_LENGTH = 18;

/** How far a place is from a box; 0 inside it. */
const awayFrom = ([l, t, r, b]: Box, [x, y]: Point): number =>
  Math.hypot(Math.max(l - x, 0, x - r), Math.max(t - y, 0, y - b));

/** Whether a box lies in another one. */
const holds = ([l, t, r, b]: Box, [x, y, z, w]: Box): boolean => x >= l && y >= t && z <= r && w <= b;
/** Words that are cut off are worse than words on a crossing. */
const OUT_OF_VIEW = 20;

const WAYS = 24;
const DISTANCES = [1.6, 2.6, 4, 5.5, 7.5, 10, 13];
/** Clear paper round a callout, in diameters; more is no better. */
const CLEAR = 1;

/** What words are set about: places of rope and of crossings that they keep clear of, boxes that they do not cover, and what is in view. */
export interface Surroundings {
  readonly rope: readonly Point[];
  readonly crossings: readonly { readonly number: number; readonly point: Point }[];
  readonly taken?: readonly Box[] | undefined;
  readonly frame?: Box | undefined;
}

/** Sets the callouts whose place is laid, one after the other. `taken` are boxes that are not to be covered: numbers, the gauge. */
export function placeNotes(
  figure: Figure,
  callouts: readonly Callout[],
  extents: Extents = WHOLE,
  taken: readonly Box[] = [],
  size = NOTE_SIZE,
): Note[] {
  const wanted = callouts.flatMap((callout) => {
    const strand = ropeOf(figure, callout.strand) ?? hostOf(figure, callout.strand);
    return strand && isReached(extents, callout)
      ? [{ at: pointAt(curveOf(strand), callout.at), text: callout.text }]
      : [];
  });
  return setNotes(wanted, { ...laidRope(figure, extents), taken }, size);
}

/** The places of a figure's ropes and crossings that words keep clear of, as far as they are laid. */
export function laidRope(figure: Figure, extents: Extents): Surroundings {
  return {
    rope: figure.ropes.flatMap((r) => lineBetween(curveOf(r), 0, Math.min(lastAt(r), reached(extents, r.id)))),
    crossings: crossingsOf(figure).filter((c) => isReached(extents, c.first) && isReached(extents, c.second)),
  };
}

/** Sets words at places, one after the other, where they hide as little as may be; none where there are no words. */
export function setNotes(
  wanted: readonly { readonly at: Point; readonly text: string }[],
  { rope, crossings, taken = [], frame }: Surroundings,
  size = NOTE_SIZE,
): Note[] {
  const set: Note[] = [];
  for (const { at, text } of wanted) {
    if (text.trim() === '') continue;
    const lines = inLines(text, LINE_LENGTH);
    const width = (Math.max(...lines.map((l) => l.length)) * LETTER + 2 * ROOM) * size;
    const height = (lines.length * LINE + ROOM) * size;
    const others = [...taken, ...set.map((n) => n.box)];
    let best: { box: Box; score: number } | undefined;
    for (const far of DISTANCES)
      for (let i = 0; i < WAYS; i += 1) {
        const [dx, dy] = [Math.cos((2 * Math.PI * i) / WAYS), Math.sin((2 * Math.PI * i) / WAYS)];
        // The box stands `far` beyond the place, measured from its nearer edge.
        const reach =
          far + Math.min(width / 2 / Math.max(1e-6, Math.abs(dx)), height / 2 / Math.max(1e-6, Math.abs(dy)));
        const middle: Point = [at[0] + dx * reach, at[1] + dy * reach];
        const box: Box = [middle[0] - width / 2, middle[1] - height / 2, middle[0] + width / 2, middle[1] + height / 2];
        const room = Math.min(CLEAR + 0.5, ...rope.map((p) => awayFrom(box, p))) - 0.5;
        const hidden = crossings.filter((c) => awayFrom(box, c.point) < HIDES).length;
        const covers = others.filter((o) => boxesMeet(o, box)).length;
        const isOut = frame !== undefined && !holds(frame, box);
        const score =
          6 * Math.min(0, room - 0.2) + room - 0.22 * far - 5 * hidden - 8 * covers - (isOut ? OUT_OF_VIEW : 0);
        if (!best || score > best.score) best = { box, score };
      }
    const { box } = best as { box: Box };
    const from: Point = [Math.min(box[2], Math.max(box[0], at[0])), Math.min(box[3], Math.max(box[1], at[1]))];
    const hides = crossings.filter((c) => awayFrom(box, c.point) < HIDES).map((c) => c.number);
    set.push({ lines, size, box, at, from, hides });
  }
  return set;
}

/** The lines of a callout, each with the middle of its baseline. */
export const noteLines = ({
  lines,
  size,
  box: [l, t, r],
}: Note): readonly { readonly text: string; readonly at: Point }[] =>
  lines.map((text, i) => ({ text, at: [(l + r) / 2, t + (ROOM / 2 + LINE * (i + 0.76)) * size] }));

/** A crossing nearer than this to a box cannot be read any more: half a rope and its gap. */
const HIDES = 0.8;

/** Where the pointer of a callout ends: short of the place, so that the rope there stays seen. */
export function pointerOf({ at, from }: Note): readonly [Point, Point] {
  const length = distance(at, from);
  const k = length < 1e-6 ? 0 : Math.max(0, 1 - 0.35 / length);
  return [from, [from[0] + (at[0] - from[0]) * k, from[1] + (at[1] - from[1]) * k]];
}
