/**
 * Structure: a knot changed the way a rope can be: its loop cut, its slip pulled out, a followed strand halved, its ends exchanged. What
 * comes out is compared with other knots: kinship proved.
 */
import { crossingsOf, weaveFigure, type Crossing } from '../figure/crossings.js';
import { curveOf, directionAt, pointAt } from '../figure/curve.js';
import { applyEdit } from '../figure/edit.js';
import { freshId, lastAt, ropeOf, type Figure, type Host, type Rope, type TrailPosition } from '../figure/figure.js';
import { distance, dot, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import type { KeyBook, Match } from './book.js';
import { signatureOf } from './signature.js';
import { ropeWord, theKnot, WORKSHOP_WORDS, type Vocabulary } from '../words/vocabulary.js';
import { truncate } from '../tying/method.js';

const noRope = (id: string): Result<never> =>
  refuse(`rope ${id}`, 'There is no such rope.', 'Name a rope of the figure.');

/**
 * The figure with its ropes laid anew over the same curves. At each meeting the strand is over that runs the way of the strand that was
 * over at that place.
 */
function relaid(figure: Figure, ropes: readonly Rope[]): Figure {
  const before = [...figure.ropes, ...figure.hosts];
  const after = [...ropes, ...figure.hosts];
  const way = (strands: readonly (Rope | Host)[], { strand, at }: TrailPosition): Point =>
    directionAt(curveOf(strands.find((s) => s.id === strand) as Rope | Host), at);
  const known = crossingsOf(figure);
  return weaveFigure({ ...figure, ropes: ropes.map((r) => ({ ...r, weave: '' })) }, (m) => {
    const nearest = known.reduce<Crossing | undefined>(
      (best, c) => (!best || distance(c.point, m.point) < distance(best.point, m.point) ? c : best),
      undefined,
    );
    if (!nearest) return true;
    const first = way(after, m.first);
    const alike = (p: TrailPosition): number => Math.abs(dot(first, way(before, p)));
    return alike(nearest.over) > alike(nearest.under);
  });
}

/** The points of a rope between two trail positions, ends included, as short straight pieces along its curve. */
function piece(rope: Rope, from: number, to: number): Point[] {
  const { line, lineAt } = curveOf(rope);
  const inner = line.filter((_, i) => (lineAt[i] as number) > from + 1e-9 && (lineAt[i] as number) < to - 1e-9);
  const points = [pointAt(curveOf(rope), from), ...inner, pointAt(curveOf(rope), to)];
  return points.filter((p, i) => i === 0 || distance(points[i - 1] as Point, p) > 1e-6);
}

/** Room left on each side of a cut, so that the two new ends do not touch. */
const KERF = 0.02;

/** Cuts a loop at its eye: one rope becomes two, the part that led into the eye ending in a tail, the other in a standing end. */
export function cutEye(figure: Figure, id: string, eye = 0): Result<Figure> {
  const rope = ropeOf(figure, id);
  if (!rope) return noRope(id);
  const at = rope.eyes?.[eye];
  if (at === undefined)
    return refuse(`rope ${id}`, 'It has no loop that is declared to stay.', 'Declare the eye first.');
  if (rope.closed) return refuse(`rope ${id}`, 'A closed sling cut once is one rope.', 'Cut an open rope.');
  const second = freshId(figure);
  const rest = (rope.eyes ?? []).filter((_, i) => i !== eye);
  if (rest.length > 0)
    return refuse(`rope ${id}`, 'It has more than one loop.', 'Cut them one at a time in figures of their own.');
  const { eyes: _eyes, ...bare } = rope;
  const a: Rope = { ...bare, curve: 'straight', points: piece(rope, 0, at - KERF), ends: [rope.ends[0], 'tail'] };
  const b: Rope = {
    ...bare,
    id: second,
    curve: 'straight',
    points: piece(rope, at + KERF, lastAt(rope)),
    ends: ['standing', rope.ends[1]],
  };
  return accept(
    relaid(
      figure,
      figure.ropes.flatMap((r) => (r.id === id ? [a, b] : [r])),
    ),
  );
}

/** Pulls out what lies beyond a place on a rope: a slipped bight, a keeper, the second pass of a followed knot. */
export function pullOut(figure: Figure, id: string, at: number): Result<Figure> {
  const rope = ropeOf(figure, id);
  if (!rope) return noRope(id);
  if (!(at > 0 && at <= lastAt(rope)))
    return refuse(`rope ${id} at ${at}`, 'That is not on the rope.', 'Choose a place along it.');
  return accept(truncate(figure, new Map([[id, { to: at }]])));
}

/** Takes a whole rope out: the second rope of a followed bend. */
export function withoutRope(figure: Figure, id: string): Result<Figure> {
  const done = applyEdit(figure, { kind: 'remove-rope', rope: id });
  return done.ok ? accept(done.value.figure) : done;
}

/** Exchanges standing end and tail of a rope. */
export function exchangeEnds(figure: Figure, id: string): Result<Figure> {
  const done = applyEdit(figure, { kind: 'reverse', rope: id });
  if (!done.ok) return done;
  const ends = ropeOf(figure, id)?.ends as Rope['ends'];
  const again = applyEdit(done.value.figure, { kind: 'set-ends', rope: id, ends });
  return again.ok ? accept(again.value.figure) : again;
}

export interface Kinship {
  /** What is done to the knot, an imperative without a full stop: “Cut its loop”. */
  readonly change: string;
  /** Known knots it then is, closest first; only those that it is, in one hand or the other. */
  readonly becomes: readonly Match[];
}

/** What a knot becomes by one change of its structure, where that is a known knot: kinship proved. */
export function kinshipOf(figure: Figure, book: KeyBook, words: Vocabulary = WORKSHOP_WORDS): readonly Kinship[] {
  const several = figure.ropes.length > 1;
  const changes = figure.ropes.flatMap((r, i): (readonly [change: string, changed: Result<Figure>])[] => {
    const own = ropeWord(words, i);
    const named = several ? ` of ${own}` : '';
    const eye = r.eyes?.[0];
    return [
      ...(eye === undefined || r.closed ? [] : ([[`Cut its loop${named}`, cutEye(figure, r.id)]] as const)),
      ...(eye === undefined || r.closed
        ? []
        : ([[`Pull out what lies beyond its loop${named}`, pullOut(figure, r.id, eye)]] as const)),
      ...(r.closed || !r.ends.includes('tail')
        ? []
        : ([[`Exchange standing part and tail${named}`, exchangeEnds(figure, r.id)]] as const)),
      ...(several ? ([[`Take out ${own}`, withoutRope(figure, r.id)]] as const) : []),
    ];
  });
  const own = signatureOf(figure);
  return changes.flatMap(([change, changed]): Kinship[] => {
    const signature = changed.ok ? signatureOf(changed.value) : changed;
    if (!signature.ok || !own.ok || signature.value.key === own.value.key) return [];
    const becomes = book.cameUpon(signature.value.key);
    return becomes.length > 0 ? [{ change, becomes }] : [];
  });
}

/** A kinship as a sentence: “Cut its loop and it is the sheet bend, of the other hand.” */
export const sayKinship = ({ change, becomes }: Kinship): string =>
  `${change} and it is ${becomes
    .map((m) => `${theKnot(m.name)}${m.relation === 'mirror' ? ', of the other hand' : ''}`)
    .join(', or ')}.`;
