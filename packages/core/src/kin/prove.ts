/**
 * Kinship proved: a relation that is stated between two knots is tried on their figures. What the computation finds is proved, what it
 * excludes is refuted, and what it cannot decide stays open, to be judged by a person.
 */
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { drive, type Work } from '../identity/atlas.js';
import { provedSame } from '../identity/compare.js';
import { flipped, signatureOf } from '../identity/signature.js';
import { cutEye, exchangeEnds, pullOut, withoutRope } from '../identity/structure.js';
import { mirror } from '../topology/views.js';
import type { Result } from '../figure/refusal.js';
import { finishedLayout, slipBights, type BightLeader, type Method } from '../tying/method.js';
import { theKnot } from '../words/vocabulary.js';
import { doubled } from './doubled.js';
import type { KinKind, KinState } from './kinds.js';
import { verbFor } from './relations.js';
import { pulledThrough } from './slipped.js';
import { turnsIn, withoutTurn } from './turns.js';

/** A knot as far as kinship goes. */
export interface KinKnot {
  readonly name: string;
  readonly figure: Figure;
  /** Bights of its method that are no eyes: where it may be a slipped form. */
  readonly bights: readonly BightLeader[];
}

/** The finished knot of a method, with its bights. */
export function kinKnot(name: string, method: Method): KinKnot {
  const layout = finishedLayout(method);
  return { name, figure: layout.figure, bights: slipBights(layout) };
}

export interface KinProof {
  readonly state: KinState;
  /** What was compared and what came of it: a sentence or two. */
  readonly compared: string;
}

type Likeness = 'same' | 'mirror';

/** Whether two figures are one knot, in one hand or the other; nothing when they are not, or one of them cannot be read. */
function likeness(a: Figure, b: Figure): Likeness | undefined {
  const [p, q] = [signatureOf(a), signatureOf(b)];
  if (!p.ok || !q.ok) return undefined;
  if (p.value.key === q.value.key) return 'same';
  const turned = signatureOf(mirror(a));
  return turned.ok && turned.value.key === q.value.key ? 'mirror' : undefined;
}

const HAND = ', of the other hand';
const sayLikeness = (l: Likeness): string => (l === 'mirror' ? HAND : '');

/** How sure an equality is: equal codes of reduced drawings are a proof, equal signatures are strong evidence. */
const rests = (a: Figure, b: Figure, l: Likeness): string =>
  provedSame(l === 'mirror' ? mirror(a) : a, b)
    ? 'Reduced as far as they go, both drawings have the same code.'
    : 'Their signatures are equal.';

const proved = (what: string, a: Figure, b: Figure, l: Likeness): KinProof => ({
  state: 'proved',
  compared: `${what}${sayLikeness(l)}. ${rests(a, b, l)}`,
});
const refuted = (compared: string): KinProof => ({ state: 'refuted', compared });
const open = (compared: string): KinProof => ({ state: 'open', compared });

/** One change of a figure, and how it is said: “The loop cut”. */
interface Change {
  readonly says: string;
  readonly figure: Figure;
}

const changes = (list: readonly (readonly [says: string, done: Result<Figure>])[]): readonly Change[] =>
  list.flatMap(([says, done]) => (done.ok ? [{ says, figure: done.value }] : []));

/** Every way of cutting a figure's loops. */
const cuts = (figure: Figure): readonly Change[] =>
  changes(
    figure.ropes.flatMap((r) =>
      r.closed || (r.eyes ?? []).length !== 1 ? [] : [['its loop cut', cutEye(figure, r.id)] as const],
    ),
  );

/** Every way of exchanging standing part and tail. */
function exchanges(figure: Figure): readonly Change[] {
  const own = figure.ropes.filter((r) => !r.closed && r.ends.includes('tail'));
  const each = own.map((r) => ['one rope’s standing part and tail exchanged', exchangeEnds(figure, r.id)] as const);
  if (own.length < 2) return changes(own.map((r) => ['standing part and tail exchanged', exchangeEnds(figure, r.id)]));
  const all = own.reduce<Result<Figure>>((f, r) => (f.ok ? exchangeEnds(f.value, r.id) : f), {
    ok: true,
    value: figure,
  });
  return changes([...each, ['standing part and tail of every rope exchanged', all]]);
}

/** Every single strand of a doubled figure. */
const singles = (figure: Figure): readonly Change[] =>
  changes(
    figure.ropes.length > 1
      ? figure.ropes.map((r) => ['one of its ropes taken out', withoutRope(figure, r.id)] as const)
      : figure.ropes.flatMap((r) => {
          const eye = r.eyes?.[0];
          return eye === undefined || r.closed
            ? []
            : [['the strand beyond its loop pulled out', pullOut(figure, r.id, eye)] as const];
        }),
  );

