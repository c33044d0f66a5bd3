/**
 * Everything that is wrong or doubtful in a method by itself.
 */
import { finishedLayout, layoutsOf, type Method } from '../tying/method.js';
import { drawingFindings } from './drawing-findings.js';
import type { Finding, HouseRules } from './finding.js';
import { shownFindings } from './shown-findings.js';
import { finishFindings, stepFindings, textFindings } from './step-findings.js';

/** Everything that is wrong with a method under the house's rules, errors first. */
export function findingsOf(method: Method, rules: HouseRules): Finding[] {
  if (method.figure.ropes.length === 0) {
    return [
      {
        code: 'no-rope',
        severity: 'warning',
        title: 'The board is empty',
        why: 'There is nothing for a learner to tie.',
        remedy: 'Choose Lay and draw the rope from its standing part to its end.',
      },
    ];
  }
  const layouts = layoutsOf(method);
  const drawn = layouts.flatMap((layout, index) =>
    drawingFindings(layout, { finished: layout === finishedLayout(method), anew: index > 0 }, rules).map(
      ({ fix, ...f }): Finding => ({
        ...f,
        layout: index,
        ...(fix ? { fix: { ...fix, layout: index } } : {}),
      }),
    ),
  );
  const all = [
    ...drawn,
    ...stepFindings(method, rules),
    ...textFindings(method, rules),
    ...finishFindings(method, rules),
    ...shownFindings(method, rules),
  ];
  return [...all.filter((f) => f.severity === 'error'), ...all.filter((f) => f.severity === 'warning')];
}
