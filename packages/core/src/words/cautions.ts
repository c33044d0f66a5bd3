/**
 * The usual cautions of a use grade, in our own words. They come before the first step wherever a knot is taught.
 */
import type { UseGrade } from './classes.js';

const EVERY = 'Look at the finished knot from both sides and compare it with the figure before you load it.';

const BY_GRADE: Readonly<Record<UseGrade, readonly string[]>> = {
  'light duty': [EVERY],
  'load-bearing': [
    EVERY,
    'Knots weaken rope: plan conservatively, from the maker’s figures and your own tests.',
    'Keep people out from under the load and out of the line of a tight rope.',
    'Follow the local code and the maker’s instructions for rope and hardware.',
  ],
  'people depend on it': [
    EVERY,
    'This page is no training: learn this from a qualified instructor.',
    'Follow the local code or standard and the maker’s instructions.',
    'Have a second person inspect the knot every time.',
    'Never practise it first at height.',
    'Knots weaken rope: plan conservatively, from the maker’s figures and your own tests.',
  ],
};

/** Cautions shown for a grade, followed by the knot's own. */
export const cautionsFor = (grade: UseGrade, own: readonly string[]): readonly string[] => [...BY_GRADE[grade], ...own];
