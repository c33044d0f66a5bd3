/**
 * The pattern book: the built-in knots, each laid open with its steps, each proved by the core.
 */
export type { Pattern, PatternSource } from './pattern.js';
export { SOURCES } from './sources.js';
export { claimOf, type Claimant } from './claim.js';
export * from './grade.js';
export * from './loaded.js';
export * from './practice.js';
export * from './proof.js';
export { withExhibitsRetold } from './exhibits.js';
export { sayTold, toldKnot } from './told.js';
export * from './known.js';
export * from './uses.js';
export { BOOK_KIN, patternKin, type BookKin } from './kin.js';
export { patternOf, patterns } from './laid.js';
export * from './words/index.js';
export { begunFrom, beginnings, type Beginning } from './begin.js';
