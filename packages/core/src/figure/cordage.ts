/**
 * Cordage: what a rope of a knot is, apart from where it lies. A figure is in diameters of an ordinary rope of the knot; one that is
 * thicker or thinner says by how much.
 */
export const CONSTRUCTIONS = ['kernmantle', 'laid', 'braided', 'tubular webbing', 'flat webbing'] as const;
export type Construction = (typeof CONSTRUCTIONS)[number];

/** How a rope of two colours shows the second: a tracer runs along it; a two-tone rope changes colour half way. */
export const COLOUR_MARKS = ['tracer', 'two-tone'] as const;
export type ColourMark = (typeof COLOUR_MARKS)[number];

export const STIFFNESSES = ['limp', 'supple', 'stiff'] as const;
export type Stiffness = (typeof STIFFNESSES)[number];

export interface Cordage {
  /** What the lesson calls it: “strap”, “twine”. */
  readonly name?: string | undefined;
  /** Diameter against the figure's unit, of webbing its width; absent: 1. */
  readonly diameter?: number | undefined;
  readonly construction?: Construction | undefined;
  /** Colours as `#rrggbb`; absent: as ropes of its place among the others look. */
  readonly colour?: string | undefined;
  readonly second?: string | undefined;
  readonly mark?: ColourMark | undefined;
  /** Absent: supple. */
  readonly stiffness?: Stiffness | undefined;
}

/** A rope as far as what it is made of counts. */
export interface OfCordage {
  readonly cordage?: Cordage | undefined;
  /** Flat webbing lies with its back up where its trail begins. */
  readonly backUp?: boolean | undefined;
  /** Trail positions, ascending, at which flat webbing is turned over. */
  readonly flips?: readonly number[] | undefined;
}

export const DIAMETERS = { least: 0.3, most: 3 } as const;
/** How often flat webbing is turned over at most. */
export const MOST_FLIPS = 12;
/** Longest name of a rope, in characters. */
export const CORDAGE_NAME = 24;

/** Diameter of a rope in the figure's unit; of webbing its width. */
export const diameterOf = ({ cordage }: OfCordage): number => cordage?.diameter ?? 1;

export const isWebbing = (cordage: Cordage | undefined): boolean => cordage?.construction?.endsWith('webbing') === true;
/** Flat webbing has a face and a back; of other rope no side can be told from another. */
export const isFlat = (cordage: Cordage | undefined): boolean => cordage?.construction === 'flat webbing';

/** The least radius at which a rope lies without a kink, in its own diameters: a limp one takes a closer bend than a stiff one. */
const LEAST_BEND: Readonly<Record<Stiffness, number>> = { limp: 0.8, supple: 1, stiff: 1.3 };
export const leastBend = ({ cordage }: OfCordage): number => LEAST_BEND[cordage?.stiffness ?? 'supple'];

/** Which side of flat webbing is seen at a place on its trail. */
export const sideAt = ({ backUp, flips }: OfCordage, at: number): 'face' | 'back' => {
  const turned = (flips ?? []).filter((f) => f <= at).length;
  return (turned % 2 === 1) === (backUp !== true) ? 'back' : 'face';
};
