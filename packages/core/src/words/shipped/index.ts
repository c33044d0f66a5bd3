/**
 * The glossary that is shipped, apart from the knots of the pattern book, which bring concepts of their own.
 */
import type { Glossary } from '../glossary.js';
import { ACTIONS, STATES } from './actions.js';
import { CLASSES, TOOLS } from './classes.js';
import { PARTS } from './parts.js';
import { SCHOOLS } from './write.js';

export const SHIPPED_GLOSSARY: Glossary = {
  schools: SCHOOLS,
  concepts: [...PARTS, ...ACTIONS, ...STATES, ...CLASSES, ...TOOLS],
};
