/**
 * Lanes: a stretch of a rope laid once more beside itself, and the overs and unders that this makes: where a lane crosses something, it
 * does what the stretch does there.
 */
import { crossingsOf, meetings, weaveFigure } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthTo, pointAt } from '../figure/curve.js';
import type { Figure, Rope, TrailPosition } from '../figure/figure.js';
import { likeliest } from '../figure/likeness.js';
import { add, distance, scale, type Point } from '../figure/point.js';

/** From middle to middle of two lanes, in diameters: two ropes with a clear line between them. */
export const LANE = 1.6;
/** Control points along a lane: close enough to keep its bends, wide enough to be moved by hand. */
const STEP = 1.6;
/** A point nearer to its own bend than this part of its distance would fold, and is left out. */
const FOLD = 0.82;
/** How far along a strand a crossing may lie from where a lane meets its like, in diameters. */
const REACH = 6;

/** Control points beside a stretch, and the places on it that they lie beside. */
export interface Lane {
  readonly points: readonly Point[];
  readonly origin: readonly number[];
}

/** Points beside a rope between two trail positions; `aside` gives the distance to the left at each part of the way, 0 to 1. */
export function laneBeside(rope: Rope, from: number, to: number, aside: (part: number) => number): Lane {
  const curve = curveOf(rope);
  const [a, b] = [lengthTo(curve, from), lengthTo(curve, to)];
  const n = Math.max(2, Math.round(Math.abs(b - a) / STEP));
  const points: Point[] = [];
  const origin: number[] = [];
  for (let i = 0; i <= n; i += 1) {
    const length = a + ((b - a) * i) / n;
    const at = atLength(curve, length);
    const [dx, dy] = directionAt(curve, at);
    const off = aside(i / n);
    // To the left of travel with y down: (dy, −dx).
    const p = add(pointAt(curve, at), scale([dy, -dx], off));
    const folds = [-1.2, -0.8, -0.4, 0.4, 0.8, 1.2].some(
      (k) => distance(pointAt(curve, atLength(curve, length + k * Math.abs(off))), p) < FOLD * Math.abs(off),
    );
    const last = points.at(-1);
    if (folds || (last && distance(last, p) < 0.5)) continue;
    points.push(p);
    origin.push(at);
  }
  return { points, origin };
}

/** Where on a strand of the figure it was made from a place of a new one has its like. */
export type Like = (place: TrailPosition) => TrailPosition;

/** The place on the stretch beside a place on its lane, counted from the lane's first control point. */
export function besidePlace({ origin }: Lane, along: number): number {
  const i = Math.max(0, Math.min(origin.length - 2, Math.floor(along)));
  const [x, y] = [origin[i] as number, origin[i + 1] as number];
  return x + Math.min(1, Math.max(0, along - i)) * (y - x);
}

/**
 * A new drawing with the overs and unders of the one it was made from: each crossing does as the nearest of its like. Nothing when
 * there is a crossing that the old drawing has no like of.
 */
export function wovenAlike(figure: Figure, next: Figure, like: Like): Figure | undefined {
  const asThere = likeliest(figure, REACH);
  const over = meetings(next).map((m) => asThere(like(m.first), like(m.second)));
  if (over.includes(undefined)) return undefined;
  return weaveFigure(next, (_m, i) => over[i] as boolean);
}

/** Sizes at which more is tried to be laid into a drawing: the first that leaves room enough is taken. */
export const SIZES = [1, 1.25, 1.6, 2, 2.6, 3.4, 4.5, 6] as const;

/** A figure drawn larger; trail positions stay what they are. */
export function enlarged(figure: Figure, k: number): Figure {
  if (k === 1) return figure;
  const list = crossingsOf(figure);
  const grown = <T extends { readonly points: readonly Point[] }>(s: T): T => ({
    ...s,
    points: s.points.map((p) => scale(p, k)),
  });
  const over = new Set(list.flatMap((c) => (c.over === c.first ? [`${c.first.strand} ${c.first.at}`] : [])));
  const next: Figure = { ropes: figure.ropes.map(grown), hosts: figure.hosts.map(grown) };
  const first = meetings(figure);
  return weaveFigure(next, (_m, i) => {
    const was = first[i];
    return was !== undefined && over.has(`${was.first.strand} ${was.first.at}`);
  });
}
