/**
 * What is wrong with the steps of a method: their texts, what they show and hide, and how the knot is finished.
 */
import { figureInView, hiddenByWords, pictureBox, viewOfStep } from '../drawing/steps.js';
import { crossingsOf } from '../figure/crossings.js';
import { curveOf, pointAt } from '../figure/curve.js';
import { ropeOf } from '../figure/figure.js';
import type { Point } from '../figure/point.js';
import { againTrouble } from '../tying/again.js';
import { composeStep, sayMove } from '../tying/compose.js';
import type { Move } from '../tying/move.js';
import { cutMoves } from '../tying/propose.js';
import { contradictionsOf, mended, type Contradiction } from '../tying/reader.js';
import { saidWrongly } from '../tying/told-parts.js';
import { CLOSE_UPS } from '../tying/limits.js';
import { FINISH_ORDER } from '../tying/layout-edit.js';
import {
  isHalted,
  layoutsOf,
  leaderEnd,
  liesIn,
  placeOfStep,
  stepsOf,
  stretchesOf,
  type FinishKind,
  type Method,
  type Step,
} from '../tying/method.js';
import { metIn } from '../tying/read-moves.js';
import type { Finding, HouseRules } from './finding.js';

/** A learner follows three crossings in one picture; more are missed. */
export const MOST_CROSSINGS_A_STEP = 3;

/** A move is followed as one, however much it passes; of so many, one is forgotten. */
const MOST_MOVES_A_STEP = 2;

/** Moves that have to be followed in a step. What is crossed on the way to a move or out of it is not counted, but for many of them. */
function movesToFollow(moves: readonly Move[]): number {
  const passes = moves.reduce((sum, m) => sum + (m.kind === 'pass' ? m.times : 0), 0);
  const whole = moves.filter((m) => m.kind !== 'pass').length;
  return whole === 0 ? passes : whole + Math.max(0, passes - 2);
}

/** Close-ups from the nearest to the farthest. */
const CLOSER: readonly number[] = Array.from(
  { length: Math.floor((CLOSE_UPS.most - CLOSE_UPS.least) / CLOSE_UPS.step) + 1 },
  (_, i) => CLOSE_UPS.most - i * CLOSE_UPS.step,
);

/** Crossings that a step passes outside of a close-up of it, by number; none where only its end lies outside; nothing where all lies within. */
function leavesPicture(method: Method, step: Step, closeUp: number | undefined): readonly number[] | undefined {
  const { of, stretch, telling } = step;
  if (!stretch || closeUp === undefined) return undefined;
  const shown = layoutsOf(method).map((l) =>
    l === of ? { ...l, halts: l.halts.map((h) => (h === telling ? { ...h, closeUp } : h)) } : l,
  );
  const [first, ...relaid] = shown as [Method, ...(Method['relaid'] & object)];
  const box = pictureBox({ ...first, relaid }, step.index);
  const figure = figureInView(of.figure, viewOfStep(step, 'front'));
  const isWithin = ([x, y]: Point): boolean => x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3];
  const passed = crossingsOf(figure).filter((c) =>
    [c.first, c.second].some((p) => p.strand === stretch.rope && liesIn(stretch, p.at)),
  );
  const outside = passed.filter((c) => !isWithin(c.point)).map((c) => c.number);
  const rope = ropeOf(figure, stretch.rope);
  const end = rope && pointAt(curveOf(rope), stretch.to);
  return outside.length > 0 || (end && !isWithin(end)) ? outside : undefined;
}

/** Words of the author's own that cannot be true of the picture. */
export const textFindings = (method: Method, { words }: HouseRules): Finding[] => [
  ...stepsOf(method).flatMap((step) =>
    saidWrongly(method, step.index, words).map((c): Finding => ({
      ...contradicted(step, c, `Step ${step.index + 1} says “${c.words}”`),
      ...(c.instead === undefined || step.telling.text === undefined
        ? {}
        : {
            fix: tellStep(`Say “${c.instead}”`, method, step.index, mended(step.telling.text, c)),
          }),
    })),
  ),
  ...(method.reels ?? []).flatMap((reel) =>
    reel.scenes.flatMap((scene, i) => {
      const step = scene.kind === 'step' && scene.text !== undefined ? stepsOf(method)[scene.step] : undefined;
      if (!step) return [];
      return contradictionsOf(method, step.index, words, scene.text).map((c) =>
        contradicted(step, c, `Scene ${i + 1} of “${reel.name}” says “${c.words}” of step ${step.index + 1}`),
      );
    }),
  ),
];

