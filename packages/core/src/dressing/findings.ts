/**
 * Findings: what is wrong or doubtful in a method, where, why it matters, and what puts it right.
 */
import { crossingsOf } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import type { Edit } from '../figure/edit.js';
import { applyEdit } from '../figure/edit.js';
import { lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { add, distance, scale, type Point } from '../figure/point.js';
import { readMap } from '../topology/planar-map.js';
import { requiredTail, sayLength, type TailRule } from '../ropes/tail-rule.js';
import { composeStep } from '../tying/compose.js';
import { contradictionsOf, mended } from '../tying/reader.js';
import { hiddenByWords } from '../drawing/steps.js';
import { againTrouble } from '../tying/again.js';
import {
  finishedLayout,
  layoutsOf,
  leaderEnd,
  stepsOf,
  type FinishKind,
  type Layout,
  type Method,
} from '../tying/method.js';
import { FINISH_ORDER, inLayout, type LayoutEdit, type MethodEdit } from '../tying/method-edit.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { crossedDoubles, needlessCrossings, sharpBends } from './dress.js';
import { endIsInside, tailsOf, type Tail } from './tail.js';
import { ridingTurns } from './winding.js';

export type FindingCode =
  | 'not-the-claim'
  | 'other-hand'
  | 'not-for-people'
  | 'against-house-rule'
  | 'behaviour-contradicts'
  | 'kin-refuted'
  | 'no-rope'
  | 'tail-short'
  | 'tail-inside'
  | 'standing-inside'
  | 'three-strands'
  | 'degenerate'
  | 'strands-touch'
  | 'needless-crossing'
  | 'doubles-cross'
  | 'sharp-bend'
  | 'riding-side'
  | 'step-passes-too-much'
  | 'step-without-text'
  | 'step-hides-crossing'
  | 'text-contradicts'
  | 'again-differs'
  | 'not-finished'
  | 'another-knot'
  | 'methods-differ'
  | 'no-halt'
  | 'rope-after-last-halt';

export interface Finding {
  readonly code: FindingCode;
  /** An error keeps a learner from tying the knot rightly; a warning makes it harder. */
  readonly severity: 'error' | 'warning';
  readonly title: string;
  readonly why: string;
  readonly remedy: string;
  /** Where to point on board and trail. */
  readonly place?: { readonly strand: string; readonly at: number } | undefined;
  readonly crossings?: readonly number[] | undefined;
  /** Which layout place and crossings are of; absent: the one in which the knot is finished. */
  readonly layout?: number | undefined;
  readonly step?: number | undefined;
  /** What one press does about it. */
  readonly fix?: { readonly label: string; readonly edit: MethodEdit } | undefined;
}

export interface HouseRules {
  readonly tail: TailRule;
  readonly cordMm: number;
  readonly words: Vocabulary;
  /** Where a tail with a keeper is measured from, by rope, when that is before the keeper. */
  readonly tailFrom?: ReadonlyMap<string, number> | undefined;
  /** The side to which the knot is pulled along its host, where the author declared one. */
  readonly pull?: 'left' | 'right' | undefined;
}

/** Two crossings nearer than this look like one place where three strands meet. */
const CROSSINGS_APART = 0.6;
/** Strands whose middle lines are nearer than this without crossing cannot be told from a crossing. */
const STRANDS_APART = 0.5;
/** A learner follows three crossings in one picture; more are missed. */
export const MOST_CROSSINGS_A_STEP = 3;

/** What a layout's own finding is in its method: its layout named, its fix meant for that layout. */
type LayoutFinding = Omit<Finding, 'fix' | 'layout'> & {
  readonly fix?: { readonly label: string; readonly edit: LayoutEdit } | undefined;
};

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
    drawingFindings(layout, layout === finishedLayout(method), rules).map(({ fix, ...f }): Finding => ({
      ...f,
      layout: index,
      ...(fix ? { fix: { label: fix.label, edit: inLayout(index, fix.edit) } } : {}),
    })),
  );
  const all = [
    ...drawn,
    ...stepFindings(method, rules),
    ...textFindings(method, rules),
    ...finishFindings(method, rules),
  ];
  return [...all.filter((f) => f.severity === 'error'), ...all.filter((f) => f.severity === 'warning')];
}

