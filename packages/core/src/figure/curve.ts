/**
 * The curve through a strand's control points: centripetal Catmull-Rom, written out as cubic Béziers, or straight pieces.
 *
 * Source of the conversion: C. Yuksel, S. Schaefer, J. Keyser, "Parameterization and applications of Catmull-Rom curves",
 * Computer-Aided Design 43 (2011); the centripetal choice (exponent 1/2) makes no cusps or loops within a piece.
 */
import { remembered, rememberedBy } from '../ground/remembered.js';
import { onRing } from '../ground/ring.js';
import { hostIsClosed, type Host, type Rope } from './figure.js';
import { add, between, boxOf, distance, scale, subtract, unit, type Box, type Point } from './point.js';

/** One cubic Bézier: the piece between two neighbouring control points. */
export type Piece = readonly [Point, Point, Point, Point];

export interface Curve {
  readonly pieces: readonly Piece[];
  readonly closed: boolean;
  /** Vertices of the flattened curve, with the trail position of each. */
  readonly line: readonly Point[];
  readonly lineAt: readonly number[];
  /** Index into `line` where each piece begins; one more entry closes the list. */
  readonly starts: readonly number[];
  readonly boxes: readonly Box[];
}

/** Chords per smooth piece, by its length in diameters: at four a diameter a bend of radius 1 is off by less than 0.01. */
const CHORDS_PER_DIAMETER = 4;
const LEAST_CHORDS = 4;
const MOST_CHORDS = 32;

const tangentPoint = (before: Point, p: Point, next: Point): Point => {
  const d1 = Math.sqrt(distance(before, p));
  const d2 = Math.sqrt(distance(p, next));
  if (d1 < 1e-9 || d2 < 1e-9) return p;
  const k = 3 * d1 * (d1 + d2);
  const weight = 2 * d1 * d1 + 3 * d1 * d2 + d2 * d2;
  return [
    (d1 * d1 * next[0] - d2 * d2 * before[0] + weight * p[0]) / k,
    (d1 * d1 * next[1] - d2 * d2 * before[1] + weight * p[1]) / k,
  ];
};

const straightPiece = (p: Point, q: Point): Piece => [p, between(p, q, 1 / 3), between(p, q, 2 / 3), q];

function smoothPieces(points: readonly Point[], closed: boolean): Piece[] {
  const n = points.length;
  const at = (i: number): Point => {
    if (closed) return points[onRing(i, n)] as Point;
    if (i < 0) return subtract(scale(points[0] as Point, 2), points[1] as Point);
    if (i >= n) return subtract(scale(points[n - 1] as Point, 2), points[n - 2] as Point);
    return points[i] as Point;
  };
  return Array.from({ length: closed ? n : n - 1 }, (_, i): Piece => {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    return [b, tangentPoint(a, b, c), tangentPoint(d, c, b), c];
  });
}

