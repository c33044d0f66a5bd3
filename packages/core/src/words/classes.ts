/**
 * The classes a knot can be put in, and the grades of use it can be taught for.
 */

export const KNOT_CLASSES = [
  'stopper',
  'loop in the end',
  'loop in mid-rope',
  'noose',
  'bend',
  'hitch',
  'binding',
  'sling',
  'not classed',
] as const;
export type KnotClass = (typeof KNOT_CLASSES)[number];

export const USE_GRADES = ['light duty', 'load-bearing', 'people depend on it'] as const;
export type UseGrade = (typeof USE_GRADES)[number];
