/**
 * Practice on a knot against the book: what it becomes where it goes wrong, and which patterns are taken for it. An entrance of its own: it reads
 * the forms.
 */
import {
  accept,
  crossingAt,
  finishedFigure,
  finishedLayout,
  signatureOf,
  type KnotDocument,
  type Result,
  type Vocabulary,
} from '@foxtrail/core';
import { questionsOf, type DrillQuestion, type Lookalike } from '@foxtrail/core/drill';
import { claimOf } from './claim.js';
import { patternForm } from './forms.js';
import { KEYS } from './keys.js';
import { BOOK_KIN } from './kin.js';
import { patternKeys } from './known.js';
import { patternOf } from './laid.js';

/** The patterns that are taken for one, either way round. */
function lookalikesOf(id: string): Lookalike[] {
  return BOOK_KIN.filter((k) => k.kind === 'mistaken for' && (k.from === id || k.to === id)).flatMap(
    ({ from, to, judged }): Lookalike[] => {
      const other = patternOf(from === id ? to : from);
      if (!other) return [];
      const { id: pattern, knot } = other;
      const figure = finishedFigure(knot.method);
      // What is said of a kinship is said of the one it leads to.
      return [
        { pattern, name: knot.name, because: to === pattern ? judged : undefined, figure, set: !!patternForm(pattern) },
      ];
    },
  );
}

/** What may be asked of a knot, its own words on slips kept, with those of its slips that can be shown in the hand; nothing of a wrong way that is shown to be known. */
export function drillOf(
  { name, entry, method }: KnotDocument,
  words: Vocabulary,
  slipsInHand: readonly number[] = [],
): Result<readonly DrillQuestion[]> {
  if (entry.wrongWayOf !== undefined) return accept([]);
  const { figure, exhibits = [] } = finishedLayout(method);
  const claim = claimOf({ name, entry })?.id;
  const own = signatureOf(figure);
  const isPattern = claim !== undefined && own.ok && own.value.key === KEYS[claim]?.key;
  return questionsOf({
    name,
    figure,
    words,
    book: patternKeys(),
    lookalikes: isPattern ? lookalikesOf(claim) : [],
    asSet: isPattern && patternForm(claim) ? claim : undefined,
    slipsInHand,
    tellOf: (number) =>
      exhibits.find(
        ({ crossings: [only, ...more] }) => only && more.length === 0 && crossingAt(figure, only)?.number === number,
      )?.tell,
  });
}
