/**
 * The HTTP contract: Zod schemas shared by server and web. Types are inferred, never written twice.
 */
export * from './films.js';
export * from './house.js';
export * from './kin.js';
export * from './knots.js';
export * from './reviews.js';
export * from './route.js';
export * from './words.js';
