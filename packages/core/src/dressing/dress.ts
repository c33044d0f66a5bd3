/**
 * Dressing: crossings that could be taken out, doubled strands that cross each other, bends that are too sharp, and strands that run
 * side by side.
 */
import { hostBetween } from '../figure/host-between.js';
import { diameterOf, leastBend } from '../figure/cordage.js';
import { crossingsOf, passagesOf, type Crossing } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import type { Figure, Rope, TrailPosition, TrailSpan } from '../figure/figure.js';
import { cross, distance, dot, type Point } from '../figure/point.js';
import { needless } from '../topology/simplify.js';
import { readMap } from '../topology/planar-map.js';
import { tangleOf } from '../topology/tangle.js';

export interface NeedlessCrossings {
  /** R1: a kink. R2: one strand lies over another and comes back. */
  readonly kind: 'R1' | 'R2';
  /** Crossing numbers. */
  readonly crossings: readonly number[];
}

/** Crossings that come out by themselves: kinks, and strands that can be lifted off. Only the figure's own are given. */
export function needlessCrossings(figure: Figure): readonly NeedlessCrossings[] {
  if (!readMap(figure).ok) return [];
  const list = crossingsOf(figure);
  const wrapped = inWraps(figure);
  // What passes behind a spar is not in front of it for nothing.
  const isPlain = (c: number): boolean => {
    const crossing = list[c];
    return crossing !== undefined && !wrapped.has(c + 1) && !hostBetween(figure, crossing);
  };
  return needless(tangleOf(figure, 'held')).flatMap((m): NeedlessCrossings[] =>
    m.kind !== 'R3' && m.crossings.every(isPlain) ? [{ kind: m.kind, crossings: m.crossings.map((c) => c + 1) }] : [],
  );
}

/** Numbers of the crossings that turns laid as one make: a friction hitch is held by what a rope alone could shake off. */
function inWraps(figure: Figure): ReadonlySet<number> {
  return new Set(
    figure.ropes.flatMap((r) =>
      passagesOf(figure, r.id)
        .filter((p) => r.wraps?.some((w) => p.at >= w.from - 1 && p.at <= w.to + 1) === true)
        .map((p) => p.crossing.number),
    ),
  );
}

export interface SharpBend {
  readonly place: TrailPosition;
  /** Radius of the bend in diameters of the rope. */
  readonly radius: number;
}

/** A rope that is folded on purpose, as in a bight, kinks where its inner side would lie within itself. */
const LEAST_FOLDED = 0.5;
/** Half the length over which a bend is measured, in diameters: a wobble of the hand shorter than that is no kink. */
const SAMPLE = 0.5;

/** Stretches on which a rope goes round the edge of another strand, or of a host: over it, and back under it, with nothing between. */
function roundEdges(figure: Figure, rope: Rope): [number, number][] {
  const places = new Map<string, readonly number[]>();
  const orderOn = ({ strand, at }: TrailPosition): number => {
    let own = places.get(strand);
    if (!own) {
      own = passagesOf(figure, strand).map((p) => p.at);
      places.set(strand, own);
    }
    return own.indexOf(at);
  };
  const passages = passagesOf(figure, rope.id);
  return passages.slice(1).flatMap((q, i): [number, number][] => {
    const p = passages[i]!;
    const isEdge =
      p.over !== q.over &&
      p.crossing !== q.crossing &&
      p.other.strand === q.other.strand &&
      Math.abs(orderOn(p.other) - orderOn(q.other)) === 1;
    return isEdge ? [[p.at, q.at]] : [];
  });
}

/**
 * Places where a rope bends more sharply than its diameter and its stiffness let it lie; the sharpest of each bend. `folded` are stretches that are folded on
 * purpose. Turns are left out: where they go round the edge of what they lie on they bend away from the eye, and only the
 * picture is sharp.
 */
export function sharpBends(figure: Figure, folded: readonly TrailSpan[] = []): readonly SharpBend[] {
  return figure.ropes.flatMap((rope) => {
    const curve = curveOf(rope);
    const [whole, thick] = [lengthOf(curve), diameterOf(rope)];
    const out: SharpBend[] = [];
    let worst: SharpBend | undefined;
    const own = folded.filter((s) => s.strand === rope.id);
    const edges = roundEdges(figure, rope);
    const inTurns = (place: number): boolean =>
      (rope.wraps ?? []).some((w) => place >= w.from - 1 && place <= w.to + 1) ||
      edges.some(([from, to]) => place >= from && place <= to);
    for (let at = SAMPLE; at < whole - SAMPLE; at += SAMPLE) {
      const place = atLength(curve, at);
      const [d, e] = [
        directionAt(curve, atLength(curve, at - SAMPLE)),
        directionAt(curve, atLength(curve, at + SAMPLE)),
      ];
      const turn = Math.abs(Math.atan2(cross(d, e), dot(d, e)));
      const radius = turn === 0 ? Infinity : (2 * SAMPLE) / turn / thick;
      const least = own.some((s) => place >= s.from && place <= s.to) ? LEAST_FOLDED : leastBend(rope);
      if (radius < least && !inTurns(place)) {
        if (!worst || radius < worst.radius) worst = { place: { strand: rope.id, at: place }, radius };
      } else if (worst) {
        out.push(worst);
        worst = undefined;
      }
    }
    return worst ? [...out, worst] : out;
  });
}

