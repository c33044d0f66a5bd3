/**
 * The legs of a bight: which places of them lie beside each other.
 */
import { remembered } from '../ground/remembered.js';
import { atLength, curveOf, lengthTo, pointAt } from '../figure/curve.js';
import type { Rope } from '../figure/figure.js';
import { distance, type Point } from '../figure/point.js';

/** Where the legs of a bight begin: the first at `from`, the second, going back, at `to`. */
export interface Legs {
  readonly from: number;
  readonly to: number;
}

/** Where a bight's apex is when it is drawn out fully: at the one eye that it makes, midway between two, else in the middle of its rope. */
export const apexOf = (rope: Rope, { from, to }: Legs): number => {
  const eyes = rope.eyes?.filter((at) => at > from && at < to) ?? [];
  const [first, last] = eyes.length > 0 ? [Math.min(...eyes), Math.max(...eyes)] : [from, to];
  if (eyes.length === 1) return first;
  const curve = curveOf(rope);
  return atLength(curve, (lengthTo(curve, first) + lengthTo(curve, last)) / 2);
};

/** The place on the second leg of a bight beside a place on the first. */
export const acrossBight = (rope: Rope, leader: Legs, at: number): number => {
  const pairs = legsOf(rope)(leader);
  return alongPairs(pairs, at, 0);
};

/** The place on the first leg of a bight that a place on either leg is beside. */
export const onFirstLeg = (rope: Rope, leader: Legs, at: number): number =>
  at <= apexOf(rope, leader) ? at : alongPairs(legsOf(rope)(leader), at, 1);

type Pair = readonly [first: number, second: number];

/** Between pairs, in proportion. */
function alongPairs(pairs: readonly Pair[], at: number, side: 0 | 1): number {
  const way = side === 0 ? 1 : -1;
  const past = pairs.findIndex((p) => (p[side] - at) * way >= 0);
  const k = past < 0 ? pairs.length - 1 : Math.max(1, past);
  const [p, q] = [pairs[k - 1] as Pair, pairs[k] as Pair];
  const share = q[side] === p[side] ? 0 : (at - p[side]) / (q[side] - p[side]);
  const other = side === 0 ? 1 : 0;
  return p[other] + Math.min(1, Math.max(0, share)) * (q[other] - p[other]);
}

/** Distance between the places at which the legs of a bight are matched, and what it costs to go on along one alone, in diameters. */
const LEG_STEP = 0.75;
/** Most places of a leg that are matched: of a longer one they lie farther apart. */
const MOST_PLACES = 240;
const ONE_ALONE = 0.4;

/**
 * Which places of a bight's legs lie beside each other: from its two ends to its apex, so that the way between them is shortest in all.
 * Where the legs go round a bend together the outer one is the longer. Dynamic time warping; both lists grow strictly.
 */
const legsOf = remembered((rope: Rope) => {
  const known = new Map<string, readonly Pair[]>();
  return (leader: Legs): readonly Pair[] => {
    const key = `${leader.from} ${leader.to}`;
    const pairs = known.get(key) ?? matchLegs(rope, leader);
    known.set(key, pairs);
    return pairs;
  };
});

function matchLegs(rope: Rope, leader: Legs): Pair[] {
  const curve = curveOf(rope);
  const apex = apexOf(rope, leader);
  const leg = (from: number): { at: number; point: Point }[] => {
    const [a, b] = [lengthTo(curve, from), lengthTo(curve, apex)];
    const count = Math.min(MOST_PLACES, Math.max(1, Math.round(Math.abs(b - a) / LEG_STEP)));
    return Array.from({ length: count + 1 }, (_, k) => {
      const at = k === 0 ? from : k === count ? apex : atLength(curve, a + ((b - a) * k) / count);
      return { at, point: pointAt(curve, at) };
    });
  };
  const [first, second] = [leg(leader.from), leg(leader.to)];
  const cost: number[][] = first.map(() => []);
  const put = (i: number, j: number): number => cost[i]?.[j] ?? Infinity;
  first.forEach((p, i) => {
    second.forEach((q, j) => {
      const before =
        i === 0 && j === 0 ? 0 : Math.min(put(i - 1, j - 1), put(i - 1, j) + ONE_ALONE, put(i, j - 1) + ONE_ALONE);
      (cost[i] as number[])[j] = before + distance(p.point, q.point);
    });
  });
  const pairs: Pair[] = [[apex, apex]];
  let [i, j] = [first.length - 1, second.length - 1];
  while (i > 0 && j > 0) {
    const both = put(i - 1, j - 1);
    const [one, two] = [put(i - 1, j) + ONE_ALONE, put(i, j - 1) + ONE_ALONE];
    if (both <= one && both <= two) {
      [i, j] = [i - 1, j - 1];
      pairs.unshift([first[i]?.at ?? 0, second[j]?.at ?? 0]);
    } else if (one <= two) i -= 1;
    else j -= 1;
  }
  if ((pairs[0] as Pair)[0] !== leader.from || (pairs[0] as Pair)[1] !== leader.to) {
    while (pairs.length > 1 && ((pairs[0] as Pair)[0] === leader.from || (pairs[0] as Pair)[1] === leader.to))
      pairs.shift();
    pairs.unshift([leader.from, leader.to]);
  }
  return pairs;
}