const contradicted = (step: Step, { shows, instead, crossings, told }: Contradiction, title: string): Finding => ({
  code: 'text-contradicts',
  severity: 'warning',
  title,
  why: shows,
  remedy: instead === undefined ? 'Say what the picture shows, or mend the picture.' : `“${instead}” would be true.`,
  step: step.index,
  layout: step.layout,
  crossings,
  told,
});

/** What sets a step's text. */
const tellStep = (label: string, method: Method, step: number, text: string | undefined): Finding['fix'] => {
  const { layout, index } = placeOfStep(method, step);
  return { label, layout, edit: { kind: 'set-text', index, text } };
};

export function stepFindings(method: Method, { words }: HouseRules): Finding[] {
  const steps = stepsOf(method);
  if (!steps.some((s) => s.stretch)) {
    return [
      {
        code: 'no-halt',
        severity: 'warning',
        title: 'There are no steps yet',
        why: 'A learner sees only the finished figure.',
        remedy: 'Place a halt on the trail where each step should end.',
        ...(method.leaders.length > 0
          ? { fix: { label: 'Place a halt after each move', layout: 0, edit: { kind: 'propose-halts' } } }
          : {}),
      },
    ];
  }
  const out: Finding[] = [];
  const cuts = new Map<number, string>();
  layoutsOf(method).forEach((of, layout) => {
    const first = steps.find((s) => s.layout === layout)?.index ?? 0;
    for (const { index, move } of cutMoves(of)) {
      const stretch = stretchesOf(of)[index];
      if (stretch) cuts.set(first + index, sayMove(of, stretch, move, words));
    }
  });
  for (const step of steps) {
    const { index, layout, of, stretch, telling } = step;
    const composed = composeStep(method, index, words);
    const unseen = new Set(stretch ? metIn(of, stretch).flatMap((m) => (m.hidden ? [m.number] : [])) : []);
    const passed = composed.crossings.filter((n) => !unseen.has(n));
    const place = stretch && { strand: stretch.rope, at: stretch.to };
    const here = { step: index, layout, ...(place ? { place } : {}) };
    if (passed.length > MOST_CROSSINGS_A_STEP && movesToFollow(composed.moves) > MOST_MOVES_A_STEP) {
      out.push({
        code: 'step-passes-too-much',
        severity: 'warning',
        title: `Step ${index + 1} passes ${passed.length} crossings`,
        why: `A learner follows ${MOST_CROSSINGS_A_STEP} in one picture; more are missed.`,
        remedy: 'Split it: a halt goes halfway among what it passes.',
        crossings: passed,
        ...here,
        fix: {
          label: 'Split the step',
          layout,
          edit: { kind: 'split-step', index: placeOfStep(method, index).index },
        },
      });
    }
    const cut = cuts.get(index);
    if (cut) {
      out.push({
        code: 'step-cuts-move',
        severity: 'warning',
        title: `Step ${index + 1} ends in the middle of a move`,
        why: `The end is on its way ${cut}. In two pictures a learner sees neither half done.`,
        remedy: 'Let the step go on to where the move ends.',
        ...here,
        fix: {
          label: 'Go on to the end of the move',
          layout,
          edit: { kind: 'whole-move', index: placeOfStep(method, index).index },
        },
      });
    }
    if ((telling.text ?? composed.text).trim() === '') {
      out.push({
        code: 'step-without-text',
        severity: 'warning',
        title: `Step ${index + 1} has no text`,
        why: 'Learners who do not see the picture have nothing to go by.',
        remedy: 'Write it, or set it back to the composed text.',
        ...here,
        fix: tellStep('Use the composed text', method, index, undefined),
      });
    }
    const hidden = hiddenByWords(method, index);
    if (hidden.length > 0) {
      out.push({
        code: 'step-hides-crossing',
        severity: 'warning',
        title: `Words lie on ${hidden.length === 1 ? 'crossing' : 'crossings'} ${hidden.join(', ')} in step ${index + 1}`,
        why: 'What a callout or a number covers cannot be read: over or under.',
        remedy: 'Say it shorter, point at another place, or take the numbers off this step.',
        crossings: hidden,
        ...here,
      });
    }
    const outside = leavesPicture(method, step, telling.closeUp);
    if (outside) {
      const nearer = CLOSER.find(
        (closeUp) => closeUp < (telling.closeUp ?? 1) && !leavesPicture(method, step, closeUp),
      );
      out.push({
        code: 'step-leaves-picture',
        severity: 'warning',
        title: `Step ${index + 1} leaves its close-up`,
        why:
          outside.length > 0
            ? `Crossings it passes lie outside of the picture: ${outside.join(', ')}.`
            : 'Where the end comes to lies outside of the picture.',
        remedy: 'Show it from less near.',
        crossings: outside,
        ...here,
        fix: {
          label: nearer === undefined ? 'Show the whole figure' : `Show it ${nearer} times as near`,
          layout,
          edit: { kind: 'tell', index: placeOfStep(method, index).index, telling: { closeUp: nearer } },
        },
      });
    }
    const trouble = againTrouble(method, index, words);
    if (trouble !== undefined) {
      out.push({
        code: 'again-differs',
        severity: 'warning',
        title: `Step ${index + 1} does not repeat step ${trouble.of + 1}`,
        why: trouble.reason,
        remedy: 'Lay it the same way, or say that it is a step of its own.',
        crossings: composed.crossings,
        ...here,
        fix: {
          label: 'A step of its own',
          layout,
          edit: { kind: 'set-again', index: placeOfStep(method, index).index, again: undefined },
        },
      });
    }
  }
  layoutsOf(method).forEach((layout, l) =>
    layout.leaders.forEach((leader, i) => {
      if (isHalted(layout, i)) return;
      const end = leaderEnd(layout, i);
      const thing = leader.kind === 'bight' ? 'bight' : 'rope';
      out.push({
        code: 'rope-after-last-halt',
        severity: 'warning',
        title: `The end of the ${thing} belongs to no step`,
        why: 'What is laid after the last halt is never shown to the learner.',
        remedy: `Place a halt at the end of the ${thing}.`,
        place: { strand: leader.rope, at: end },
        layout: l,
        fix: {
          label: `Place a halt at the ${leader.kind === 'bight' ? 'bight’s' : 'rope’s'} end`,
          layout: l,
          edit: { kind: 'place-halt', leader: i, at: end },
        },
      });
    }),
  );
  return out;
}

