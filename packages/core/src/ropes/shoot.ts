/**
 * For the camera: how large a rope is in the picture, what gap can still be read, and which colours are told apart, by whoever looks. Lengths
 * in millimetres, sizes in pixels, angles in radians.
 */
import {
  differenceCiede2000,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  wcagContrast,
} from 'culori';
import type { StockRope } from './stock.js';

/** How a take is framed. */
export interface Framing {
  /** Width of what is seen, at the knot. */
  readonly fieldMm: number;
  /** Width of the picture as it is filmed, and as learners see it: on a phone held upright about 390. */
  readonly filmedPx: number;
  readonly seenPx: number;
}

/** What is seen at a distance through a lens that takes in so much from side to side: twice the distance times the tangent of half the angle. */
export const fieldAt = (distanceMm: number, angle: number): number => 2 * distanceMm * Math.tan(angle / 2);
/** How far the camera stands for a field of that width. */
export const distanceFor = (fieldMm: number, angle: number): number => fieldMm / (2 * Math.tan(angle / 2));

/** A rope thinner than this many pixels shows neither its gaps nor its turns. */
export const LEAST_ROPE_PX = 12;
/** A gap or an edge narrower than this many pixels is lost between two of them, or by what packs a film. */
export const LEAST_GAP_PX = 3;

export interface RopeInPicture {
  readonly filmedPx: number;
  readonly seenPx: number;
  /** The least gap beside it that can be read by learners. */
  readonly leastGapMm: number;
  readonly is: 'too small' | 'well' | 'too large';
  readonly why: string;
}

/** A knot is about so many diameters wide: of a rope thicker than this share of the field it does not fit. */
const KNOT_DIAMETERS = 12;

/** A rope as it is in the picture. */
export function inPicture(diameterMm: number, { fieldMm, filmedPx, seenPx }: Framing): RopeInPicture {
  const [filmed, seen] = [(diameterMm / fieldMm) * filmedPx, (diameterMm / fieldMm) * seenPx];
  const leastGapMm = (LEAST_GAP_PX * fieldMm) / Math.min(filmedPx, seenPx);
  const is = seen < LEAST_ROPE_PX ? 'too small' : diameterMm * KNOT_DIAMETERS > fieldMm ? 'too large' : 'well';
  const why = {
    'too small': `Come nearer, until about ${Math.floor((diameterMm * seenPx) / LEAST_ROPE_PX)} mm are seen, or take a thicker rope.`,
    'too large': `A knot of it, with its parts, does not fit: step back, or take a thinner rope.`,
    well: 'Its turns and gaps can be read.',
  }[is];
  return { filmedPx: filmed, seenPx: seen, leastGapMm, is, why };
}

/** Diameter of a rope that shows well in a framing: between the least that can be read and the most that fits. */
export const fittingDiameters = ({ fieldMm, seenPx }: Framing): readonly [least: number, most: number] => [
  (LEAST_ROPE_PX * fieldMm) / seenPx,
  fieldMm / KNOT_DIAMETERS,
];

export const VISIONS = ['usual', 'protanopia', 'deuteranopia', 'tritanopia'] as const;
export type Vision = (typeof VISIONS)[number];
/** Deficiencies simulated after Machado, Oliveira and Fernandes (IEEE Transactions on Visualization 15, 2009), in full. */
const SEEN_BY: Readonly<Record<Vision, (colour: string) => unknown>> = {
  usual: (colour) => colour,
  protanopia: filterDeficiencyProt(1) as (colour: string) => unknown,
  deuteranopia: filterDeficiencyDeuter(1) as (colour: string) => unknown,
  tritanopia: filterDeficiencyTrit(1) as (colour: string) => unknown,
};
const difference = differenceCiede2000();

/** Two colours that differ by less (CIEDE2000) are taken for each other on film, where light and lens change them. */
export const TOLD_APART_BY = 15;

export interface Contrast {
  /** Ratio of luminances, 1 to 21 (WCAG 2.2). */
  readonly ratio: number;
  /** How far apart the colours are for each way of seeing (CIEDE2000, CIE 142-2001). */
  readonly apart: Readonly<Record<Vision, number>>;
  /** Who does not tell them apart. */
  readonly lost: readonly Vision[];
}

/** How two colours, `#rrggbb`, are told apart. */
export function contrastOf(a: string, b: string): Contrast {
  const apart = Object.fromEntries(
    VISIONS.map((v) => [v, difference(SEEN_BY[v](a) as string, SEEN_BY[v](b) as string)]),
  ) as Record<Vision, number>;
  return { ratio: wcagContrast(a, b), apart, lost: VISIONS.filter((v) => apart[v] < TOLD_APART_BY) };
}

type Seen = Pick<StockRope, 'colour' | 'second' | 'mark' | 'construction' | 'diameterMm'>;

/** Whether somebody takes a rope for one of the others, or does not see it on its board. */
export const isTakenFor = (rope: Seen, others: readonly Seen[], board: string): boolean =>
  [board, ...others.map((o) => o.colour)].some((c) => contrastOf(rope.colour, c).lost.length > 0);

/** Ropes of the stock that would be told apart from the others and from the board, the best first. */
export function toldApartFrom<R extends Seen>(
  stock: readonly R[],
  others: readonly Seen[],
  board: string,
  wantedMm: number,
): readonly R[] {
  const least = (rope: R): number =>
    Math.min(
      ...[board, ...others.map((o) => o.colour)].flatMap((c) => Object.values(contrastOf(rope.colour, c).apart)),
    );
  return stock
    .filter((rope) => rope.diameterMm / wantedMm > 0.75 && rope.diameterMm / wantedMm < 1.34)
    .map((rope) => ({ rope, least: least(rope) }))
    .filter((r) => r.least >= TOLD_APART_BY)
    .sort((a, b) => b.least - a.least)
    .map((r) => r.rope);
}

/** How a rope behaves before a camera. */
export function handlingAdvice({ stiffness }: Pick<StockRope, 'stiffness'>): string {
  return {
    limp: 'Limp: its loops fall shut, lay them on the board.',
    supple: 'Supple: it holds a loop on the board.',
    stiff: 'Stiff: its loops stand open.',
  }[stiffness];
}
