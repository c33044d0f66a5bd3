/** Practice for learners: questions on a knot, and what was answered, by an entrance of their own. */
export * from './counts.js';
export * from './questions.js';
export * from './lay.js';
export * from './trace.js';