/** What is wrong with a drawing. How the knot is dressed and how long its tails are is judged where it is finished. */
const drawingFindings = ({ figure }: Layout, finished: boolean, rules: HouseRules): LayoutFinding[] =>
  finished
    ? [...endFindings(figure, rules), ...closeness(figure), ...dressFindings(figure), ...pullFindings(figure, rules)]
    : [...closeness(figure), ...bendFindings(figure)];

/** Words of the author's own that cannot be true of the picture. */
const textFindings = (method: Method, { words }: HouseRules): Finding[] =>
  stepsOf(method).flatMap((step) =>
    contradictionsOf(method, step.index, words).map((c): Finding => ({
      code: 'text-contradicts',
      severity: 'warning',
      title: `Step ${step.index + 1} says “${c.words}”`,
      why: c.shows,
      remedy:
        c.instead === undefined ? 'Say what the picture shows, or mend the picture.' : `“${c.instead}” would be true.`,
      step: step.index,
      layout: step.layout,
      crossings: c.crossings,
      ...(c.instead === undefined || step.telling.text === undefined
        ? {}
        : {
            fix: {
              label: `Say “${c.instead}”`,
              edit: tellStep(method, step.index, mended(step.telling.text, c)),
            },
          }),
    })),
  );

/** The edit that sets a step's text. */
const tellStep = (method: Method, index: number, text: string | undefined): MethodEdit => {
  const { layout, place } = placeOfStep(method, index);
  return inLayout(layout, { kind: 'set-text', index: place, text });
};

function endFindings(figure: Figure, { tail: rule, cordMm, tailFrom }: HouseRules): LayoutFinding[] {
  const out: LayoutFinding[] = [];
  const wanted = requiredTail(rule, cordMm);
  for (const drawn of tailsOf(figure)) {
    const tail = measuredFrom(figure, drawn, tailFrom?.get(drawn.rope));
    const place = { strand: tail.rope, at: tail.to };
    if (tail.inside) {
      out.push({
        code: 'tail-inside',
        severity: 'error',
        title: 'The tail ends inside the knot',
        why: 'A learner cannot see which strand it leaves beside, and the tail cannot be measured from outside.',
        remedy: 'Lay the end on until it comes out of the knot.',
        place,
      });
    }
    if (crossingsOf(figure).length > 0 && tail.length < wanted - 0.05) {
      const edit = lengthen(figure, tail.rope, wanted - tail.length);
      out.push({
        code: 'tail-short',
        severity: 'error',
        title: `The tail is ${Math.round((wanted - tail.length) * 10) / 10} d short`,
        why: `${sayLength(tail.length, cordMm)} is drawn; this house wants ${sayLength(wanted, cordMm)}. A short tail works its way out.${rule.cites === undefined ? '' : ` ${rule.cites}`}`,
        remedy: edit ? 'Lengthen it the way it points.' : 'Lay the end on to a clear place.',
        place,
        ...(edit ? { fix: { label: 'Lengthen the tail', edit: { kind: 'figure', edit } } } : {}),
      });
    }
  }
  for (const rope of figure.ropes) {
    if (!rope.closed && rope.ends[0] !== 'tail' && endIsInside(figure, rope.id, 0)) {
      out.push({
        code: 'standing-inside',
        severity: 'warning',
        title: 'The standing part begins inside the knot',
        why: 'It runs on to the load, so it must come in from outside.',
        remedy: 'Move its first point to the edge of the drawing.',
        place: { strand: rope.id, at: 0 },
      });
    }
  }
  return out;
}

/** A tail measured from a place before its keeper. */
function measuredFrom(figure: Figure, tail: Tail, from: number | undefined): Tail {
  if (from === undefined) return tail;
  const curve = curveOf(ropeOf(figure, tail.rope) as Rope);
  return { ...tail, from, length: lengthOf(curve) - lengthTo(curve, from) };
}

/** An edit that draws the tail straight on by its last point, so that a halt at the end stays there; none when something is in the way. */
function lengthen(figure: Figure, id: string, missing: number): Edit | undefined {
  const rope = ropeOf(figure, id) as Rope;
  const tip = rope.points.at(-1) as Point;
  const to = add(tip, scale(directionAt(curveOf(rope), lastAt(rope)), missing + 0.1));
  const edit: Edit = { kind: 'move-point', strand: id, index: lastAt(rope), to };
  const tried = applyEdit(figure, edit);
  return tried.ok && crossingsOf(tried.value.figure).length === crossingsOf(figure).length ? edit : undefined;
}

