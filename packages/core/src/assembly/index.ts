/** Assemblies: several knots on ropes, inspected as one, by an entrance of their own. */
export * from './advantage.js';
export * from './assembly.js';
export * from './check.js';
export * from './inspect.js';
export * from './keepers.js';
export * from './picture.js';
export * from './run.js';
export * from './svg.js';
export { sayThe } from './say.js';
