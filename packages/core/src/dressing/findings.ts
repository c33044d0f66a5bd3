/**
 * Findings: what is wrong or doubtful in a method, where, why it matters, and what puts it right.
 */
import { crossingsOf } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, pointAt } from '../figure/curve.js';
import type { Edit } from '../figure/edit.js';
import { applyEdit } from '../figure/edit.js';
import { lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { add, distance, scale, type Point } from '../figure/point.js';
import { readMap } from '../topology/planar-map.js';
import { requiredTail, sayLength, type TailRule } from '../ropes/tail-rule.js';
import { composeStep } from '../tying/compose.js';
import { contradictionsOf, mended } from '../tying/reader.js';
import { leaderEnd, stepsOf, type Method } from '../tying/method.js';
import type { MethodEdit } from '../tying/method-edit.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { crossedDoubles, needlessCrossings, sharpBends } from './dress.js';
import { endIsInside, tailsOf } from './tail.js';
import { ridingTurns } from './winding.js';

export type FindingCode =
  | 'not-the-claim'
  | 'other-hand'
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
  | 'text-contradicts'
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
  readonly step?: number | undefined;
  /** What one press does about it. */
  readonly fix?: { readonly label: string; readonly edit: MethodEdit } | undefined;
}

export interface HouseRules {
  readonly tail: TailRule;
  readonly cordMm: number;
  readonly words: Vocabulary;
  /** The side to which the knot is pulled along its host, where the author declared one. */
  readonly pull?: 'left' | 'right' | undefined;
}

/** Two crossings nearer than this look like one place where three strands meet. */
const CROSSINGS_APART = 0.6;
/** Strands whose middle lines are nearer than this without crossing cannot be told from a crossing. */
const STRANDS_APART = 0.5;
/** A learner follows three crossings in one picture; more are missed. */
export const MOST_CROSSINGS_A_STEP = 3;

/** Everything that is wrong with a method under the house's rules, errors first. */
export function findingsOf(method: Method, rules: HouseRules): Finding[] {
  const { figure } = method;
  if (figure.ropes.length === 0) {
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
  const all = [
    ...endFindings(figure, rules),
    ...closeness(figure),
    ...dressFindings(figure),
    ...pullFindings(figure, rules),
    ...stepFindings(method, rules),
    ...textFindings(method, rules),
  ];
  return [...all.filter((f) => f.severity === 'error'), ...all.filter((f) => f.severity === 'warning')];
}

/** Words of the author's own that cannot be true of the picture. */
const textFindings = (method: Method, { words }: HouseRules): Finding[] =>
  method.halts.flatMap((halt, step) =>
    contradictionsOf(method, step, words).map((c): Finding => ({
      code: 'text-contradicts',
      severity: 'warning',
      title: `Step ${step + 1} says “${c.words}”`,
      why: c.shows,
      remedy:
        c.instead === undefined ? 'Say what the picture shows, or mend the picture.' : `“${c.instead}” would be true.`,
      step,
      crossings: c.crossings,
      ...(c.instead === undefined || halt.text === undefined
        ? {}
        : {
            fix: {
              label: `Say “${c.instead}”`,
              edit: { kind: 'set-text', index: step, text: mended(halt.text, c) },
            },
          }),
    })),
  );

function endFindings(figure: Figure, { tail: rule, cordMm }: HouseRules): Finding[] {
  const out: Finding[] = [];
  const wanted = requiredTail(rule, cordMm);
  for (const tail of tailsOf(figure)) {
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
        why: `${sayLength(tail.length, cordMm)} is drawn; this house wants ${sayLength(wanted, cordMm)}. A short tail works its way out.`,
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

/** An edit that draws the tail straight on by its last point, so that a halt at the end stays there; none when something is in the way. */
function lengthen(figure: Figure, id: string, missing: number): Edit | undefined {
  const rope = ropeOf(figure, id) as Rope;
  const tip = rope.points.at(-1) as Point;
  const to = add(tip, scale(directionAt(curveOf(rope), lastAt(rope)), missing + 0.1));
  const edit: Edit = { kind: 'move-point', strand: id, index: lastAt(rope), to };
  const tried = applyEdit(figure, edit);
  return tried.ok && crossingsOf(tried.value.figure).length === crossingsOf(figure).length ? edit : undefined;
}

function closeness(figure: Figure): Finding[] {
  const out: Finding[] = [];
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
function touching(figure: Figure): Finding[] {
  const out: Finding[] = [];
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

function dressFindings(figure: Figure): Finding[] {
  const numbered = (n: readonly number[]): string => n.join(' and ');
  const needless = needlessCrossings(figure).map(({ kind, crossings }): Finding => ({
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
  const doubles = crossedDoubles(figure).map((c): Finding => ({
    code: 'doubles-cross',
    severity: 'warning',
    title: `Two strands that run side by side cross at ${c.number}`,
    why: 'Doubled strands bear evenly only while they keep parallel.',
    remedy: 'Lead them side by side all the way.',
    place: c.first,
    crossings: [c.number],
  }));
  const sharp = sharpBends(figure).map(({ place, radius }): Finding => ({
    code: 'sharp-bend',
    severity: 'warning',
    title: 'The rope kinks',
    why: `It bends at a radius of ${radius.toFixed(1)} d, tighter than rope lies.`,
    remedy: 'Give the bend more room, or remove a point.',
    place,
  }));
  return [...needless, ...doubles, ...sharp];
}

/** Riding turns that lie on the side away from the declared pull: the hitch slides. */
function pullFindings(figure: Figure, { pull }: HouseRules): Finding[] {
  if (pull === undefined) return [];
  return figure.ropes.flatMap((rope) =>
    figure.hosts.flatMap((host): Finding[] => {
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
  if (method.halts.length === 0) {
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
  for (const step of stepsOf(method)) {
    const composed = composeStep(method, step.index, words);
    const place = { strand: step.rope, at: step.to };
    if (composed.crossings.length > MOST_CROSSINGS_A_STEP) {
      out.push({
        code: 'step-passes-too-much',
        severity: 'warning',
        title: `Step ${step.index + 1} passes ${composed.crossings.length} crossings`,
        why: `A learner follows ${MOST_CROSSINGS_A_STEP} in one picture; more are missed.`,
        remedy: 'Place another halt between them.',
        place,
        crossings: composed.crossings,
        step: step.index,
      });
    }
    if ((method.halts[step.index]?.text ?? composed.text).trim() === '') {
      out.push({
        code: 'step-without-text',
        severity: 'warning',
        title: `Step ${step.index + 1} has no text`,
        why: 'Learners who do not see the picture have nothing to go by.',
        remedy: 'Write it, or set it back to the composed text.',
        place,
        step: step.index,
        fix: { label: 'Use the composed text', edit: { kind: 'set-text', index: step.index, text: undefined } },
      });
    }
  }
  method.leaders.forEach((leader, i) => {
    const last = method.halts.filter((h) => h.leader === i).at(-1);
    const end = leaderEnd(method, i);
    if (last === undefined || last.at < end - 1e-6) {
      out.push({
        code: 'rope-after-last-halt',
        severity: 'warning',
        title: 'The end of the rope belongs to no step',
        why: 'What is laid after the last halt is never shown to the learner.',
        remedy: 'Place a halt at the end of the rope.',
        place: { strand: leader.rope, at: end },
        fix: { label: 'Place a halt at the end', edit: { kind: 'place-halt', leader: i, at: end } },
      });
    }
  });
  return out;
}
