/**
 * One drawing of a knot and another of it that meets the same crossings in the same order: how it is drawn on the way from the one to the other,
 * strand by strand. Each drawing on the way is shown only where it meets the same crossings as both.
 */
import { passagesOf, readWeave } from './crossings.js';
import { atLength, curveOf, lengthTo, pointAt } from './curve.js';
import { lastAt, ropeOf, type Figure, type Host, type Rope } from './figure.js';
import { between, distance, type Point } from './point.js';

/** Control points of a drawing on the way lie so far from one another at most, in diameters. */
const APART = 1.2;
/** Drawings on the way that are proved before any is shown. */
const PROVED = 24;

/** What a drawing meets, rope by rope: which crossing, over or under, and from which side. */
const metBy = (figure: Figure): string =>
  figure.ropes
    .map(({ id }) =>
      passagesOf(figure, id)
        .map((p) => `${p.over ? 'O' : 'U'}${p.crossing.number}${p.crossing.turn > 0 ? '+' : '-'}`)
        .join(' '),
    )
    .join(' | ');

/** Places of a rope and the same places of it as it is drawn otherwise: its ends, and evenly from where it passes to where it passes next. */
function pairedPlaces(from: Figure, to: Figure, rope: Rope, other: Rope): readonly (readonly [Point, Point])[] {
  const stops = (figure: Figure, r: Rope): number[] =>
    [0, ...passagesOf(figure, r.id).map((p) => p.at), lastAt(r)].map((at) => lengthTo(curveOf(r), at));
  const [a, b] = [stops(from, rope), stops(to, other)];
  const [curve, otherCurve] = [curveOf(rope), curveOf(other)];
  const at = (share: number, i: number): readonly [Point, Point] => {
    const place = (c: typeof curve, s: readonly number[]): Point => {
      const [p, q] = [s[i] as number, s[i + 1] as number];
      return pointAt(c, atLength(c, p + share * (q - p)));
    };
    return [place(curve, a), place(otherCurve, b)];
  };
  const pairs = a.slice(1).flatMap((end, i) => {
    const longest = Math.max(end - (a[i] as number), (b[i + 1] as number) - (b[i] as number));
    const pieces = Math.max(2, Math.ceil(longest / APART));
    // Beside where they pass: two strands with one control point meet nowhere that can be told.
    return Array.from({ length: pieces }, (_, k) => at((k + 0.5) / pieces, i));
  });
  return rope.closed ? pairs : [at(0, 0), ...pairs, at(1, a.length - 2)];
}

/** Hosts of two drawings that are the same things, point by point. */
const sameHosts = (a: readonly Host[], b: readonly Host[]): boolean =>
  a.length === b.length && a.every((h, i) => h.kind === b[i]?.kind && h.points.length === b[i].points.length);

/** A knot on its way from one drawing to another: how it is drawn after a share of it. */
export type OnTheWay = (share: number) => Figure;

/**
 * The way from one drawing to another, at any share from 0 to 1; nothing where they meet other crossings, lie on other things, or where no
 * drawing between them meets the same ones.
 */
export function betweenFigures(from: Figure, to: Figure): OnTheWay | undefined {
  const met = metBy(from);
  const isSame =
    from.ropes.length === to.ropes.length &&
    from.ropes.every((r, i) => r.id === to.ropes[i]?.id && r.closed === to.ropes[i].closed);
  if (!isSame || !sameHosts(from.hosts, to.hosts) || met !== metBy(to)) return undefined;
  const paired = from.ropes.map((rope) => pairedPlaces(from, to, rope, ropeOf(to, rope.id) as Rope));
  const drawn = (share: number): Figure => ({
    ropes: to.ropes.map(({ eyes: _eyes, wraps: _wraps, breaks: _breaks, ...rope }, i) => ({
      ...rope,
      curve: 'smooth',
      points: withoutRepeats((paired[i] as (readonly [Point, Point])[]).map(([p, q]) => between(p, q, share))),
    })),
    hosts: to.hosts.map((host, i) => ({
      ...host,
      points: host.points.map((q, k) => between((from.hosts[i] as Host).points[k] as Point, q, share)),
    })),
  });
  const isTrue = (figure: Figure): boolean => readWeave(figure).ok && metBy(figure) === met;
  const proved = Array.from({ length: PROVED + 1 }, (_, k) => drawn(k / PROVED));
  if (!proved.every(isTrue)) return undefined;
  return (share) => {
    const figure = drawn(Math.min(1, Math.max(0, share)));
    return isTrue(figure) ? figure : (proved[Math.round(share * PROVED)] as Figure);
  };
}

const withoutRepeats = (points: readonly Point[]): Point[] =>
  points.filter((p, i) => i === 0 || distance(p, points[i - 1] as Point) > 1e-6);
