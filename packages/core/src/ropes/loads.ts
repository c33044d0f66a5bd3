/**
 * Loads: what legs, turns and knots carry. Planning help, and no certification: the maker, the local code and a competent person say what
 * may be loaded. Forces in the unit of the load that is given, angles in radians, lengths in any one unit.
 */
import { accept, refuse, type Result } from '../figure/refusal.js';
import type { TestGroup } from './pull-test.js';
import type { Condition, StockRope } from './stock.js';

/** Two legs from anchors to a load that hangs from them. The first anchor is the origin; the second lies `span` to its right, `rise` higher. */
export interface TwoLegs {
  readonly span: number;
  readonly rise: number;
  readonly legs: 'fixed' | 'equalised';
  /** Lengths of the legs; of an equalised sling both together are its length. */
  readonly first: number;
  readonly second: number;
}

export interface LegForces {
  /** Forces in the legs for a load of one. */
  readonly first: number;
  readonly second: number;
  /** Angle between the legs. */
  readonly between: number;
  /** Where the load hangs: to the right of the first anchor, and below it. */
  readonly at: readonly [x: number, below: number];
  /** One leg carries all of it: the load hangs straight below its anchor, or beside the other. */
  readonly slack: 'first' | 'second' | undefined;
}

/** Statics of a point that hangs from two legs: the sum of forces is nought (Varignon’s triangle of forces). */
export function legForces({ span, rise, legs, first, second }: TwoLegs): Result<LegForces> {
  const apart = Math.hypot(span, rise);
  if (![span, rise, first, second].every(Number.isFinite) || first <= 0 || second <= 0 || span < 0)
    return refuse('legs', 'A leg has no length.', 'Give both legs a length, and the anchors a distance.');
  if (first + second < apart * (1 + 1e-9))
    return refuse(
      'legs',
      'The legs do not reach: together they are no longer than the anchors are apart.',
      'Lengthen them.',
    );
  if (legs === 'equalised') {
    // The load slides until both parts make one angle with the plumb line: sin = span / length.
    const length = first + second;
    const half = Math.asin(Math.min(1, span / length));
    const below = (length * Math.cos(half) - rise) / 2;
    const one = (below + rise) / Math.cos(half);
    // Measured from the first anchor down: its part is `below / cos`, the higher anchor’s the rest.
    const own = below / Math.cos(half);
    if (own < 0 || one < 0)
      return refuse('legs', 'The sling is too short for anchors so far apart in height.', 'Lengthen it.');
    const force = 1 / (2 * Math.cos(half));
    return accept({
      first: force,
      second: force,
      between: 2 * half,
      at: [own * Math.sin(half), below],
      slack: undefined,
    });
  }
  if (apart < 1e-9 || Math.abs(first - second) > apart) {
    // The longer leg never comes taut.
    const short = first < second;
    return accept({
      first: short ? 1 : 0,
      second: short ? 0 : 1,
      between: 0,
      at: short ? [0, first] : [span, second - rise],
      slack: short ? 'second' : 'first',
    });
  }
  // Where two circles meet, on the lower side.
  const along = (apart ** 2 + first ** 2 - second ** 2) / (2 * apart);
  const aside = Math.sqrt(Math.max(0, first ** 2 - along ** 2));
  const [ux, uy] = [span / apart, -rise / apart];
  const at: readonly [number, number] = [along * ux - aside * uy, along * uy + aside * ux];
  if (at[0] < 0) return accept({ first: 1, second: 0, between: 0, at: [0, first], slack: 'second' });
  if (at[0] > span) return accept({ first: 0, second: 1, between: 0, at: [span, second - rise], slack: 'first' });
  const [a, b] = [Math.atan2(at[0], at[1]), Math.atan2(span - at[0], at[1] + rise)];
  const between = a + b;
  return accept({
    first: Math.sin(b) / Math.sin(between),
    second: Math.sin(a) / Math.sin(between),
    between,
    at,
    slack: undefined,
  });
}

/** Angles between legs from which on they are to be thought over, and at which a leg carries more than the whole load. */
export const LEG_ANGLES = { wide: Math.PI / 2, whole: (2 * Math.PI) / 3 } as const;

/** Friction of rope on what it is wound round: a range, since bark, wet and age change it. Customs in round figures. */
export const FRICTIONS: Readonly<Record<'wood' | 'smooth metal' | 'rope', readonly [least: number, most: number]>> = {
  wood: [0.25, 0.5],
  'smooth metal': [0.12, 0.25],
  rope: [0.15, 0.4],
};

/**
 * What holds a load of one at the other end of turns round a spar, between two frictions: hold = e^(−μθ) (Euler 1762, Eytelwein 1808: the
 * belt-friction formula).
 */
export const holdsLoad = (
  turns: number,
  [least, most]: readonly [number, number],
): readonly [least: number, most: number] => [
  Math.exp(-most * 2 * Math.PI * turns),
  Math.exp(-least * 2 * Math.PI * turns),
];

/** Turns that hold a load with no more than a share of it at the other end, at a friction. */
export const turnsFor = (share: number, friction: number): number => -Math.log(share) / (2 * Math.PI * friction);

