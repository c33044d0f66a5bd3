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

/** Strict: a bend joins two ropes and a hitch holds to an object, neither is a knot. General: everything tied is a knot. */
export const CLASS_SCHOOLS = ['strict', 'general'] as const;
export type ClassSchool = (typeof CLASS_SCHOOLS)[number];

const GENERAL: Readonly<Partial<Record<KnotClass, string>>> = {
  stopper: 'stopper knot',
  'loop in the end': 'loop knot in the end',
  'loop in mid-rope': 'loop knot in mid-rope',
  noose: 'running knot',
  bend: 'joining knot',
  hitch: 'knot on an object',
  binding: 'binding knot',
  sling: 'sling knot',
};

/** The class in the words of a school: in the general one everything is a knot, in the strict one bends and hitches are not. */
export const classLabel = (value: KnotClass, school: ClassSchool): string =>
  school === 'general' ? (GENERAL[value] ?? value) : value;

/** A loop in mid-rope that is loaded against one of the rope's ends alone: the first as it is laid, or the last. */
export const ONE_END_WAYS = ['against its first end', 'against its last end'] as const;
/** Which way a knot is loaded. */
export const LOAD_WAYS = [
  'along the rope',
  'across the rope',
  'three ways',
  'either way',
  'on and off',
  ...ONE_END_WAYS,
] as const;
export type LoadWay = (typeof LOAD_WAYS)[number];

export const isOneEnd = (way: LoadWay): boolean => (ONE_END_WAYS as readonly LoadWay[]).includes(way);

/** Whether a knot that takes some loads takes one: what takes them along the rope takes them against either of its ends. */
export const takesLoad = (taken: readonly LoadWay[], way: LoadWay): boolean =>
  taken.includes(way) || (isOneEnd(way) && (taken.includes('along the rope') || taken.includes('three ways')));

export const USE_GRADES = ['light duty', 'load-bearing', 'people depend on it'] as const;
export type UseGrade = (typeof USE_GRADES)[number];