const FINISHED_BY: Readonly<Record<FinishKind, RegExp>> = {
  dress: /\bdress/i,
  set: /\bset\b|\btight(?:en)?\b|\bsnug\b/i,
  check: /\b(?:check|inspect|look (?:at|over))\b/i,
};
const DOING: Readonly<Record<FinishKind, string>> = { dress: 'dressed', set: 'set', check: 'checked' };

/** A method that stops when the rope is laid: its learners' knots are not dressed, set and checked. */
export function finishFindings(method: Method, { words }: HouseRules): Finding[] {
  const steps = stepsOf(method);
  if (!steps.some((s) => s.stretch)) return [];
  const missing = FINISH_ORDER.filter(
    (kind) =>
      !steps.some((s) => s.does === kind || (s.telling.text !== undefined && FINISHED_BY[kind].test(s.telling.text))),
  );
  if (missing.length === 0) return [];
  const never = missing.map((k) => DOING[k]);
  const list = never.length < 2 ? never[0] : `${never.slice(0, -1).join(', ')} or ${never.at(-1)}`;
  return [
    {
      code: 'not-finished',
      severity: 'warning',
      title: `The knot is never ${list}`,
      why: `A knot that is laid but not dressed, set and checked, its ${words.tail} too, may slip or spill.`,
      remedy: 'Add a step for each; its text comes out by itself.',
      fix: {
        label: missing.length === 1 ? 'Add the step' : 'Add the steps',
        layout: layoutsOf(method).length - 1,
        edit: { kind: 'add-finish', finish: missing },
      },
    },
  ];
}