/** The knot as it is without what the end does last: the end drawn back passage by passage. */
function* drawnBack(figure: Figure): Generator<Change> {
  for (const rope of figure.ropes) {
    if (rope.closed || rope.ends[1] !== 'tail') continue;
    const passages = [...passagesOf(figure, rope.id)].reverse();
    for (const [i, p] of passages.entries()) {
      const before = passages[i + 1]?.at ?? 0;
      const done = pullOut(figure, rope.id, (p.at + before) / 2);
      if (done.ok)
        yield {
          says: `the end drawn back through ${i + 1 === 1 ? 'its last crossing' : `its last ${i + 1} crossings`}`,
          figure: done.value,
        };
    }
  }
}

/** The first change that makes the one knot of the other. */
function* firstLike(
  list: Iterable<Change>,
  goal: Figure,
): Work<{ readonly change: Change; readonly like: Likeness } | undefined> {
  let n = 0;
  for (const change of list) {
    const like = likeness(change.figure, goal);
    if (like) return { change, like };
    yield Math.min(0.95, (n += 1) / (n + 12));
  }
  return undefined;
}

/** What a knot is made of and tied to: a turn more or less changes none of it. */
export const settingOf = ({ ropes, hosts }: Figure): string =>
  [
    `${ropes.length} ropes`,
    `${ropes.reduce((n, r) => n + (r.eyes?.length ?? 0), 0)} eyes`,
    ...hosts.map((h) => h.kind).sort(),
  ].join();

/** A figure with so many turns taken out, one after the other; each knot that is left on the way once. */
function* without(figure: Figure, count: number): Generator<Change> {
  const seen = new Set<string>();
  for (const turn of turnsIn(figure)) {
    if (turn.times > 1) continue;
    const left = withoutTurn(figure, turn);
    if (!left) continue;
    if (count === 1) yield { says: 'one turn taken out', figure: left };
    else {
      const signature = signatureOf(left);
      if (!signature.ok || seen.has(signature.value.key)) continue;
      seen.add(signature.value.key);
      for (const less of without(left, count - 1)) yield { ...less, says: `${count} turns taken out` };
    }
  }
}

const is = ({ name }: KinKnot): string => verbFor(name);
const the = ({ name }: KinKnot): string => theKnot(name);
const The = (k: KinKnot): string => the(k).replace(/^t/, 'T');

