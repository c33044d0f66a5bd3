/**
 * How a knot is dressed and set: which parts are pulled, how hard and in which order, and what is nudged by hand. Places are of one
 * drawing and follow it when it is drawn otherwise.
 */
import type { TrailPosition } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { refuse, type Refusal } from '../figure/refusal.js';

/** How hard a part is pulled: not at all, snug by hand, or with the load. */
export const STRENGTHS = ['slack', 'by hand', 'loaded'] as const;
export type Strength = (typeof STRENGTHS)[number];

/** A part that is pulled: an end of a rope, or a loop at its eye. */
export interface PartPull {
  readonly place: TrailPosition;
  readonly pulled: Strength;
}

/** A strand that is moved by hand, at a place, when everything has been pulled; then everything is pulled again. */
export interface Nudge {
  readonly place: TrailPosition;
  /** To the right, down and toward the reader, in diameters. */
  readonly by: readonly [right: number, down: number, near: number];
}

/** One way to dress and set a knot. */
export interface Dressing {
  readonly name: string;
  /** The parts are pulled one after another, in the order of `pulls`; absent: all at once. */
  readonly inTurn?: boolean | undefined;
  /** Parts that are not named are pulled as they are by themselves, the last. */
  readonly pulls?: readonly PartPull[] | undefined;
  readonly nudges?: readonly Nudge[] | undefined;
}

/** Most ways to dress a knot, nudges of one, and how far a nudge goes, in diameters. */
export const DRESSINGS = { most: 6, nudges: 8, farthest: 6 } as const;

/** Ways to dress a drawing after it was changed. What is pulled at a place that is gone is pulled as by itself. */
export function followDressings(dressings: readonly Dressing[], mapping: Mapping): Dressing[] {
  const along = <T extends { readonly place: TrailPosition }>(of: readonly T[]): T[] =>
    of.flatMap((one) => {
      const place = mapPosition(mapping, one.place);
      return place ? [{ ...one, place }] : [];
    });
  return dressings.map((d) => ({
    ...d,
    ...(d.pulls ? { pulls: along(d.pulls) } : {}),
    ...(d.nudges ? { nudges: along(d.nudges) } : {}),
  }));
}

/** The same way in the mirror image of the drawing. */
export const mirroredDressing = <D extends Pick<Dressing, 'nudges'>>(dressing: D): D => ({
  ...dressing,
  ...(dressing.nudges
    ? { nudges: dressing.nudges.map((n) => ({ ...n, by: [-n.by[0], n.by[1], n.by[2]] as const })) }
    : {}),
});

/** Why a drawing cannot have these ways to be dressed. */
export function dressingTrouble(dressings: readonly Dressing[]): Refusal | undefined {
  if (dressings.length > DRESSINGS.most)
    return refuse('dressings', `A knot keeps ${DRESSINGS.most} ways to be dressed at most.`, 'Let one go first.');
  const names = dressings.map((d) => d.name.trim().toLowerCase());
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined)
    return refuse('dressings', `There are two called “${twice}”.`, 'Give each a name of its own.');
  if (dressings.some((d) => (d.nudges?.length ?? 0) > DRESSINGS.nudges))
    return refuse(
      'dressings',
      `A form is nudged ${DRESSINGS.nudges} times at most.`,
      'Draw the figure nearer to how it is to lie.',
    );
  return undefined;
}
