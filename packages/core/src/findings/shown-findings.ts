/**
 * What is shown of a knot beside its steps and is not there any more: marks of the card and wrong ways whose crossing is gone.
 */
import { crossingAt } from '../figure/crossing-place.js';
import { chosenMarks } from '../dressing/inspection.js';
import { finishedLayout, layoutsOf, type Method } from '../tying/method.js';
import type { Finding, HouseRules } from './finding.js';

const KINDS = {
  tail: 'a tail',
  turns: 'turns',
  parallel: 'two strands side by side',
  cross: 'a crossing',
} as const;

export function shownFindings(method: Method, { words }: HouseRules): Finding[] {
  const { figure, marks = [], exhibits = [] } = finishedLayout(method);
  const layout = layoutsOf(method).length - 1;
  const lostMarks = chosenMarks(figure, marks, words)
    .filter(({ mark }) => !mark)
    .map(({ wanted }): Finding => ({
      code: 'mark-lost',
      severity: 'error',
      title: `The inspection card asks for ${KINDS[wanted.kind]} that the figure has no more`,
      why: 'The figure has been drawn otherwise since the mark was chosen, so the card no longer shows it.',
      remedy: 'Take the mark off, and choose what tells the knot now.',
      layout,
      fix: {
        label: 'Take it off the card',
        layout,
        edit: { kind: 'show', shown: { marks: marks.filter((m) => m !== wanted) } },
      },
    }));
  const lostExhibits = exhibits
    .filter((e) => e.crossings.some((c) => !crossingAt(figure, c)))
    .map((e): Finding => ({
      code: 'exhibit-lost',
      severity: 'error',
      title: `The wrong way “${e.becomes}” has lost its crossing`,
      why: 'The figure has been drawn otherwise since it was shown to learners: the crossing that was wrong is gone.',
      remedy: 'Withdraw it, and choose it again among the mistakes.',
      layout,
      fix: {
        label: 'Withdraw it',
        layout,
        edit: { kind: 'show', shown: { exhibits: exhibits.filter((x) => x !== e) } },
      },
    }));
  return [...lostMarks, ...lostExhibits];
}