function closeness(figure: Figure): LayoutFinding[] {
  const out: LayoutFinding[] = [];
  const crossings = crossingsOf(figure);
  crossings.forEach((c, i) => {
    for (const d of crossings.slice(i + 1)) {
      if (distance(c.point, d.point) >= CROSSINGS_APART) continue;
      out.push({
        code: 'three-strands',
        severity: 'error',
        title: `Three strands meet at crossings ${c.number} and ${d.number}`,
        why: 'Nobody can see there which strand lies over which.',
        remedy: 'Move one strand aside until the two crossings stand apart.',
        place: c.first,
        crossings: [c.number, d.number],
      });
    }
  });
  const map = readMap(figure);
  if (!map.ok && out.length === 0) {
    const number = Number(/\d+/.exec(map.place)?.[0] ?? 0);
    const place = crossings[number - 1]?.first;
    out.push({
      code: 'degenerate',
      severity: 'error',
      title: `The order of the strands at ${map.place} is not certain`,
      why: map.reason,
      remedy: map.remedy,
      ...(place ? { place, crossings: [number] } : {}),
    });
  }
  return [...out, ...touching(figure)];
}

/** Spacing of the places compared, in diameters: half of what would be found. */
const SAMPLE = 0.25;

/** Places where strands run nearer than half a diameter without crossing; one finding for each pair of stretches. */
function touching(figure: Figure): LayoutFinding[] {
  const out: LayoutFinding[] = [];
  const strands = figure.ropes.map((rope) => {
    const curve = curveOf(rope);
    const samples = Array.from({ length: Math.floor(lengthOf(curve) / SAMPLE) + 1 }, (_, i) => {
      const at = atLength(curve, i * SAMPLE);
      return { at, point: pointAt(curve, at) };
    });
    return { rope, samples };
  });
  const crossings = crossingsOf(figure);
  const nearCrossing = (p: Point): boolean =>
    crossings.some((c) => distance(c.point, p) < 1 + 0.6 / Math.max(0.15, Math.sin(c.angle)));
  const seen: Point[] = [];
  strands.forEach(({ rope, samples }, i) => {
    strands.slice(i).forEach(({ rope: other, samples: otherSamples }) => {
      samples.forEach(({ at, point: p }, a) => {
        // Along one rope, places near each other are neighbours, not strands that touch.
        for (let b = rope === other ? a + 2.5 / SAMPLE : 0; b < otherSamples.length; b += 1) {
          const q = (otherSamples[b] as (typeof otherSamples)[number]).point;
          const roundTheSeam = rope === other && rope.closed && samples.length - b + a < 2.5 / SAMPLE;
          if (roundTheSeam || Math.abs(p[0] - q[0]) > STRANDS_APART || distance(p, q) >= STRANDS_APART) continue;
          if (nearCrossing(p) || seen.some((s) => distance(s, p) < 3)) continue;
          seen.push(p);
          out.push({
            code: 'strands-touch',
            severity: 'warning',
            title: 'Two strands lie on each other without crossing',
            why: 'The gap between them closes in print, and it could be read as a crossing.',
            remedy: 'Move them at least a rope’s thickness apart.',
            place: { strand: rope.id, at },
          });
        }
      });
    });
  });
  return out;
}

function dressFindings(figure: Figure): LayoutFinding[] {
  const numbered = (n: readonly number[]): string => n.join(' and ');
  const needless = needlessCrossings(figure).map(({ kind, crossings }): LayoutFinding => ({
    code: 'needless-crossing',
    severity: 'warning',
    title:
      kind === 'R1'
        ? `Crossing ${numbered(crossings)} is a kink`
        : `Crossings ${numbered(crossings)} lie on each other for nothing`,
    why:
      kind === 'R1'
        ? 'The strand only loops over itself there: drawn tight, the crossing is gone.'
        : 'One strand lies over the other and comes back: it can be lifted off.',
    remedy: 'Draw that strand straight, unless the step shows it on purpose.',
    crossings,
  }));
  const doubles = crossedDoubles(figure).map((c): LayoutFinding => ({
    code: 'doubles-cross',
    severity: 'warning',
    title: `Two strands that run side by side cross at ${c.number}`,
    why: 'Doubled strands bear evenly only while they keep parallel.',
    remedy: 'Lead them side by side all the way.',
    place: c.first,
    crossings: [c.number],
  }));
  return [...needless, ...doubles, ...bendFindings(figure)];
}

