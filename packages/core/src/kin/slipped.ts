/**
 * The slipped form of a knot: the end goes through its last tuck as a bight, so that one pull on the tail draws it out.
 */
import { LIMITS } from '../figure/bounds.js';
import { applyEdit } from '../figure/edit.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { atLength, curveOf, directionAt, lengthOf, lengthTo, pointAt } from '../figure/curve.js';
import { lastAt, withRope, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { add, dot, scale, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { signatureOf } from '../identity/signature.js';
import { readMap } from '../topology/planar-map.js';
import { truncate, type BightLeader } from '../tying/method.js';
import { enlarged, SIZES } from './lanes.js';

/** How far the bight stands out beyond the knot, in diameters. */
const STANDS_OUT = 6;
/** The tail that is left beside it, in diameters. */
const TAIL = 11;
/** Passages back from the end within which the last tuck is sought. */
const MOST_PASSAGES = 12;

export interface Slipped {
  readonly figure: Figure;
  /** The bight that goes through; pulled through, the knot is as it was. */
  readonly bight: BightLeader;
}

/** Where the rope last came in from outside before its end went through: a place on the run that leads to the last tuck. */
function beforeTuck(figure: Figure, rope: Rope): number | undefined {
  const map = readMap(figure);
  if (!map.ok) return undefined;
  const { edges, faces, faceOf } = map.value;
  const own = edges.flatMap((e, i) => (e.strand === rope.id ? [{ ...e, i }] : [])).reverse();
  const curve = curveOf(rope);
  // Of the runs before the end's own, the first on the border of the open board with two passages after it.
  const run = own
    .slice(2, MOST_PASSAGES)
    .find(({ i }) => [2 * i, 2 * i + 1].some((d) => faces[faceOf[d] as number]?.outer === true));
  if (!run) return undefined;
  return atLength(curve, (lengthTo(curve, run.from) + lengthTo(curve, run.to)) / 2);
}

/** A way for the tail from a place: the straight one, of several, that runs free and turns least. */
function freeWay(figure: Figure, rope: Rope, from: Point, onward: Point): Point | undefined {
  const ways = Array.from({ length: 24 }, (_, i): Point => [
    Math.cos((i * Math.PI) / 12),
    Math.sin((i * Math.PI) / 12),
  ]);
  const before = crossingsOf(figure).length;
  return ways
    .sort((a, b) => dot(b, onward) - dot(a, onward))
    .find((way) => {
      const points = [0.4, 0.7, 1].map((k) => add(from, scale(way, TAIL * k)));
      const done = applyEdit(figure, { kind: 'lay', rope: rope.id, points, pass: 'OOO' });
      return done.ok && crossingsOf(done.value.figure).length === before;
    });
}

/** The slipped form of a knot by the tail of one of its ropes. */
export function slippedForm(figure: Figure, id: string): Result<Slipped> {
  const rope = ropeOf(figure, id);
  if (!rope || rope.closed || rope.ends[1] !== 'tail')
    return refuse(`rope ${id}`, 'It has no tail that could go through as a bight.', 'Choose a rope with a tail.');
  const whole = signatureOf(figure);
  if (!whole.ok) return whole;
  let tooTight = false;
  for (const k of SIZES) {
    const grown = enlarged(figure, k);
    const long = ropeOf(grown, id) as Rope;
    const from = beforeTuck(grown, long);
    if (from === undefined) break;
    const curve = curveOf(long);
    const last = passagesOf(grown, id).at(-1)?.at ?? 0;
    const end = atLength(curve, Math.min(lengthOf(curve), lengthTo(curve, last) + STANDS_OUT));
    const short = end < lastAt(long) ? shortened(grown, long, end) : grown;
    for (const side of ['left', 'right'] as const) {
      const done = applyEdit(short, {
        kind: 'retrace',
        rope: id,
        along: { strand: id, from: lastAt(ropeOf(short, id) as Rope) - 0.01, to: from },
        side,
      });
      if (!done.ok) continue;
      const laid = ropeOf(done.value.figure, id) as Rope;
      const to = lastAt(laid);
      const way = freeWay(done.value.figure, laid, laid.points.at(-1) as Point, directionAt(curveOf(laid), to));
      if (!way) continue;
      const points = [0.4, 0.7, 1].map((p) => add(laid.points.at(-1) as Point, scale(way, TAIL * p)));
      const tail = applyEdit(done.value.figure, { kind: 'lay', rope: id, points, pass: 'OOO' });
      if (!tail.ok || laid.points.length + 3 > LIMITS.points) continue;
      const bight: BightLeader = { kind: 'bight', rope: id, from, to };
      // Where strands lie close the second leg may have gone astray: pulled through, it must be the knot again.
      const back = pulledThrough(tail.value.figure, bight);
      const found = back && signatureOf(back);
      if (!found?.ok || found.value.key !== whole.value.key) continue;
      return accept({ figure: tail.value.figure, bight });
    }
    tooTight = true;
  }
  return tooTight
    ? refuse(
        `rope ${id}`,
        'There is no room beside the tail for a second leg.',
        'Tidy the figure, or draw its last tuck more openly.',
      )
    : refuse(
        `rope ${id}`,
        'Its end does not come in from outside before it goes through, so it cannot be slipped.',
        'Draw the bight by hand in Draft.',
      );
}

/** A rope that ends sooner; its control points up to there stay what they are. */
function shortened(figure: Figure, rope: Rope, at: number): Figure {
  const keep = Math.floor(at);
  const tip = pointAt(curveOf(rope), at);
  const kept = rope.points.slice(0, keep + 1);
  const shorter: Rope = { ...rope, points: at - keep > 0.3 ? [...kept, tip] : kept };
  const count = passagesOf(figure, rope.id).length;
  const cut = truncate(figure, new Map([[rope.id, { to: at }]]));
  const next = withRope(figure, rope.id, shorter);
  // The bend before the new end may lie a little otherwise: where that loses a passage the rope is left as it is cut.
  return passagesOf(next, rope.id).length === count ? next : cut;
}

/** Every bight of a layout that is no eye, with the end pulled through it: the knot it is the slipped form of. */
export function pulledThrough(figure: Figure, { rope, from, to }: BightLeader): Figure | undefined {
  const done = applyEdit(figure, { kind: 'pull-through', rope, from, to });
  return done.ok ? done.value.figure : undefined;
}
