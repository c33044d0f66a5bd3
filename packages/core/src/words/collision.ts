/**
 * How the words of a file can collide with those that are there, and what can be done about it.
 */
export const COLLISION_KINDS = ['two preferred', 'one name for two things'] as const;
/** What can be done about a collision. */
export const RESOLUTIONS = ['keep ours', 'take theirs', 'keep both'] as const;
export type Resolution = (typeof RESOLUTIONS)[number];
