/**
 * The paces at which rope is laid in a demonstration.
 */

/** Paces, in rope diameters laid a second. */
export const PACES = { slow: 4, normal: 8, brisk: 14 } as const;
export type Pace = keyof typeof PACES;
export const PACE_NAMES = ['slow', 'normal', 'brisk'] as const satisfies readonly Pace[];
