/**
 * What is kept and sent, by an entrance of its own: shapes of documents and the words they may hold. What only reads and writes
 * them need not load what computes.
 */
export * from './drawing/look.js';
export { figureFileSchema } from './formats/figure-schema.js';
export * from './formats/glossary-json.js';
export * from './kin/kinds.js';
export { OTHER_METHODS } from './knot/entry.js';
export * from './knot/review-item.js';
export { PACE_NAMES } from './reel/pace.js';
export { practiceSchema } from './rules/practice.js';
export { REELS } from './tying/reels.js';
export * from './words/classes.js';
export * from './words/collision.js';
export { CONCEPT_KINDS, LABEL_STATUSES } from './words/glossary.js';
export * from './words/plain-text.js';
export { REMARK_KINDS } from './words/remark.js';
