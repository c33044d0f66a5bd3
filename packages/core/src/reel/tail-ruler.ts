/**
 * The tails of a finished knot, measured: each drawn at its full length straight on, with a ruler beside it from where it leaves the knot
 * to what is asked of it.
 */
import { tailsOf, type Tail } from '../dressing/tail.js';
import type { Figure } from '../figure/figure.js';
import type { Box, Point } from '../figure/point.js';
import { diameterOf } from '../figure/cordage.js';
import { ropeOf } from '../figure/figure.js';
import { knotBeads, placeOf, type Chain, type Form } from '../form/form.js';
import type { Pose } from '../form/on-its-way.js';
import type { Sight } from '../form/sight.js';
import { frameOf } from '../form/strokes.js';
import { dotOf, lengthOfVector, less, sum, times, type Vector } from '../form/vector.js';
import { DEFAULT_CORD_MM, DEFAULT_TAIL_RULE, requiredTail, sayLength, type TailAsked } from '../ropes/tail-rule.js';
import { strandWord, type Vocabulary } from '../words/vocabulary.js';

const USUAL: TailAsked = { rule: DEFAULT_TAIL_RULE, cordMm: DEFAULT_CORD_MM };

/** What is asked of a rope's tail, in diameters of its own, and in words. */
function askedOf(figure: Figure, rope: string, { rule, cordMm, unit }: TailAsked): { wanted: number; label: string } {
  const ownMm = cordMm * diameterOf(ropeOf(figure, rope) ?? {});
  const wanted = requiredTail(rule, ownMm);
  return { wanted, label: sayLength(wanted, ownMm, unit) };
}

/** The tails that come out of the knot. */
export const measurable = (figure: Figure): Tail[] => tailsOf(figure).filter((t) => !t.inside);

/** What is said while tails are measured: how long they are to be, for each rope where they differ. */
export function sayTails(figure: Figure, words: Vocabulary, asked: TailAsked = USUAL): string {
  const tails = measurable(figure).map(({ rope }) => ({ rope, ...askedOf(figure, rope, asked) }));
  const [first] = tails;
  if (!first) return '';
  const isSame = tails.every((t) => t.label === first.label);
  const lengths = isSame
    ? first.label
    : tails.map((t) => `${t.label} of ${strandWord(words, figure, t.rope)}`).join(', ');
  return `Measure ${tails.length > 1 ? 'each' : 'the'} ${words.tail} from where it leaves the knot: at least ${lengths}.`;
}

/** A ruler in the picture: it begins where a tail leaves the knot. Lengths are in the picture's unit. */
export interface TailRuler {
  readonly rope: string;
  readonly from: Point;
  /** Unit vectors along the tail, and from it toward the ruler. */
  readonly along: Point;
  readonly aside: Point;
  /** One diameter of the rope, as it is seen along the tail; and how thick the rope is. */
  readonly unit: number;
  readonly thick: number;
  /** What is asked, in diameters of the rope. */
  readonly wanted: number;
  readonly label: string;
}

/** A tail that comes toward the reader this steeply is not measured in the picture: share of it that is seen. */
const LEAST_SEEN = 0.35;
/** A tail that is longer than it must be runs on out of the picture so far beyond the ruler, in diameters. */
const BEYOND = 3;
/** Room that a ruler and its words take beside a tail, in diameters. */
const RULER_ROOM = 3;

/** Where a chain's working tail leaves the knot, and the way it runs on. */
interface FreeTail {
  readonly exit: number;
  readonly way: Vector;
}

/** Strands whose directions have more than this cosine lie beside one another and do not cross. */
const BESIDE = 0.8;
/** A straight tail may pass under so much of its own knot, in diameters. */
const UNDER = 3;
/** Beads so far apart along a rope are other parts of it, in diameters. */
const ELSEWHERE = 2;

function freeTail(chain: Chain, form: Form): FreeTail | undefined {
  const last = chain.at.length - 1;
  const outlet = chain.outlets.find((o) => o.kind === 'tail' && o.first === last && o.inside !== true);
  const straight = knotBeads(chain).at(-1);
  return outlet && straight !== undefined
    ? { exit: pastCrossings(chain, form, straight, outlet.way), way: outlet.way }
    : undefined;
}

/** The last bead of a tail, from where it is straight, that a strand crosses which touches it: there it leaves the knot. */
function pastCrossings(chain: Chain, form: Form, straight: number, way: Vector): number {
  const others = form.chains.flatMap((other) =>
    Array.from({ length: other.at.length - 1 }, (_, i) => ({
      other,
      bead: i,
      place: placeOf(other.x, i),
      on: less(placeOf(other.x, i + 1), placeOf(other.x, i)),
    })).filter(({ on }) => Math.abs(dotOf(on, way)) < BESIDE * lengthOfVector(on)),
  );
  let exit = straight;
  let run = 0;
  for (let i = straight + 1; i < chain.at.length; i += 1) {
    const place = placeOf(chain.x, i);
    const gap = lengthOfVector(less(place, placeOf(chain.x, i - 1)));
    run += gap;
    if (run > 2 * UNDER * chain.radius) break;
    const apart = Math.ceil((2 * ELSEWHERE * chain.radius) / Math.max(gap, 1e-6));
    const isCrossed = others.some(
      ({ other, bead, place: q }) =>
        (other !== chain || Math.abs(bead - i) > apart) &&
        lengthOfVector(less(q, place)) < 1.08 * (chain.radius + other.radius),
    );
    if (isCrossed) exit = i;
  }
  return exit;
}

