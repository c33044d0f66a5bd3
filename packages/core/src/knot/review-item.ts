/**
 * What kinds of things a reviewer looks at one by one.
 */
export const ITEM_KINDS = ['front', 'back', 'step', 'mark', 'cautions'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];
