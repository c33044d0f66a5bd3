/**
 * Bounds on a method and on what its steps tell, named in the refusals.
 */

export const HALT_LIMIT = 60;
export const LAYOUT_LIMIT = 6;
/** Longest name of a layout, and longest word on what passes what. */
export const NAME_LENGTH = 120;
export const TEXT_LIMIT = 600;
export const CALLOUT_LIMIT = 6;
export const CALLOUT_LENGTH = 60;
export const LIT_LIMIT = 8;
/** How many times as near a step is shown, and how much nearer with each press. */
export const CLOSE_UPS = { least: 1.25, most: 4, step: 0.5 } as const;
/** How much quicker or slower than the rest a step is filmed, and longest rest after it, in seconds. */
export const FILM_SPEEDS = { least: 0.25, most: 4 } as const;
export const LONGEST_HOLD = 30;