/** How far a tail is followed from where it leaves the knot before it is drawn aside, and the radius of that bend, in diameters. */
const KEPT = 0.8;
const BEND = 1.1;
/** Ways in which it may be drawn aside, in radians: straight on first. */
const ASIDE = Array.from({ length: 23 }, (_, k) => ((k % 2 === 0 ? 1 : -1) * Math.ceil(k / 2) * Math.PI) / 18);
/** A tail as near as this to other rope hides it, in diameters; what it costs to bend it, against a diameter that it hides. */
const HIDES = 0.9;
const BENDING = 1.2;

/** The beads of a tail of a length, drawn out in the plane of the picture at an angle to the way it leaves. */
function drawnOut(
  chain: Chain,
  { exit, way }: FreeTail,
  { right, down }: Sight,
  angle: number,
  length: number,
): Vector[] {
  const out: Vector[] = [];
  let here = placeOf(chain.x, exit);
  let run = 0;
  const go = (place: Vector): void => {
    run += lengthOfVector(less(place, here));
    here = place;
    out.push(place);
  };
  const kept = Math.min(length, 2 * KEPT * chain.radius);
  for (let i = exit + 1; i < chain.at.length && run < kept; i += 1) go(placeOf(chain.x, i));
  const [a, b] = [dotOf(way, right), dotOf(way, down)];
  const begins = Math.atan2(b, a);
  const gap = 0.5 * chain.radius;
  // Round a bend of its own, then straight.
  const bent = Math.abs(angle) * BEND * 2 * chain.radius;
  for (let turned = 0; run < length; turned += gap) {
    const at = begins + angle * (bent > 0 ? Math.min(1, turned / bent) : 1);
    const step = Math.min(gap, Math.max(1e-3, length - run));
    go(sum(here, sum(times(right, step * Math.cos(at)), times(down, step * Math.sin(at)))));
  }
  return out;
}

/** A chain whose tail lies at these places. */
function withTail(chain: Chain, { exit }: FreeTail, beads: readonly Vector[]): Chain {
  const last = exit + beads.length;
  const end = chain.at.at(-1) ?? 0;
  return {
    ...chain,
    x: Float64Array.from([...chain.x.subarray(0, 3 * (exit + 1)), ...beads.flat()]),
    at: Float64Array.from([...chain.at.subarray(0, exit + 1), ...beads.map(() => end)]),
    outlets: chain.outlets.map((o) =>
      o.kind === 'tail' && o.first === chain.at.length - 1 ? { ...o, first: last, last } : o,
    ),
  };
}

/** A chain whose loaded ends run on straight as they are held, so that they leave the picture. */
function withLeads(chain: Chain, length: number): Chain {
  const gap = chain.radius;
  const count = Math.ceil(length / gap);
  const last = chain.at.length - 1;
  const held = (bead: number): Vector | undefined =>
    chain.outlets.find((o) => (o.kind === 'standing' || o.kind === 'off') && o.first === bead)?.way;
  const on = (bead: number, way: Vector | undefined): Vector[] =>
    way ? Array.from({ length: count }, (_, k) => sum(placeOf(chain.x, bead), times(way, (k + 1) * gap))) : [];
  const [before, after] = [on(0, held(0)).reverse(), on(last, held(last))];
  if (before.length + after.length === 0) return chain;
  const shifted = (bead: number): number =>
    bead === 0 ? 0 : bead + before.length + (bead === last ? after.length : 0);
  return {
    ...chain,
    x: Float64Array.from([...before.flat(), ...chain.x, ...after.flat()]),
    at: Float64Array.from([
      ...before.map(() => chain.at[0] ?? 0),
      ...chain.at,
      ...after.map(() => chain.at[last] ?? 0),
    ]),
    outlets: chain.outlets.map((o) => ({ ...o, first: shifted(o.first), last: shifted(o.last) })),
  };
}

/** A finished knot as it is held, its tails at their full lengths, and the rulers beside them. */
export interface MeasuredPose extends Pose {
  readonly rulers: readonly TailRuler[];
}

/** A tail that is measured: what is asked of it, and how it is drawn out. */
interface MeasuredTail {
  readonly chain: Chain;
  readonly free: FreeTail;
  readonly tail: Tail;
  readonly wanted: number;
  readonly label: string;
  readonly angle: number;
}

