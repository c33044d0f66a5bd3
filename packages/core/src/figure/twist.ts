/**
 * Twisting a loop by half turns, and turning over a part: everything between two places on a rope is turned about the line from
 * between them, as a page is, and its two legs cross once for each half turn.
 */
import { badPoint, edited, LIMITS, missing, onBoard, tooClose, tooMany, withMarks, type Edited } from './bounds.js';
import { laterOver, withPoints } from './carry.js';
import { crossingsOf, meetings, weaveFigure, type Crossing } from './crossings.js';
import { lastAt, ropeOf, type Figure, type TrailPosition } from './figure.js';
import { mapPosition, through, type Mapping } from './mapping.js';
import { add, between, distance, dot, scale, subtract, unit, type Point } from './point.js';
import { refuse } from './refusal.js';

export interface TwistEdit {
  readonly kind: 'twist';
  readonly rope: string;
  /** The places on the trail where the two legs begin. */
  readonly from: number;
  readonly to: number;
  /** With the sign: positive, the first leg passes over the second at the first of the new crossings. */
  readonly halfTurns: number;
}

export const MOST_HALF_TURNS = 8;
/** Room for one crossing of the two legs, in diameters. */
const NECK = 2.4;
const LEAST_WIDTH = 1.6;

export function twist(figure: Figure, edit: TwistEdit): Edited {
  const rope = ropeOf(figure, edit.rope);
  if (!rope) return missing(edit.rope);
  const n = lastAt(rope);
  const [from, to] = [Math.round(edit.from), Math.round(edit.to)];
  if (!(from >= 0 && to <= n && to - from >= 2) || rope.closed)
    return refuse(
      `rope ${rope.id}`,
      'A part to turn lies between two places on an open rope.',
      'Choose a longer part.',
    );
  const k = Math.abs(edit.halfTurns);
  if (!(Number.isInteger(k) && k >= 1 && k <= MOST_HALF_TURNS))
    return refuse(
      'twist',
      `${edit.halfTurns} half turns cannot be laid.`,
      `Give from 1 to ${MOST_HALF_TURNS}, either way.`,
    );
  const inPart = (p: TrailPosition): boolean => p.strand === rope.id && p.at > from && p.at < to;
  const old = crossingsOf(figure);
  const passing = old.find((c) => inPart(c.first) !== inPart(c.second));
  if (passing)
    return refuse(
      `crossing ${passing.number}`,
      'Another strand passes through the part that is to be turned.',
      'Draw that strand clear of it, or choose a smaller part.',
    );
  const points = rope.points;
  const [p, q] = [points[from] as Point, points[to] as Point];
  const part = points.slice(from + 1, to);
  const middle = between(p, q, 0.5);
  const centre = scale(
    part.reduce<Point>((sum, x) => add(sum, x), [0, 0]),
    1 / part.length,
  );
  const axis = unit(distance(centre, middle) < 0.1 ? [-(q[1] - p[1]), q[0] - p[0]] : subtract(centre, middle));
  const normal: Point = [-axis[1], axis[0]];
  const width = Math.max(LEAST_WIDTH, Math.min(distance(p, q), 3)) / 2;
  const side = dot(subtract(p, middle), normal) >= 0 ? 1 : -1;
  const neck = NECK * k;
  const leg = (own: number): Point[] =>
    Array.from({ length: k }, (_, i) => {
      const lateral = own * side * width * (i % 2 === 0 ? -1 : 1);
      return add(middle, add(scale(axis, NECK * (i + 1)), scale(normal, lateral)));
    });
  const turned = part.map((x): Point => {
    const d = subtract(x, middle);
    const [along, across] = [dot(d, axis), dot(d, normal)];
    return add(middle, add(scale(axis, Math.max(along, 0.4) + neck), scale(normal, k % 2 === 1 ? -across : across)));
  });
  const laid = [...points.slice(0, from + 1), ...leg(1), ...turned, ...leg(-1).reverse(), ...points.slice(to)];
  if (!laid.every(onBoard)) return badPoint(`rope ${rope.id}`);
  if (laid.length > LIMITS.points) return tooMany(rope.id);
  if (tooClose(laid))
    return refuse(`rope ${rope.id}`, 'Two control points would lie on each other.', 'Give the part more room.');
  const first = from + 1 + k;
  const last = first + turned.length - 1;
  const mapping = through(
    rope.id,
    [0, 0],
    [from, from],
    [from + 1, first],
    [to - 1, last],
    [to, to + 2 * k],
    [n, n + 2 * k],
  );
  const next = withMarks(withPoints(figure, rope.id, laid), mapping);
  return edited(
    wovenAfter(next, { old, mapping, inPart, turned: k % 2 === 1, neck: [from, first, last, to + 2 * k], edit }),
    mapping,
  );
}

interface Turned {
  readonly old: readonly Crossing[];
  readonly mapping: Mapping;
  readonly inPart: (p: TrailPosition) => boolean;
  /** The part shows its other side: over is under. */
  readonly turned: boolean;
  /** Trail positions where the first leg begins and ends, and the second. */
  readonly neck: readonly [number, number, number, number];
  readonly edit: TwistEdit;
}

/** How far a crossing may seem to have slid along the trail, in control-point intervals, and still be the same. */
const SLIDE = 1.2;

function wovenAfter(next: Figure, { old, mapping, inPart, turned, neck, edit }: Turned): Figure {
  const inNeck = (p: TrailPosition): 1 | 2 | undefined =>
    p.strand !== edit.rope
      ? undefined
      : p.at > neck[0] && p.at < neck[1]
        ? 1
        : p.at > neck[2] && p.at < neck[3]
          ? 2
          : undefined;
  const crossed = meetings(next)
    .filter((m) => inNeck(m.first) === 1 && inNeck(m.second) === 2)
    .sort((a, b) => a.first.at - b.first.at);
  const later = laterOver(next);
  return weaveFigure(next, (m) => {
    const i = crossed.indexOf(m);
    // The legs of a twist wind round each other: each is over at every other crossing.
    if (i >= 0) return (i % 2 === 0) === edit.halfTurns > 0;
    let best: { off: number; firstIsOver: boolean } | undefined;
    for (const c of old) {
      const [over, under] = [mapPosition(mapping, c.over), mapPosition(mapping, c.under)];
      if (!over || !under) continue;
      const swapped = turned && inPart(c.over);
      for (const [a, b, firstIsOver] of [
        [m.first, m.second, true],
        [m.second, m.first, false],
      ] as const) {
        if (a.strand !== over.strand || b.strand !== under.strand) continue;
        const off = Math.abs(a.at - over.at) + Math.abs(b.at - under.at);
        if (off < SLIDE && (best === undefined || off < best.off)) best = { off, firstIsOver: firstIsOver !== swapped };
      }
    }
    return best?.firstIsOver ?? later(m);
  });
}
