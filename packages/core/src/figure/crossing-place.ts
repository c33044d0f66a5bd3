/**
 * Crossings kept by the places of their two passages on the trail, so that they are found again when the figure is drawn otherwise
 * and its crossings are numbered anew.
 */
import { remembered } from '../ground/remembered.js';
import { crossingsOf, type Crossing } from './crossings.js';
import { ropeOf, type Figure, type TrailPosition } from './figure.js';
import { mapPosition, type Mapping } from './mapping.js';

/** A crossing by its passages, in whichever order. */
export interface CrossingPlace {
  readonly first: TrailPosition;
  readonly second: TrailPosition;
}

/** Farthest a crossing is looked for beside its place, in control-point intervals, both strands together. */
const ASIDE = 1.5;

export const placeOfCrossing = ({ first, second }: Crossing): CrossingPlace => ({ first, second });

/** How far apart two places are along their trail, in control-point intervals; infinite on different strands. */
export function alongBetween(figure: Figure, p: TrailPosition, q: TrailPosition): number {
  if (p.strand !== q.strand) return Infinity;
  const off = Math.abs(p.at - q.at);
  const rope = ropeOf(figure, p.strand);
  return rope?.closed ? Math.min(off, rope.points.length - off) : off;
}

/** How far apart two pairs of places are, taken in the order in which they are nearer. */
export const apart = (figure: Figure, a: CrossingPlace, b: CrossingPlace): number =>
  Math.min(
    alongBetween(figure, a.first, b.first) + alongBetween(figure, a.second, b.second),
    alongBetween(figure, a.first, b.second) + alongBetween(figure, a.second, b.first),
  );

/** The crossing at a place; none when no crossing of these strands is near it. */
export function crossingAt(figure: Figure, place: CrossingPlace): Crossing | undefined {
  let nearest: Crossing | undefined;
  let least = ASIDE;
  for (const c of crossingsOf(figure)) {
    const off = apart(figure, place, c);
    if (off < least) [nearest, least] = [c, off];
  }
  return nearest;
}

/** What strands cross in which order, however they are drawn: on each strand the numbers of its crossings. */
const orderOf = remembered((figure: Figure): string => {
  const passages = crossingsOf(figure).flatMap(({ number, first, second }) => [
    { number, ...first },
    { number, ...second },
  ]);
  passages.sort((p, q) => (p.strand === q.strand ? p.at - q.at : p.strand < q.strand ? -1 : 1));
  return passages.map((p) => `${p.strand} ${p.number}`).join(',');
});

/**
 * Where the crossings of one drawing lie in another. Drawn with the same crossings in the same order they are found by their number,
 * however far they moved; else each by the crossing nearest to where the mapping leads. Where none is near, the place is what the
 * mapping says; where that is gone, so is the place.
 */
export function crossingsAfter(
  before: Figure,
  after: Figure,
  mapping: Mapping,
): (place: CrossingPlace) => CrossingPlace | undefined {
  const sameOrder = orderOf(before) === orderOf(after);
  return (place) => {
    const was = crossingAt(before, place);
    const same = was && sameOrder ? crossingsOf(after)[was.number - 1] : undefined;
    if (same) return placeOfCrossing(same);
    const [first, second] = [mapPosition(mapping, place.first), mapPosition(mapping, place.second)];
    if (!first || !second) return undefined;
    const now = was && crossingAt(after, { first, second });
    return now ? placeOfCrossing(now) : { first, second };
  };
}
