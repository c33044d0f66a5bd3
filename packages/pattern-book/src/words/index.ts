/**
 * The glossary that is shipped: the core's concepts, and the knots of the book.
 */
import { SHIPPED_GLOSSARY, type Glossary } from '@foxtrail/core';
import { KNOT_CONCEPTS } from './knots.js';

export { conceptOfPattern, patternOfConcept } from './knots.js';
export { figureOfConcept } from './figures.js';

export const GLOSSARY: Glossary = {
  schools: SHIPPED_GLOSSARY.schools,
  concepts: [...SHIPPED_GLOSSARY.concepts, ...KNOT_CONCEPTS],
};