const bendFindings = (figure: Figure): LayoutFinding[] =>
  sharpBends(figure).map(({ place, radius }): LayoutFinding => ({
    code: 'sharp-bend',
    severity: 'warning',
    title: 'The rope kinks',
    why: `It bends at a radius of ${radius.toFixed(1)} d, tighter than rope lies.`,
    remedy: 'Give the bend more room, or remove a point.',
    place,
  }));

/** Riding turns that lie on the side away from the declared pull: the hitch slides. */
function pullFindings(figure: Figure, { pull }: HouseRules): LayoutFinding[] {
  if (pull === undefined) return [];
  return figure.ropes.flatMap((rope) =>
    figure.hosts.flatMap((host): LayoutFinding[] => {
      const riding = ridingTurns(figure, rope, host);
      if (!riding || riding.side === pull) return [];
      return [
        {
          code: 'riding-side',
          severity: 'error',
          title: `The riding turns lie on the ${riding.side}, away from the pull`,
          why: `It is pulled to the ${pull}; turns that ride on the other side do not grip, and it slides.`,
          remedy: 'Lay the riding turns on the side of the pull, or mirror the figure.',
          place: { strand: rope.id, at: riding.at },
        },
      ];
    }),
  );
}

function stepFindings(method: Method, { words }: HouseRules): Finding[] {
  const steps = stepsOf(method);
  if (!steps.some((s) => s.stretch)) {
    return [
      {
        code: 'no-halt',
        severity: 'warning',
        title: 'There are no steps yet',
        why: 'A learner sees only the finished figure.',
        remedy: 'Place a halt on the trail where each step should end.',
      },
    ];
  }
  const out: Finding[] = [];
  for (const { index, layout, stretch, telling } of steps) {
    const composed = composeStep(method, index, words);
    const place = stretch && { strand: stretch.rope, at: stretch.to };
    const here = { step: index, layout, ...(place ? { place } : {}) };
    if (composed.crossings.length > MOST_CROSSINGS_A_STEP && composed.moves.some((m) => m.kind !== 'wrap')) {
      out.push({
        code: 'step-passes-too-much',
        severity: 'warning',
        title: `Step ${index + 1} passes ${composed.crossings.length} crossings`,
        why: `A learner follows ${MOST_CROSSINGS_A_STEP} in one picture; more are missed.`,
        remedy: 'Split it: a halt goes halfway among what it passes.',
        crossings: composed.crossings,
        ...here,
        fix: {
          label: 'Split the step',
          edit: inLayout(layout, { kind: 'split-step', index: placeOfStep(method, index).place }),
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
        fix: { label: 'Use the composed text', edit: tellStep(method, index, undefined) },
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
          edit: inLayout(layout, { kind: 'set-again', index: placeOfStep(method, index).place, again: undefined }),
        },
      });
    }
  }
  layoutsOf(method).forEach((layout, l) =>
    layout.leaders.forEach((leader, i) => {
      const last = layout.halts.filter((h) => h.leader === i).at(-1)?.at ?? leader.from;
      const end = leaderEnd(layout, i);
      if (last >= end - 1e-6) return;
      out.push({
        code: 'rope-after-last-halt',
        severity: 'warning',
        title: 'The end of the rope belongs to no step',
        why: 'What is laid after the last halt is never shown to the learner.',
        remedy: 'Place a halt at the end of the rope.',
        place: { strand: leader.rope, at: end },
        layout: l,
        fix: {
          label: 'Place a halt at the end',
          edit: inLayout(l, { kind: 'place-halt', leader: i, at: end }),
        },
      });
    }),
  );
  return out;
}

/** Which layout a step belongs to, and its index there. */
export function placeOfStep(method: Method, index: number): { readonly layout: number; readonly place: number } {
  const steps = stepsOf(method);
  const layout = steps[index]?.layout ?? 0;
  return { layout, place: index - (steps.find((s) => s.layout === layout)?.index ?? 0) };
}

const FINISHED_BY: Readonly<Record<FinishKind, RegExp>> = {
  dress: /\bdress/i,
  set: /\bset\b|\btight(?:en)?\b|\bsnug\b/i,
  check: /\b(?:check|inspect|look (?:at|over))\b/i,
};
const DOING: Readonly<Record<FinishKind, string>> = { dress: 'dressed', set: 'set', check: 'checked' };

/** A method that stops when the rope is laid: its learners' knots are not dressed, set and checked. */
function finishFindings(method: Method, { words }: HouseRules): Finding[] {
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
        edit: inLayout(layoutsOf(method).length - 1, { kind: 'add-finish', finish: missing }),
      },
    },
  ];
}
