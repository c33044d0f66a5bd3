/**
 * The kinds of kin there are, and what is known of one.
 */

export const KIN_KINDS = [
  'one more turn',
  'slipped',
  'doubled on the bight',
  'followed',
  'mirrored',
  'ends exchanged',
  'same structure',
  'finished with',
  'made into',
  'backed up with',
  'mistaken for',
] as const;
export type KinKind = (typeof KIN_KINDS)[number];

export const KIN_STATES = ['proved', 'refuted', 'open'] as const;
export type KinState = (typeof KIN_STATES)[number];

/** Most turns laid at once beside the one that is there. */
export const MOST_MORE = 6;
