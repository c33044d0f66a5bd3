/**
 * A review: what another person looks at one by one before people may depend on a knot, and what has to be there before it is published.
 */
import type { ItemKind } from './review-item.js';
import type { KnotDocument } from './document.js';
import type { Finding } from '../findings/finding.js';
import { chosenMarks } from '../dressing/inspection.js';
import { stepText } from '../tying/compose.js';
import { finishedLayout, stepsOf } from '../tying/method.js';
import { cautionsFor } from '../words/cautions.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { methodsOf } from './methods.js';

/** One thing a reviewer looks at and accepts or returns. */
export interface ReviewItem {
  /** Names it among the items of its revision: “step-1-3” is the third step of the second method. */
  readonly key: string;
  readonly kind: ItemKind;
  readonly title: string;
  /** What is claimed, to be held against the picture. */
  readonly text: string;
  readonly method: number;
  /** The step's index in its method, for a step. */
  readonly step?: number | undefined;
  /** The id of the inspection mark, for a mark. */
  readonly mark?: string | undefined;
}

/** Everything that a reviewer of a knot goes through, in the order in which a learner meets it. */
export function reviewItems(knot: KnotDocument, words: Vocabulary): ReviewItem[] {
  const { entry } = knot;
  const methods = methodsOf(knot);
  const { figure, marks = [] } = finishedLayout(knot.method);
  return [
    {
      key: 'cautions',
      kind: 'cautions',
      title: 'Cautions',
      text: cautionsFor(entry.useGrade, entry.cautions).join('\n'),
      method: 0,
    },
    ...methods.flatMap(({ name, method }, m) =>
      stepsOf(method).map(({ index }): ReviewItem => ({
        key: `step-${m}-${index + 1}`,
        kind: 'step',
        title: methods.length > 1 ? `${name}, step ${index + 1}` : `Step ${index + 1}`,
        text: stepText(method, index, words),
        method: m,
        step: index,
      })),
    ),
    ...(['front', 'back'] as const).map((face): ReviewItem => ({
      key: face,
      kind: face,
      title: face === 'front' ? 'The finished knot, from the front' : 'The finished knot, from behind',
      text: `Every crossing as it is tied, dressed and set; the ${words.tail} as long as it has to be.`,
      method: 0,
    })),
    ...chosenMarks(figure, marks, words).flatMap(({ mark }, i): ReviewItem[] =>
      mark
        ? [
            {
              key: `mark-${mark.id}`,
              kind: 'mark',
              title: `Inspection card, ${i + 1}`,
              text: mark.text,
              method: 0,
              mark: mark.id,
            },
          ]
        : [],
    ),
  ];
}

/** Something a knot needs before people may depend on it. */
export interface Need {
  readonly id: 'no errors' | 'cautions' | 'inspection card' | 'review';
  readonly met: boolean;
  readonly what: string;
  /** How it is met, an instruction. */
  readonly how: string;
}

/** What a knot on which people depend needs before it is published. */
export function needsForPeople(
  { entry, method }: KnotDocument,
  findings: readonly Pick<Finding, 'severity'>[],
  reviewed: boolean,
): Need[] {
  const errors = findings.filter((f) => f.severity === 'error').length;
  return [
    {
      id: 'no errors',
      met: errors === 0,
      what: 'No open error finding',
      how: 'Mend what Proof shows.',
    },
    {
      id: 'cautions',
      met: entry.cautions.length > 0,
      what: 'Cautions of its own, beside those of its grade',
      how: 'Say in the entry what this knot does that can hurt somebody.',
    },
    {
      id: 'inspection card',
      met: (finishedLayout(method).marks ?? []).length > 0,
      what: 'An inspection card',
      how: 'Choose on Proof what a learner looks for, front and back.',
    },
    {
      id: 'review',
      met: reviewed,
      what: 'A review of this revision, accepted by another account',
      how: 'Ask somebody else to go through it under Review.',
    },
  ];
}
