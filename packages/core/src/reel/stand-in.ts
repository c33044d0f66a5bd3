/**
 * The stand-in camera: one that is simulated, for whoever has none at hand, and for rehearsals. It films the drawing being tied, from
 * above the near edge of a bench, so that what is far is smaller; it is not held quite still, and a hand at the working end hides what is
 * beneath it. It can be wrong on purpose: mirrored, left-handed, one crossing laid the other way.
 */
import { drawFigure, heartBox, type Drawing } from '../drawing/drawing.js';
import { curveOf, pointAt } from '../figure/curve.js';
import { ropeOf, type Figure, type Rope } from '../figure/figure.js';
import type { Box, Point } from '../figure/point.js';
import { flipped } from '../identity/signature.js';
import { methodFor } from '../tying/follow.js';
import { changeLayout } from '../tying/layout-edit.js';
import { extentsAt, finishedFigure, stepsOf, type Method, type Step, type Stretch } from '../tying/method.js';
import { fitted } from './fit.js';
import { ease, lengthLaid, reachedAt } from './timeline.js';

export interface StandInWishes {
  readonly mirrored?: boolean;
  readonly leftHanded?: boolean;
  /** The number of a crossing of the finished figure that is laid the other way. */
  readonly wrong?: number | undefined;
}

/** Rope laid a second, in diameters; least time of a stretch, the pause after it, and the look at the finished knot, in seconds. */
const PACE = 11;
const LEAST_LAYING = 0.5;
const PAUSE = 0.7;
const LOOK = 3;
/** The hand needs so many seconds to come and to go. */
const HAND = 0.45;

interface Laying {
  readonly step: Step & { readonly stretch: Stretch };
  readonly start: number;
  readonly end: number;
}

/** What the stand-in will film. */
export interface StandInTake {
  readonly method: Method;
  readonly layings: readonly Laying[];
  readonly box: Box;
  /** A left hand's knot is a mirror image; filmed in a mirror it looks like a right hand's. */
  readonly mirrored: boolean;
  /** Seconds. */
  readonly duration: number;
}

export interface StandInMoment {
  /** What lies on the bench: a camera sees no arrows, numbers or words, and a rope in its own colour to the end. */
  readonly drawing: () => Drawing;
  /** Moments with one key have the same drawing. */
  readonly key: string;
  /** Where on the board the hand holds the working end; `away` is how far it has gone, from 0 to 1. */
  readonly hand?: { readonly at: Point; readonly away: number } | undefined;
}

/** A rope that is drawn short lies whole on the bench. */
const whole = (figure: Figure): Figure => ({
  ...figure,
  ropes: figure.ropes.map(({ breaks: _, ...rope }): Rope => rope),
});

/** The take of a method: the drawing in which its knot is finished, laid move by move. */
export function standInTake(of: Method, { mirrored, leftHanded, wrong }: StandInWishes): StandInTake {
  const right = whole(finishedFigure(of));
  const plain = methodFor(wrong === undefined ? right : flipped(right, [wrong]));
  const proposed = changeLayout(plain, { kind: 'propose-halts' });
  const method = proposed.ok ? proposed.value : plain;
  const layings: Laying[] = [];
  let now = HAND;
  for (const step of stepsOf(method)) {
    const { stretch } = step;
    if (!stretch) continue;
    const end = now + Math.max(LEAST_LAYING, lengthLaid(step) / PACE);
    layings.push({ step: { ...step, stretch }, start: now, end });
    now = end + PAUSE;
  }
  return {
    method,
    layings,
    box: heartBox(right),
    mirrored: (mirrored === true) !== (leftHanded === true),
    duration: now + LOOK,
  };
}

/** What is seen at a time in seconds. */
export function standInAt({ method, layings }: StandInTake, time: number): StandInMoment {
  const laying = layings.filter((l) => time >= l.start).at(-1) ?? layings[0];
  if (!laying) return { drawing: () => drawFigure(finishedFigure(method)), key: 'all' };
  const { step, start, end } = laying;
  const { of, index, stretch } = step;
  const at = reachedAt(step, Math.min(1, Math.max(0, (time - start) / (end - start))));
  const coming = Math.max(0, (start - time) / HAND);
  const going = laying === layings.at(-1) ? Math.max(0, (time - end) / HAND) : 0;
  const away = Math.min(1, Math.max(coming, going));
  const curve = curveOf(ropeOf(of.figure, stretch.rope) as Rope);
  return {
    drawing: () => drawFigure(of.figure, { extents: extentsAt(of, stretch.index, at) }),
    key: `${index} ${at.toFixed(4)}`,
    ...(away < 1 ? { hand: { at: pointAt(curve, at), away: ease(away) } } : {}),
  };
}

/** The seconds at which it is heard that a move begins. */
export const beepsOf = ({ layings }: StandInTake): readonly number[] => layings.map((l) => l.start);

/**
 * The lens. The bench is a plane on which the box lies in the square from −1 to 1 across and down; in the frame, from −1 to 1 as well, what
 * is at (u, v) is seen at (S u, S v) / (1 − K v).
 */
const K = 0.16;
const S = 0.86;
/** How much of the bench is in the picture: across, and from far to near. */
export const BENCH = { across: 1.5, far: -1.5, near: 1.2 } as const;
/** Where the camera has strayed to at a time, in shares of the frame's width and height: no hand is quite still. */
export const strayAt = (time: number): Point => [
  0.0021 * Math.sin(2.1 * time) + 0.0013 * Math.sin(5.3 * time + 1),
  0.0027 * Math.sin(1.7 * time + 2) + 0.0016 * Math.sin(4.9 * time),
];

/** A row of the frame, from −1 at its top to 1: which row of the bench is seen there, and how much smaller than at its own size. */
export function rowSeen(y: number): { readonly v: number; readonly scale: number } {
  const v = y / (S + K * y);
  return { v, scale: S / (1 - K * v) };
}

/** Where a place of the board is seen at a time: shares of a frame's width and height, `shape` times as wide as it is high. */
export function seenByStandIn({ box, mirrored }: StandInTake, [x, y]: Point, time: number, shape: number): Point {
  const { scale, move } = fitted(box, shape, 1);
  const [u, v] = [(2 * (scale * x + move[0])) / shape - 1, 2 * (scale * y + move[1]) - 1];
  const [dx, dy] = strayAt(time);
  const across = 0.5 + (S * u) / (1 - K * v) / 2 + dx;
  return [mirrored ? 1 - across : across, 0.5 + (S * v) / (1 - K * v) / 2 + dy];
}
