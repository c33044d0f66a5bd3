/** The sides a lesson is shown from, in the order in which V goes through them. The same as the core's, which a learner's page need not load. */
export const VIEW_NAMES = ['front', 'back', 'left'] as const;
export type ViewName = (typeof VIEW_NAMES)[number];
