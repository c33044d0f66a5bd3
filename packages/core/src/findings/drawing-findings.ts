/**
 * What is wrong with a drawing: its ends and tails, places that cannot be read, how it is dressed, the side it is pulled to.
 */
import { countedBeyond } from '../figure/breaks.js';
import { diameterOf } from '../figure/cordage.js';
import { areCrowded, crowded } from '../figure/crowded.js';
import { crossingsOf, readWeave, type Crossing } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import { applyEdit, type Edit } from '../figure/edit.js';
import { lastAt, ropeOf, type Figure, type Rope, type TrailSpan } from '../figure/figure.js';
import { add, distance, scale, type Point } from '../figure/point.js';
import { gapsThatMeet, mostlyHidden } from '../drawing/legible.js';
import { figureSet } from '../tying/held-bights.js';
import { crossedDoubles, needlessCrossings, sharpBends } from '../dressing/dress.js';
import { endIsInside, tailsOf, type Tail } from '../dressing/tail.js';
import { grippingTurns, ridingTurns } from '../dressing/winding.js';
import { requiredTail, sayLength } from '../ropes/tail-rule.js';
import { doubtfulCrossing, readMap } from '../topology/planar-map.js';
import type { Layout, Leader } from '../tying/method.js';
import { hostWord } from '../words/vocabulary.js';
import type { HouseRules, LayoutFinding } from './finding.js';
import { ropeFindings } from './rope-findings.js';

/** Strands whose middle lines are nearer than this without crossing cannot be told from a crossing. Both in diameters of the ropes there. */
const STRANDS_APART = 0.5;
/** What is wrong with a drawing. How the knot is dressed and how long its tails are is judged where it is finished. */
export const drawingFindings = (
  layout: Layout,
  { finished, anew }: { readonly finished: boolean; readonly anew: boolean },
  rules: HouseRules,
): LayoutFinding[] => {
  const { figure } = layout;
  return finished
    ? [
        ...endFindings(figure, rules),
        ...closeness(figure),
        ...legibility(figure, anew),
        ...dressFindings(layout),
        ...ropeFindings(figure, rules.words),
        ...pullFindings(figure, rules),
      ]
    : [...closeness(figure), ...legibility(figure, anew), ...bendFindings(layout)];
};

/**
 * Places at which a picture cannot be read. A knot laid anew is shown as it lies when it is dressed: a picture of it that cannot be read
 * is worse than none.
 */
function legibility(figure: Figure, anew: boolean): LayoutFinding[] {
  const severity = anew ? 'error' : 'warning';
  const crossings = crossingsOf(figure);
  const pairs = new Map<string, LayoutFinding>();
  for (const { place, crossings: pair } of gapsThatMeet(figure)) {
    const own = [...pair].sort((a, b) => a - b);
    const [c, d] = own.map((n) => crossings[n - 1]);
    // Nearer than that they are found as one place where three strands meet.
    if (!c || !d || areCrowded(figure, c, d) || pairs.has(own.join())) continue;
    pairs.set(own.join(), {
      code: 'gaps-meet',
      severity,
      title: `Crossings ${own.join(' and ')} run into each other`,
      why: 'The strand that lies above at one of them is cut at the other, so nobody can see which of the two is above.',
      remedy: 'Move them apart, or cross them at a steeper angle.',
      place,
      crossings: own,
    });
  }
  const hidden = mostlyHidden(figure).map(({ place }): LayoutFinding => ({
    code: 'mostly-hidden',
    severity,
    title: 'A rope is hidden more than it is seen',
    why: 'Other strands lie over more than half of it, so a learner cannot follow it.',
    remedy: 'Draw its strands farther apart.',
    place,
  }));
  return [...pairs.values(), ...hidden];
}