/** The tails of a finished knot measured, as it is seen in a pose. */
export function tailsMeasured(figure: Figure, { form, sight }: Pose, asked: TailAsked = USUAL): MeasuredPose {
  const flat = (p: Vector): Point => [dotOf(p, sight.right), dotOf(p, sight.down)];
  const places = (chain: Chain, from = 0, to = chain.at.length): Point[] =>
    Array.from({ length: Math.max(0, to - from) }, (_, i) => flat(placeOf(chain.x, from + i)));
  const tails = measurable(figure);
  const taken = form.chains.flatMap((c) => places(c, 0, freeTail(c, form)?.exit ?? c.at.length));
  const measured = form.chains.map((chain): MeasuredTail | undefined => {
    const [tail, free] = [tails.find((t) => t.rope === chain.rope), freeTail(chain, form)];
    if (!tail || !free || Math.hypot(...flat(free.way)) < LEAST_SEEN) return undefined;
    const { wanted, label } = askedOf(figure, chain.rope, asked);
    /** How much of other rope a tail hides, or is hidden by, on that way. */
    const hides = (angle: number): number => {
      const beads = drawnOut(chain, free, sight, angle, wanted * tail.diameter).map(flat);
      const beyond = beads.filter(([x, y]) => Math.hypot(x - beads[0]![0], y - beads[0]![1]) > tail.diameter);
      const hidden = beyond.filter(([x, y]) =>
        taken.some(([u, v]) => Math.hypot(u - x, v - y) < HIDES * tail.diameter),
      );
      return 0.5 * chain.radius * hidden.length + BENDING * Math.abs(angle);
    };
    const angle = ASIDE.reduce((best, a) => (hides(a) < hides(best) - 1e-9 ? a : best), 0);
    taken.push(...drawnOut(chain, free, sight, angle, wanted * tail.diameter).map(flat));
    return { chain, free, tail, wanted, label, angle };
  });
  const drawn = (length: (of: MeasuredTail) => number): Form => ({
    ...form,
    chains: form.chains.map((chain, i) => {
      const m = measured[i];
      return m ? withTail(chain, m.free, drawnOut(chain, m.free, sight, m.angle, length(m) * m.tail.diameter)) : chain;
    }),
  });
  const some = measured.flatMap((m) => m ?? []);
  const reach = some.reduce((most, m) => Math.max(most, m.wanted * m.tail.diameter), 0) + 2 * BEYOND;
  const whole = drawn((m) => m.tail.length);
  const everywhere = whole.chains.flatMap((c) => places(c));
  const rulers = some.map((m): TailRuler => {
    const { chain, free, tail, wanted, label } = m;
    const unit = tail.diameter;
    const beads = drawnOut(chain, free, sight, m.angle, Math.max(wanted, tail.length) * unit).map(flat);
    const [end, before] = [beads.at(-1)!, beads.at(-3) ?? beads[0]!];
    const long = Math.hypot(end[0] - before[0], end[1] - before[1]);
    const along: Point = [(end[0] - before[0]) / long, (end[1] - before[1]) / long];
    // The straight part carried back to where it would begin, so that lengths along the rope are lengths along the ruler.
    const whole = Math.max(wanted, tail.length) * unit;
    const from: Point = [end[0] - whole * along[0], end[1] - whole * along[1]];
    /** How much rope lies where the ruler and its words would, on that side; beside the knot some always does. */
    const crowd = (aside: Point): number =>
      everywhere.filter(([x, y]) => {
        const [u, v] = [x - from[0], y - from[1]];
        const [a, s] = [u * along[0] + v * along[1], u * aside[0] + v * aside[1]];
        return (
          a > 0.25 * unit * wanted && a < unit * wanted + 1 && s > chain.radius * 1.2 && s < chain.radius + RULER_ROOM
        );
      }).length;
    const sides: Point[] = [
      [along[1], -along[0]],
      [-along[1], along[0]],
    ];
    const [aside] = sides.sort((p, q) => crowd(p) - crowd(q)) as [Point];
    return { rope: chain.rope, from, along, aside, unit, thick: 2 * chain.radius, wanted, label };
  });
  const near = frameOf(
    drawn((m) => Math.min(m.tail.length, m.wanted + BEYOND)),
    sight,
  );
  return {
    form: { ...whole, chains: whole.chains.map((c) => withLeads(c, reach)) },
    sight,
    frame: withRoom(near, rulers),
    rulers,
  };
}

/** A frame in which rulers have room, too. */
function withRoom(frame: Box, rulers: readonly TailRuler[]): Box {
  return rulers.reduce<Box>(([l, t, r, b], { from, along, aside, unit, wanted }) => {
    const corners = [0, wanted * unit + 0.5].flatMap((a) => [
      [from[0] + a * along[0] + RULER_ROOM * aside[0], from[1] + a * along[1] + RULER_ROOM * aside[1]] as const,
    ]);
    const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
    return [Math.min(l, ...xs), Math.min(t, ...ys), Math.max(r, ...xs), Math.max(b, ...ys)];
  }, frame);
}