/** Place on a Bézier at parameter t in [0, 1]. */
export function piecePoint([a, b, c, d]: Piece, t: number): Point {
  const s = 1 - t;
  const [k0, k1, k2, k3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [k0 * a[0] + k1 * b[0] + k2 * c[0] + k3 * d[0], k0 * a[1] + k1 * b[1] + k2 * c[1] + k3 * d[1]];
}

/** Derivative of a Bézier at t, in diameters per piece. */
export function pieceTangent([a, b, c, d]: Piece, t: number): Point {
  const s = 1 - t;
  const [k0, k1, k2] = [3 * s * s, 6 * s * t, 3 * t * t];
  return [
    k0 * (b[0] - a[0]) + k1 * (c[0] - b[0]) + k2 * (d[0] - c[0]),
    k0 * (b[1] - a[1]) + k1 * (c[1] - b[1]) + k2 * (d[1] - c[1]),
  ];
}

function buildCurve(points: readonly Point[], smooth: boolean, closed: boolean): Curve {
  const pieces =
    points.length < 2
      ? []
      : smooth && points.length > 2
        ? smoothPieces(points, closed)
        : points
            .slice(closed ? 0 : 1)
            .map((p, i) =>
              closed
                ? straightPiece(p, points[(i + 1) % points.length] as Point)
                : straightPiece(points[i] as Point, p),
            );
  const line: Point[] = [];
  const lineAt: number[] = [];
  const starts: number[] = [];
  const boxes: Box[] = [];
  pieces.forEach((piece, i) => {
    const length = distance(piece[0], piece[1]) + distance(piece[1], piece[2]) + distance(piece[2], piece[3]);
    const chords =
      smooth && points.length > 2
        ? Math.min(MOST_CHORDS, Math.max(LEAST_CHORDS, Math.ceil(length * CHORDS_PER_DIAMETER)))
        : 1;
    starts.push(line.length);
    for (let k = 0; k < chords; k += 1) {
      line.push(k === 0 ? piece[0] : piecePoint(piece, k / chords));
      lineAt.push(i + k / chords);
    }
    boxes.push(boxOf([...line.slice(starts[i]), piece[3]]) as Box);
  });
  starts.push(line.length);
  const last = pieces.at(-1);
  line.push(last?.[3] ?? points[0] ?? [0, 0]);
  lineAt.push(pieces.length);
  return { pieces, closed, line, lineAt, starts, boxes };
}

/** Curves of a list of control points, by how they are drawn through it. */
const curvesThrough = rememberedBy(
  (points: readonly Point[], drawn: 'smooth' | 'straight' | 'smooth ring' | 'straight ring') =>
    buildCurve(points, drawn.startsWith('smooth'), drawn.endsWith('ring')),
);

/** The curve of a rope or host; remembered per list of control points and how it is drawn. */
export function curveOf(strand: Rope | Host): Curve {
  const closed = 'curve' in strand ? strand.closed : hostIsClosed(strand);
  const smooth = 'curve' in strand ? strand.curve === 'smooth' : strand.kind !== 'spar';
  return curvesThrough(strand.points, `${smooth ? 'smooth' : 'straight'}${closed ? ' ring' : ''}`);
}

const locate = (curve: Curve, at: number): [Piece, number] | undefined => {
  const n = curve.pieces.length;
  if (n === 0) return undefined;
  const i = Math.min(n - 1, Math.max(0, Math.floor(at)));
  return [curve.pieces[i] as Piece, Math.min(1, Math.max(0, at - i))];
};

/** Place at a trail position; positions outside the curve give its ends. */
export function pointAt(curve: Curve, at: number): Point {
  const found = locate(curve, at);
  return found ? piecePoint(...found) : (curve.line[0] as Point);
}

/** Unit direction of travel at a trail position. */
export function directionAt(curve: Curve, at: number): Point {
  const found = locate(curve, at);
  if (!found) return [1, 0];
  const t = pieceTangent(...found);
  return Math.hypot(t[0], t[1]) > 1e-9 ? unit(t) : unit(subtract(found[0][3], found[0][0]));
}

/** Length along the curve from its start to each vertex of `line`, in diameters. */
const lengths = remembered((curve: Curve): readonly number[] => {
  let sum = 0;
  return curve.line.map((p, i) => (sum += i === 0 ? 0 : distance(curve.line[i - 1] as Point, p)));
});

/** Index of the last entry of an ascending list that is not above `value` (0 when all are). */
function lastNotAbove(list: readonly number[], value: number): number {
  let [low, high] = [0, list.length - 1];
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if ((list[mid] as number) <= value) low = mid;
    else high = mid - 1;
  }
  return low;
}

const interpolate = (from: readonly number[], to: readonly number[], value: number): number => {
  const i = Math.min(lastNotAbove(from, value), from.length - 2);
  if (i < 0) return to[0] ?? 0;
  const [a, b] = [from[i] as number, from[i + 1] as number];
  const t = b === a ? 0 : Math.min(1, Math.max(0, (value - a) / (b - a)));
  return (to[i] as number) + t * ((to[i + 1] as number) - (to[i] as number));
};

/** Rope from the start of the trail to a position, in diameters. */
export const lengthTo = (curve: Curve, at: number): number => interpolate(curve.lineAt, lengths(curve), at);

/** The trail position that lies a length (in diameters) from the start. */
export const atLength = (curve: Curve, length: number): number => interpolate(lengths(curve), curve.lineAt, length);

/** Whole length in diameters. */
export const lengthOf = (curve: Curve): number => lengths(curve).at(-1) ?? 0;

function cutPiece([a, b, c, d]: Piece, from: number, to: number): Piece {
  const right = (t: number): Piece => {
    const [ab, bc, cd] = [between(a, b, t), between(b, c, t), between(c, d, t)];
    const [abc, bcd] = [between(ab, bc, t), between(bc, cd, t)];
    return [between(abc, bcd, t), bcd, cd, d];
  };
  const [p, q, r, s] = from === 0 ? [a, b, c, d] : right(from);
  if (to === 1) return [p, q, r, s];
  const t = (to - from) / (1 - from);
  const [pq, qr, rs] = [between(p, q, t), between(q, r, t), between(r, s, t)];
  const [pqr, qrs] = [between(pq, qr, t), between(qr, rs, t)];
  return [p, pq, pqr, between(pqr, qrs, t)];
}