/** What one hand is left with, as a share of the load. */
const ONE_HAND = 0.02;
/** Turns, to the next half, that hold all but what one hand holds even where it is slippery. */
export const turnsToHold = ([least]: readonly [least: number, most: number]): number =>
  Math.ceil(turnsFor(ONE_HAND, least) * 2) / 2;

/** Diameter of a friction cord against the rope it grips, as schools take it. Customs in round figures. */
export const CORD_BANDS: Readonly<
  Record<'workshop' | 'marine' | 'rescue' | 'camp', readonly [least: number, most: number]>
> = {
  workshop: [0.55, 0.8],
  marine: [0.5, 0.85],
  rescue: [0.6, 0.8],
  camp: [0.5, 0.8],
};

export interface CordJudged {
  readonly ratio: number;
  readonly is: 'too thin' | 'within' | 'too thick';
  readonly why: string;
}

/** A friction cord against the rope it grips. */
export function cordJudged(cordMm: number, ropeMm: number, [least, most]: readonly [number, number]): CordJudged {
  const ratio = cordMm / ropeMm;
  if (ratio < least) return { ratio, is: 'too thin', why: 'It grips hard, jams, and is weak: take a thicker cord.' };
  if (ratio > most) return { ratio, is: 'too thick', why: 'It may not grip: take a thinner cord, or one more turn.' };
  return { ratio, is: 'within', why: 'It grips, and can be freed by hand.' };
}

/** Two ropes that are to be joined. */
export interface UnlikeRopes {
  readonly bight: 'first' | 'second' | 'either';
  readonly double: boolean;
  readonly why: string;
}

/** From these ratios of diameters on, ropes count as unlike, and a doubled sheet bend is asked for. */
const UNLIKE = 1.15;
const DOUBLE = 1.4;
const STIFFER = { limp: 0, supple: 1, stiff: 2 } as const;
type JoinedRope = Pick<StockRope, 'diameterMm' | 'stiffness'>;

/** Which of two unlike ropes forms the bight of a sheet bend, and whether the other goes round twice. */
export function unlikeRopes(first: JoinedRope, second: JoinedRope): UnlikeRopes {
  const ratio = Math.max(first.diameterMm / second.diameterMm, second.diameterMm / first.diameterMm);
  const stiffer = STIFFER[first.stiffness] - STIFFER[second.stiffness];
  if (ratio < UNLIKE && stiffer === 0)
    return { bight: 'either', double: false, why: 'They are alike: either forms the bight.' };
  const byDiameter = ratio >= UNLIKE;
  const bight = (byDiameter ? first.diameterMm > second.diameterMm : stiffer > 0) ? 'first' : 'second';
  const double = ratio >= DOUBLE || Math.abs(stiffer) > 1;
  return {
    bight,
    double,
    why: `The ${byDiameter ? 'thicker' : 'stiffer'} rope forms the bight: the other bends round it.${double ? ' They are so unlike that the other goes round twice.' : ''}`,
  };
}

/** Something that says what share of its strength a rope keeps. */
export interface StrengthSource {
  /** Who says so: “house’s cautious figure”, “own tests, 6”. */
  readonly says: string;
  readonly share: number;
}

/** What the house takes where nothing else is known: cautious, in round figures. */
export const CAUTIOUS: Readonly<Record<'knotted' | 'sewn or spliced', number>> = {
  knotted: 0.5,
  'sewn or spliced': 0.8,
};
/** What is left of a rope by its condition: cautious, in round figures; nothing of one that is retired. */
export const CONDITION_FACTORS: Readonly<Record<Condition, number>> = { new: 1, good: 0.85, worn: 0.6, retired: 0 };

/** Own tests of which the scatter is not known count for so much less. */
const UNKNOWN_SCATTER = 0.2;

/** What own tests of a knot in a rope say of the share that is kept: the lower end of what they leave open. */
export function testedShare({ knotName, sample, kept }: TestGroup): StrengthSource | undefined {
  if (!sample || !kept) return undefined;
  const { share, spread } = kept;
  const percent = (n: number): string => `${(100 * n).toFixed(0)} %`;
  return {
    says: `own tests of the ${knotName.toLowerCase()}, ${sample.n}: mean ${percent(share)}${spread === undefined ? '' : `, ± ${percent(spread)}`}, of which the lower end is taken`,
    share: Math.max(0.01, share - (spread ?? UNKNOWN_SCATTER * share)),
  };
}

export interface WorkingLimit {
  /** The source that counts: the lowest. */
  readonly used: StrengthSource;
  /** Others than it, where they say otherwise. */
  readonly others: readonly StrengthSource[];
  readonly conditionFactor: number;
  /** In the unit of the breaking load. */
  readonly limit: number;
}

/** Breaking load × share kept × condition ÷ safety factor; where sources disagree the lowest counts. */
export function workingLimit(
  breaking: number,
  sources: readonly StrengthSource[],
  condition: Condition,
  safety: number,
): WorkingLimit | undefined {
  const [used, ...others] = [...sources].sort((a, b) => a.share - b.share);
  if (!used || !(safety >= 1)) return undefined;
  const conditionFactor = CONDITION_FACTORS[condition];
  return { used, others, conditionFactor, limit: (breaking * used.share * conditionFactor) / safety };
}
