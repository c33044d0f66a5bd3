/** Courses: lessons and assemblies in an order, by an entrance of their own. */
export * from './check.js';
export * from './course.js';
export * from './needs.js';
export * from './say.js';