/** The Béziers of a stretch of the curve, exactly cut at both ends. */
export function stretch(curve: Curve, from: number, to: number): Piece[] {
  const out: Piece[] = [];
  for (let i = Math.max(0, Math.floor(from)); i < Math.min(curve.pieces.length, to); i += 1) {
    const [a, b] = [Math.max(0, from - i), Math.min(1, to - i)];
    if (b - a > 1e-9) out.push(cutPiece(curve.pieces[i] as Piece, a, b));
  }
  return out;
}

/** Vertices of the flattened curve between two trail positions, both ends included. */
export function lineBetween(curve: Curve, from: number, to: number): Point[] {
  if (from > to) return lineBetween(curve, to, from).reverse();
  const out: Point[] = [pointAt(curve, from)];
  for (
    let i = lastNotAbove(curve.lineAt, from) + 1;
    i < curve.line.length && (curve.lineAt[i] as number) < to;
    i += 1
  ) {
    if ((curve.lineAt[i] as number) > from) out.push(curve.line[i] as Point);
  }
  out.push(pointAt(curve, to));
  return out;
}

/** The nearest trail position to a place, and how far off it is in diameters. */
export function nearestOn(curve: Curve, place: Point): { at: number; away: number } {
  let best = { at: 0, away: Infinity };
  for (let i = 1; i < curve.line.length; i += 1) {
    const [p, q] = [curve.line[i - 1] as Point, curve.line[i] as Point];
    const d = subtract(q, p);
    const square = d[0] * d[0] + d[1] * d[1];
    const t =
      square === 0 ? 0 : Math.min(1, Math.max(0, ((place[0] - p[0]) * d[0] + (place[1] - p[1]) * d[1]) / square));
    const away = distance(place, add(p, scale(d, t)));
    if (away < best.away)
      best = {
        at: (curve.lineAt[i - 1] as number) + t * ((curve.lineAt[i] as number) - (curve.lineAt[i - 1] as number)),
        away,
      };
  }
  return best;
}

/** SVG path data for a run of Béziers, in board units rounded to a thousandth of a diameter. */
export function pathData(pieces: readonly Piece[]): string {
  const n = (v: number): string => String(Math.round(v * 1000) / 1000);
  const xy = (p: Point): string => `${n(p[0])} ${n(p[1])}`;
  const first = pieces[0];
  if (!first) return '';
  return `M${xy(first[0])}` + pieces.map(([, b, c, d]) => `C${xy(b)} ${xy(c)} ${xy(d)}`).join('');
}

/**
 * Few control points whose smooth curve stays within `tolerance` diameters of a hand-drawn path.
 * Points are first taken at even spacing, then dropped greedily while the curve keeps to the path.
 */
export function fitPath(path: readonly Point[], spacing = 1.5, tolerance = 0.22): Point[] {
  const even = evenly(path, spacing);
  /** True when the curve through these points strays from the path between the two round `gap`. */
  const strays = (chosen: readonly number[], gap: number): boolean => {
    const near = chosen.slice(Math.max(0, gap - 2), gap + 3).map((i) => even[i] as Point);
    const part = buildCurve(near, true, false);
    return even.slice(chosen[gap - 1], (chosen[gap] as number) + 1).some((p) => nearestOn(part, p).away > tolerance);
  };
  let chosen = [...even.keys()];
  for (let i = 1; i < chosen.length - 1;) {
    const without = chosen.filter((_, k) => k !== i);
    const gap = distance(even[without[i - 1] as number] as Point, even[without[i] as number] as Point);
    if (gap < 4 * spacing && !strays(without, i)) chosen = without;
    else i += 1;
  }
  return chosen.map((i) => even[i] as Point);
}

/** Points of a path at least `spacing` apart; its first and its last are always among them. */
function evenly(path: readonly Point[], spacing: number): Point[] {
  const kept: Point[] = [];
  for (const p of path) if (kept.length === 0 || distance(kept.at(-1) as Point, p) >= spacing) kept.push(p);
  const last = path.at(-1);
  if (last && kept.at(-1) !== last) {
    if (kept.length > 1 && distance(kept.at(-1) as Point, last) < spacing / 2) kept.pop();
    kept.push(last);
  }
  return kept;
}