export interface LooseFace {
  /** Diameter of the circle of the same area, in rope diameters. */
  readonly across: number;
  readonly point: Point;
}

/**
 * The widest gap that the strands close in, but for loops that are meant to stay: where a knot drawn tight would have slack left.
 */
export function loosestFace(figure: Figure): LooseFace | undefined {
  const read = readMap(figure);
  if (!read.ok) return undefined;
  const { faces, edges } = read.value;
  const eyes = figure.ropes.flatMap((r) => (r.eyes ?? []).map((at) => ({ strand: r.id, at })));
  const atEye = (dart: number): boolean => {
    const e = edges[dart >> 1];
    return eyes.some((x) => x.strand === e?.strand && x.at >= e.from && x.at <= e.to);
  };
  let best: LooseFace | undefined;
  for (const f of faces) {
    if (f.outer || f.darts.some(atEye)) continue;
    const area = Math.abs(
      f.outline.reduce((sum, p, i) => sum + cross(p, f.outline[(i + 1) % f.outline.length] as Point), 0) / 2,
    );
    const across = 2 * Math.sqrt(area / Math.PI);
    if (best && across <= best.across) continue;
    const n = f.outline.length;
    const [x, y] = f.outline.reduce(([sx, sy], [px, py]) => [sx + px / n, sy + py / n], [0, 0]) as [number, number];
    best = { across, point: [x, y] };
  }
  return best;
}

export interface ParallelRun {
  readonly a: TrailPosition;
  readonly b: TrailPosition;
  /** Half way between the two strands, at the middle of the run. */
  readonly point: Point;
  /** Length over which they keep together, in diameters. */
  readonly length: number;
}

/** Strands side by side: farther apart than a rope is thick, and not much more. */
const NEAR = 3;
const NEAREST = 0.8;
/** Cosine of the greatest angle between strands that run side by side: 20°. */
const PARALLEL = Math.cos((20 * Math.PI) / 180);
/** Shortest run, in diameters, that an eye takes for parallel. */
const SHORTEST_RUN = 3;
const STEP = 0.75;

interface Sample {
  readonly at: number;
  readonly along: number;
  readonly point: Point;
  readonly direction: Point;
}

const samplesOf = (rope: Rope): Sample[] => {
  const curve = curveOf(rope);
  return Array.from({ length: Math.floor(lengthOf(curve) / STEP) + 1 }, (_, i) => {
    const at = atLength(curve, i * STEP);
    return { at, along: i * STEP, point: pointAt(curve, at), direction: directionAt(curve, at) };
  });
};

/** Every stretch over which two strands run side by side, the longest first. */
export function parallelRuns(figure: Figure): readonly ParallelRun[] {
  const strands = figure.ropes.map((rope) => ({ rope, samples: samplesOf(rope) }));
  const runs: ParallelRun[] = [];
  strands.forEach(({ rope, samples }, i) => {
    for (const { rope: other, samples: beside } of strands.slice(i)) {
      let run: { a: Sample; b: Sample }[] = [];
      const close = (): void => {
        const [first, last] = [run[0], run.at(-1)];
        if (first && last && last.a.along - first.a.along >= SHORTEST_RUN) {
          const mid = run[run.length >> 1] as (typeof run)[number];
          runs.push({
            a: { strand: rope.id, at: mid.a.at },
            b: { strand: other.id, at: mid.b.at },
            point: [(mid.a.point[0] + mid.b.point[0]) / 2, (mid.a.point[1] + mid.b.point[1]) / 2],
            length: last.a.along - first.a.along,
          });
        }
        run = [];
      };
      for (const a of samples) {
        let best: Sample | undefined;
        let least = NEAR;
        for (const b of beside) {
          // Along one rope only what lies well ahead counts, so that each pair is met once and neighbours are not taken for two strands.
          if (rope === other && b.along < a.along + 3 * NEAR) continue;
          const off = distance(a.point, b.point);
          if (off >= NEAREST && off < least && Math.abs(dot(a.direction, b.direction)) > PARALLEL)
            [best, least] = [b, off];
        }
        const before = run.at(-1);
        if (!best || (before && Math.abs(best.along - before.b.along) > 3 * STEP)) close();
        if (best) run.push({ a, b: best });
      }
      close();
    }
  });
  return runs.sort((p, q) => q.length - p.length);
}

/** Crossings at which two strands that run side by side change sides: they cross flatter than this, in radians. */
const FLAT = 0.55;

/** They keep together for this long on each side of the crossing, in diameters. */
const BESIDE = 6;

/** Doubled strands that cross each other instead of keeping parallel. */
export function crossedDoubles(figure: Figure): readonly Crossing[] {
  return crossingsOf(figure).filter((c) => {
    if (c.angle > FLAT) return false;
    const rope = (p: TrailPosition): Rope | undefined => figure.ropes.find((r) => r.id === p.strand);
    const [a, b] = [rope(c.first), rope(c.second)];
    if (!a || !b) return false;
    const beside = (away: number): boolean => {
      const p = pointAt(curveOf(a), atLength(curveOf(a), Math.max(0, lengthTo(curveOf(a), c.first.at) + away)));
      return [away, -away].some((back) => {
        const q = pointAt(curveOf(b), atLength(curveOf(b), Math.max(0, lengthTo(curveOf(b), c.second.at) + back)));
        return distance(p, q) < NEAR;
      });
    };
    return [BESIDE, -BESIDE].every(beside);
  });
}