/** Tries a relation that leads from one knot to another; `more` is the number of turns, where it is about turns. */
export function* proving(kind: KinKind, from: KinKnot, to: KinKnot, more = 1): Work<KinProof> {
  const [a, b] = [from.figure, to.figure];
  const unread = [from, to].flatMap((k) => {
    const s = signatureOf(k.figure);
    return s.ok ? [] : [`${The(k)} cannot be read: ${s.reason}`];
  });
  if (unread.length > 0) return open(unread.join(' '));
  const alike = likeness(a, b);
  yield 0.05;
  if (kind === 'mirrored')
    return alike === 'mirror'
      ? { state: 'proved', compared: `Mirrored, ${the(from)} ${is(from)} ${the(to)}. ${rests(a, b, 'mirror')}` }
      : alike === 'same' && likeness(mirror(a), a) === 'same'
        ? {
            state: 'proved',
            compared: `${The(from)} ${is(from)} its own mirror image, and ${the(to)} is the same knot.`,
          }
        : refuted(
            `Mirrored, ${the(from)} ${is(from)} not ${the(to)}: ${alike === 'same' ? 'unmirrored it is' : 'their signatures differ, mirrored or not'}.`,
          );
  if (alike === 'same') {
    // Two ways of tying one knot may be told apart in words, but not as two knots.
    if (kind === 'made into' || kind === 'finished with')
      return open('Both are drawn as the same knot: whether there is a difference is for you to say.');
    return refuted(`Both are drawn as one and the same knot. ${rests(a, b, 'same')}`);
  }
  switch (kind) {
    case 'one more turn': {
      if (settingOf(a) !== settingOf(b))
        return refuted(
          'They are not made of the same ropes, loops that stay and objects, so no turn alone makes the one of the other.',
        );
      const found = yield* firstLike(without(b, more), a);
      if (found)
        return proved(
          `With ${found.change.says}, ${the(to)} ${is(to)} ${the(from)}`,
          found.change.figure,
          a,
          found.like,
        );
      return open(
        `No single turn that the drawing of ${the(to)} shows leaves ${the(from)} when it is taken out. Another drawing may show one.`,
      );
    }
    case 'slipped': {
      if (to.bights.length === 0)
        return open(
          `No step of ${the(to)} draws a bight through, so there is nothing to pull through. Lay its last tuck as a bight.`,
        );
      const list = to.bights.flatMap((l) => {
        const figure = pulledThrough(b, l);
        return figure ? [{ says: 'its end pulled through the bight', figure }] : [];
      });
      const found = yield* firstLike(list, a);
      return found
        ? proved(`With ${found.change.says}, ${the(to)} ${is(to)} ${the(from)}`, found.change.figure, a, found.like)
        : refuted(`Its end pulled through the bight, ${the(to)} ${is(to)} another knot than ${the(from)}.`);
    }
    case 'doubled on the bight':
    case 'followed': {
      const as = b.ropes.length > 1 ? 'bend' : 'loop';
      if (kind === 'doubled on the bight' && as === 'bend')
        return refuted(`${The(to)} has ${b.ropes.length} ropes: tied on the bight it would have one, with an eye.`);
      if (as === 'loop' && (b.ropes[0]?.eyes ?? []).length === 0)
        return refuted(
          `${The(to)} has neither a second rope nor a loop that stays, so no strand of it follows another.`,
        );
      for (const figure of [a, ...changesOfEnds(a)]) {
        const made = doubled(figure, as);
        if (!made.ok) continue;
        const like = likeness(made.value.figure, b);
        if (like) return proved(`Every strand of ${the(from)} doubled, it is ${the(to)}`, made.value.figure, b, like);
        yield 0.5;
      }
      const single = yield* firstLike(singles(b), a);
      return single
        ? open(
            `With ${single.change.says}, ${the(to)} ${is(to)} ${the(from)}; but doubled strand beside strand, ${the(from)} is another knot. The strands do not run parallel all the way.`,
          )
        : refuted(`No single strand of ${the(to)} ${is(to)} ${the(from)} by itself.`);
    }
    case 'ends exchanged': {
      const found = yield* firstLike(exchanges(a), b);
      return found
        ? proved(`With ${found.change.says}, ${the(from)} ${is(from)} ${the(to)}`, found.change.figure, b, found.like)
        : refuted(`${The(from)} with its ends exchanged, in any rope, ${is(from)} another knot than ${the(to)}.`);
    }
    case 'same structure': {
      for (const [one, other, goal] of [
        [from, to, b],
        [to, from, a],
      ] as const) {
        const found = yield* firstLike(cuts(one.figure), goal);
        if (found)
          return proved(
            `With ${found.change.says}, ${the(one)} ${is(one)} ${the(other)}`,
            found.change.figure,
            goal,
            found.like,
          );
      }
      const body = bodiesMeet(a, b);
      return body
        ? {
            state: 'proved',
            compared: `${body} Held where they lie, the ends’ parts forgotten, both have one body: their signatures are equal.`,
          }
        : refuted(`Cut at its loop or held by its ends, neither of ${the(from)} and ${the(to)} is the other.`);
    }
    case 'finished with':
    case 'made into':
    case 'backed up with': {
      const found = yield* firstLike(drawnBack(b), a);
      return found
        ? proved(`With ${found.change.says}, ${the(to)} ${is(to)} ${the(from)}`, found.change.figure, a, found.like)
        : open(
            `Drawing back an end of ${the(to)} nowhere leaves ${the(from)}: what is done to it is for you to judge.`,
          );
    }
    case 'mistaken for': {
      const list = crossingsOf(a);
      for (const c of list) {
        const like = likeness(flipped(a, [c.number]), b);
        if (like)
          return {
            state: 'proved',
            compared: `Crossing ${c.number} of ${the(from)} laid the wrong way makes it ${the(to)}${sayLikeness(like)}: one slip of the hand.`,
          };
        yield c.number / (list.length + 1);
      }
      if (alike === 'mirror')
        return { state: 'proved', compared: `They are mirror images: every crossing lies where the other’s does.` };
      const found = yield* firstLike(exchanges(a), b);
      return found
        ? {
            state: 'proved',
            compared: `With ${found.change.says}, ${the(from)} ${is(from)} ${the(to)}${sayLikeness(found.like)}: only the ends tell them apart.`,
          }
        : open(
            'No single wrong crossing makes the one into the other: that they are mistaken for each other is for you to judge.',
          );
    }
  }
}

/** A figure in one rope read from its other end. */
const changesOfEnds = (figure: Figure): readonly Figure[] =>
  figure.ropes.length === 1 ? exchanges(figure).map((c) => c.figure) : [];

/** Says which cut makes the bodies of two figures meet, if one does. */
function bodiesMeet(a: Figure, b: Figure): string | undefined {
  const bodies = (figure: Figure, says: string): readonly { readonly says: string; readonly body: string }[] => {
    const own = signatureOf(figure);
    const turned = signatureOf(mirror(figure));
    return [own, turned].flatMap((s) => (s.ok ? [{ says, body: s.value.body }] : []));
  };
  const all = (figure: Figure): readonly { readonly says: string; readonly body: string }[] => [
    ...bodies(figure, ''),
    ...cuts(figure).flatMap((c) => bodies(c.figure, 'Cut at the loop of one. ')),
  ];
  const theirs = all(b);
  for (const mine of all(a)) {
    const met = theirs.find((t) => t.body === mine.body);
    if (met) return (mine.says || met.says).trim();
  }
  return undefined;
}

/** A relation tried at once. */
export const proveKin = (kind: KinKind, from: KinKnot, to: KinKnot, more = 1): KinProof =>
  drive(proving(kind, from, to, more));