function endFindings(figure: Figure, { tail: rule, cordMm, tailFrom }: HouseRules): LayoutFinding[] {
  const out: LayoutFinding[] = [];
  for (const drawn of tailsOf(figure)) {
    const tail = measuredFrom(figure, drawn, tailFrom?.get(drawn.rope));
    const ownMm = cordMm * tail.diameter;
    const wanted = requiredTail(rule, ownMm);
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
      const missing = wanted - tail.length;
      const mend = tailMend(figure, tail, missing);
      out.push({
        code: 'tail-short',
        severity: 'error',
        title: `The tail is ${Math.round(missing * 10) / 10} d short`,
        why: `${sayLength(tail.length, ownMm)} is drawn of the ${sayLength(wanted, ownMm)} that are asked for. A short tail works its way out.${rule.cites === undefined ? '' : ` ${rule.cites}`}`,
        remedy:
          mend === undefined
            ? 'Lay the end on to a clear place.'
            : mend.edit.kind === 'set-break'
              ? 'Draw it with a break, which counts what is left out.'
              : 'Lengthen it the way it points.',
        place,
        ...(mend ? { fix: mend } : {}),
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

/** What one press does about a tail that lacks so many diameters: drawn on the way it points, or with a break; none where there is no room. */
export function tailMend(
  figure: Figure,
  tail: Tail,
  missing: number,
): { readonly label: string; readonly edit: Edit } | undefined {
  const broken = missing > MOST_DRAWN ? breakIn(figure, tail, missing) : undefined;
  const edit = broken ?? lengthen(figure, tail.rope, missing * tail.diameter);
  return edit && { label: broken ? 'Break the tail' : 'Lengthen the tail', edit };
}

/** A tail that lacks more than this, in diameters, is not drawn longer but broken: the picture keeps its size. */
const MOST_DRAWN = 12;

/** A break on a tail that counts what it lacks; none where there is no room for one. */
function breakIn(figure: Figure, tail: Tail, missing: number): Edit | undefined {
  const rope = ropeOf(figure, tail.rope) as Rope;
  const curve = curveOf(rope);
  const [from, to] = [lengthTo(curve, tail.from), lengthTo(curve, tail.to)];
  if (to - from < LEAST_BROKEN * tail.diameter) return undefined;
  const known = rope.breaks?.find((b) => b.at > tail.from);
  const at = known?.at ?? atLength(curve, from + (to - from) * 0.6);
  const counts = Math.round(((known?.counts ?? 0) + missing + 0.1) * 10) / 10;
  const edit: Edit = { kind: 'set-break', where: { strand: rope.id, at }, counts };
  return applyEdit(figure, edit).ok ? edit : undefined;
}
const LEAST_BROKEN = 5;

/** A tail measured from a place before its keeper. */
function measuredFrom(figure: Figure, tail: Tail, from: number | undefined): Tail {
  if (from === undefined) return tail;
  const rope = ropeOf(figure, tail.rope) as Rope;
  const curve = curveOf(rope);
  const drawn = (lengthOf(curve) - lengthTo(curve, from)) / tail.diameter;
  return { ...tail, from, length: drawn + countedBeyond(rope, from) };
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

/** How far a strand is moved aside, in diameters, the least first. */
const ASIDE = [1, 1.6, 2.4];
const WAYS = 8;

/** An edit that moves a control point by as little as sets two crossings apart, with as many crossings as before and fewer crowded. */
function movedAside(figure: Figure, c: Crossing, d: Crossing): Edit | undefined {
  const [count, before] = [crossingsOf(figure).length, crowded(figure)];
  const strands = [c.first, c.second, d.first, d.second].filter(
    (p, i, all) =>
      ropeOf(figure, p.strand) && all.findIndex((q) => q.strand === p.strand && Math.abs(q.at - p.at) < 1) === i,
  );
  for (const far of ASIDE)
    for (const { strand, at } of strands) {
      const { points } = ropeOf(figure, strand) as Rope;
      const index = Math.min(points.length - 1, Math.round(at));
      for (let way = 0; way < WAYS; way += 1) {
        const turn = (2 * Math.PI * way) / WAYS;
        const to = add(points[index] as Point, scale([Math.cos(turn), Math.sin(turn)], far));
        const edit: Edit = { kind: 'move-point', strand, index, to };
        const tried = applyEdit(figure, edit);
        if (!tried.ok || crossingsOf(tried.value.figure).length !== count) continue;
        if (crowded(tried.value.figure) < before && readWeave(tried.value.figure).ok) return edit;
      }
    }
  return undefined;
}

function closeness(figure: Figure): LayoutFinding[] {
  const out: LayoutFinding[] = [];
  const crossings = crossingsOf(figure);
  crossings.forEach((c, i) => {
    for (const d of crossings.slice(i + 1)) {
      if (!areCrowded(figure, c, d)) continue;
      const edit = out.length === 0 ? movedAside(figure, c, d) : undefined;
      out.push({
        code: 'three-strands',
        severity: 'error',
        title: `Three strands meet at crossings ${c.number} and ${d.number}`,
        why: 'Nobody can see there which strand lies over which, and a figure with strands in one point cannot be saved.',
        remedy: 'Move one strand aside until the two crossings stand apart.',
        place: c.first,
        crossings: [c.number, d.number],
        ...(edit ? { fix: { label: 'Move a strand aside', edit } } : {}),
      });
    }
  });
  const map = readMap(figure);
  if (!map.ok && out.length === 0) {
    const where = doubtfulCrossing(figure);
    out.push({
      code: 'degenerate',
      severity: 'error',
      title: `The order of the strands at ${map.place} is not certain`,
      why: map.reason,
      remedy: map.remedy,
      ...(where ? { place: where.first, crossings: [where.number] } : {}),
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
      const least = (STRANDS_APART * (diameterOf(rope) + diameterOf(other))) / 2;
      samples.forEach(({ at, point: p }, a) => {
        // Along one rope, places near each other are neighbours, not strands that touch.
        for (let b = rope === other ? a + 2.5 / SAMPLE : 0; b < otherSamples.length; b += 1) {
          const q = (otherSamples[b] as (typeof otherSamples)[number]).point;
          const roundTheSeam = rope === other && rope.closed && samples.length - b + a < 2.5 / SAMPLE;
          if (roundTheSeam || Math.abs(p[0] - q[0]) > least || distance(p, q) >= least) continue;
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

function dressFindings(layout: Layout): LayoutFinding[] {
  const { figure } = layout;
  const numbered = (n: readonly number[]): string => n.join(' and ');
  // A bight by which it is slipped stays: held as it is when the knot is set.
  const needless = needlessCrossings(figureSet(layout)).map(({ kind, crossings }): LayoutFinding => ({
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
  return [...needless, ...doubles, ...bendFindings(layout)];
}

/** Stretches that a bight folds: its legs and what they leave. */
const foldedBy = (leaders: readonly Leader[]): TrailSpan[] =>
  leaders.flatMap((l) => (l.kind === 'bight' ? [{ strand: l.rope, from: l.from - 1, to: l.to + 1 }] : []));

const bendFindings = ({ figure, leaders }: Layout): LayoutFinding[] =>
  sharpBends(figure, foldedBy(leaders)).map(({ place, radius }): LayoutFinding => ({
    code: 'sharp-bend',
    severity: 'warning',
    title: 'The rope kinks',
    why: `It bends at a radius of ${radius.toFixed(1)} d, tighter than it lies.`,
    remedy: 'Give the bend more room, or remove a point.',
    place,
  }));

/** Gripping turns that lie on the side away from the declared pull: the hitch slides. */
function pullFindings(figure: Figure, { pull, words }: HouseRules): LayoutFinding[] {
  if (pull === undefined) return [];
  const finding = (rope: Rope, at: number, title: string, why: string): LayoutFinding => ({
    code: 'riding-side',
    severity: 'error',
    title,
    why: `${why}; turns on the other side do not grip, and it slides.`,
    remedy: 'Lay the turns that grip on the side of the pull, or mirror the figure.',
    place: { strand: rope.id, at },
  });
  return figure.ropes.flatMap((rope): LayoutFinding[] => {
    if (pull === 'toward' || pull === 'away') {
      const grip = grippingTurns(figure, rope);
      if (!grip || grip.side === pull) return [];
      const [first] = figure.hosts;
      const host = first ? hostWord(words, first) : '';
      const say = (side: 'toward' | 'away'): string =>
        side === 'toward' ? `toward the ${host}` : `away from the ${host}`;
      return [finding(rope, grip.at, `The turns lie ${say(grip.side)}, against the pull`, `It is pulled ${say(pull)}`)];
    }
    return figure.hosts.flatMap((host): LayoutFinding[] => {
      const riding = ridingTurns(figure, rope, host);
      if (!riding || riding.side === pull) return [];
      const title = `The riding turns lie on the ${riding.side}, away from the pull`;
      return [finding(rope, riding.at, title, `It is pulled to the ${pull}`)];
    });
  });
}
