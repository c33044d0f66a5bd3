/**
 * Derived knots: a new draft made from an old one, with its figure, its halts and its texts, and what proves the kinship. Nothing is
 * offered that the core does not prove.
 */
import { capital } from '../words/inflect.js';
import { outerBreaks } from '../figure/breaks.js';
import { crossingsOf } from '../figure/crossings.js';
import { lastAt, ropeOf, type Figure } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { settle } from '../form/settle.js';
import type { KnotDocument } from '../knot/document.js';
import { NAME_LIMIT } from '../words/plain-text.js';
import { leftHandedEdition, leftHandedName } from '../knot/edition.js';
import { drive, type Work } from '../identity/atlas.js';
import type { KeyBook } from '../identity/book.js';
import { classOf } from '../identity/classify.js';
import { signatureOf } from '../identity/signature.js';
import { exchangeEnds } from '../identity/structure.js';
import { changeLayout } from '../tying/layout-edit.js';
import { leaderEnd, type Halt, type Layout, type Leader, type Method } from '../tying/method.js';
import type { Shown } from '../dressing/shown.js';
import { ropeWord, strandWord, WORKSHOP_WORDS, type Vocabulary } from '../words/vocabulary.js';
import { sharpBends } from '../dressing/dress.js';
import { doubled, type DoubledAs } from './doubled.js';
import { withKeeper } from './keeper.js';
import { kinKnot, proving, type KinProof } from './prove.js';
import type { KinKind } from './kinds.js';
import { sayKin } from './relations.js';
import { slippedForm } from './slipped.js';
import { turnsIn, withTurns, type Remade, type Turn } from './turns.js';

/** What is done to a knot to make another. */
export type Derivation =
  | { readonly kind: 'turns'; readonly turn: Turn; readonly more: number }
  | { readonly kind: 'slipped'; readonly rope: string }
  | { readonly kind: 'doubled'; readonly as: DoubledAs }
  | { readonly kind: 'mirrored' }
  | { readonly kind: 'ends exchanged'; readonly ropes: readonly string[] }
  | { readonly kind: 'keeper'; readonly rope: string; readonly turns: number };

/** A knot that was made, and how it is kin to the one it was made from. */
export interface Derived {
  readonly derivation: Derivation;
  readonly kin: KinKind;
  /** Turns more, where that is the kinship and they are more than one. */
  readonly count?: number;
  /** What is done, in a few words: “One more turn round the pale rope”. */
  readonly says: string;
  readonly knot: KnotDocument;
  readonly proof: KinProof;
  /** The known knot that it is. */
  readonly known?: { readonly id: string; readonly name: string };
}

const KINDS: Readonly<Record<Exclude<Derivation['kind'], 'doubled'>, KinKind>> = {
  turns: 'one more turn',
  slipped: 'slipped',
  mirrored: 'mirrored',
  'ends exchanged': 'ends exchanged',
  keeper: 'backed up with',
};
const kinOf = (d: Derivation): KinKind =>
  d.kind === 'doubled' ? (d.as === 'loop' ? 'doubled on the bight' : 'followed') : KINDS[d.kind];

/** A layout without what is shown of it: what tells one knot from its lookalikes does not tell another. */
const withoutShown = <L extends Layout>({
  marks: _marks,
  exhibits: _exhibits,
  dressings: _dressings,
  footage: _footage,
  ...layout
}: L): Omit<L, keyof Shown> => layout;

/** The first layout of a method alone: what is derived is drawn anew, so the layouts it is re-laid in do not follow. */
const firstLayout = ({ relaid: _relaid, reels: _reels, ...first }: Method): Method => withoutShown(first);

/** All layouts of a method, without what is shown of them. */
const bare = ({ reels: _reels, ...method }: Method): Method => ({
  ...withoutShown(method),
  ...(method.relaid ? { relaid: method.relaid.map(withoutShown) } : {}),
});

/** A layout after its figure is exchanged, its halts where they lie on the new one. */
function remade(layout: Method, { figure, mapping }: Remade): Result<Method> {
  return changeLayout(layout, { kind: 'redraw', figure, mapping });
}

/** A halt at the end of a leader where there is none yet. */
function haltAtEnd(layout: Method, leader: number, text?: string): Method {
  const at = leaderEnd(layout, leader);
  const there = layout.halts.some((h) => h.leader === leader && h.at > at - 0.5);
  return there ? layout : { ...layout, halts: [...layout.halts, { leader, at, ...(text ? { text } : {}) }] };
}

function slippedMethod(layout: Method, rope: string): Result<Method> {
  const made = slippedForm(layout.figure, rope);
  if (!made.ok) return made;
  const { figure, bight } = made.value;
  const index = layout.leaders.findIndex((l) => l.kind === 'end' && l.rope === rope);
  const whole = ropeOf(figure, rope);
  if (index < 0 || !whole) return refuse('method', 'No step lays that rope.', 'Place halts along it first.');
  const leaders: Leader[] = [...layout.leaders, bight];
  const next: Layout = { ...layout, figure, leaders };
  const own = (h: Halt): boolean => h.leader === index;
  // What was laid beyond the tuck is now the tail, laid at once; then the bight goes through.
  const before = layout.halts.filter((h) => !own(h) || h.at <= bight.from);
  const tail: Halt = { leader: index, at: lastAt(whole) };
  const through: Halt = { leader: leaders.length - 1, at: leaderEnd(next, leaders.length - 1) };
  return accept({ ...layout, figure, leaders, halts: [...before, tail, through] });
}

function doubledMethod(layout: Method, as: DoubledAs, words: Vocabulary): Result<Method> {
  const made = doubled(layout.figure, as);
  if (!made.ok) return made;
  const done = remade(layout, made.value);
  if (!done.ok) return done;
  const { figure } = made.value;
  const leaders: Leader[] = figure.ropes.map((r) => ({ kind: 'end', rope: r.id, from: 0 }));
  const first = figure.ropes[0]?.id ?? '';
  const rope = layout.figure.ropes[0]?.id ?? '';
  // The halts of the single knot come first; then the second strand follows.
  const halts = done.value.halts
    .filter((h) => done.value.leaders[h.leader]?.rope === first)
    .map((h) => ({ ...h, leader: 0 }))
    .filter((h) => as === 'bend' || h.at < passagesEnd(figure, first, made.value.mapping, layout.figure, rope));
  const laid: Method = { ...done.value, figure, leaders, halts };
  const text =
    as === 'loop'
      ? `Lead the ${words.workingEnd} back beside the first ${words.strand} all the way, keeping to one side.`
      : `Follow it back with ${ropeWord(words, 1)}, beside the first all the way, keeping to one side.`;
  const withFirst = as === 'bend' ? haltAtEnd(laid, 0) : laid;
  return accept(haltAtEnd(withFirst, leaders.length - 1, text));
}

/** Where the first strand of a loop ends: halts beyond it belong to the second one. */
const passagesEnd = (figure: Figure, id: string, mapping: Mapping, single: Figure, rope: string): number => {
  const whole = ropeOf(single, rope);
  const end = whole && mapPosition(mapping, { strand: rope, at: lastAt(whole) });
  return end?.at ?? lastAt(ropeOf(figure, id) ?? { points: [] });
};

function exchangedMethod(layout: Method, ropes: readonly string[]): Result<Method> {
  let figure = layout.figure;
  for (const rope of ropes) {
    const done = exchangeEnds(figure, rope);
    if (!done.ok) return done;
    figure = done.value;
  }
  const leaders: Leader[] = figure.ropes.map((r) => ({ kind: 'end', rope: r.id, from: 0 }));
  // Each exchanged rope is laid from its other end: its halts come in the reverse order, and what they said is no longer so.
  const halts = figure.ropes.flatMap((r, leader): Halt[] => {
    const end = lastAt(r);
    const turned = ropes.includes(r.id);
    const own = layout.halts.filter((h) => layout.leaders[h.leader]?.rope === r.id);
    if (!turned) return own.map((h) => ({ ...h, leader }));
    const places = own.map((h) => end - h.at).filter((at) => at > 0.5 && at < end - 0.5);
    return [...new Set([...places.sort((a, b) => a - b), end])].map((at) => ({ leader, at }));
  });
  return accept({ ...layout, figure, leaders, halts });
}

function methodAfter(method: Method, d: Derivation, words: Vocabulary): Result<Method> {
  const layout = firstLayout(method);
  switch (d.kind) {
    case 'turns': {
      const made = withTurns(layout.figure, d.turn, d.more);
      return made.ok ? remade(layout, made.value) : made;
    }
    case 'slipped':
      return slippedMethod(layout, d.rope);
    case 'doubled':
      return doubledMethod(layout, d.as, words);
    case 'ends exchanged':
      return exchangedMethod(layout, d.ropes);
    case 'keeper': {
      const made = withKeeper(layout.figure, d.rope, d.turns);
      if (!made.ok) return made;
      const done = remade(layout, made.value);
      if (!done.ok) return done;
      const leader = done.value.leaders.findIndex((l) => l.kind === 'end' && l.rope === d.rope);
      return leader < 0 ? done : accept(haltAtEnd(done.value, leader));
    }
    case 'mirrored':
      return accept(layout);
  }
}

/** Longest of what is added to a name, in characters. */
const LONGEST_ADDITION = 16;
const MORE: Readonly<Record<string, string>> = { double: 'Triple', triple: 'Four-turn' };

/** What a derived knot is called until its author names it. */
function nameAfter(name: string, d: Derivation): string {
  const stem = name.slice(0, NAME_LIMIT - LONGEST_ADDITION);
  switch (d.kind) {
    case 'turns': {
      const counted = /^(double|triple) (.+)$/i.exec(stem);
      return counted && d.more === 1
        ? `${MORE[(counted[1] as string).toLowerCase()] as string} ${counted[2] as string}`
        : `${stem}, ${d.more === 1 ? 'one more turn' : `${d.more} more turns`}`;
    }
    case 'slipped':
      return `${stem}, slipped`;
    case 'doubled':
      return d.as === 'loop' ? `${stem} on the bight` : `${stem}, followed`;
    case 'mirrored':
      return leftHandedName(name);
    case 'ends exchanged':
      return `${stem}, ends exchanged`;
    case 'keeper':
      return `${stem} with a keeper`;
  }
}

function sayDerivation(figure: Figure, d: Derivation, words: Vocabulary): string {
  const called = (id: string): string => {
    const alone = figure.ropes.length === 1 && figure.ropes[0]?.id === id;
    return alone ? `its own ${words.strand}` : strandWord(words, figure, id);
  };
  const by = (id: string): string => (figure.ropes.length > 1 ? `, in ${called(id)}` : '');
  switch (d.kind) {
    case 'turns': {
      const round = d.turn.about.map((id) => (id === d.turn.rope ? `its own ${words.strand}` : called(id)));
      return `${d.more === 1 ? 'One more turn' : `${d.more} more turns`} round ${[...new Set(round)].join(' and ')}`;
    }
    case 'slipped':
      return `Slipped${by(d.rope)}: the last tuck goes through as a ${words.bight}`;
    case 'doubled':
      return d.as === 'loop' ? `Tied in doubled ${words.rope}, with an eye` : `Followed back by a second ${words.rope}`;
    case 'mirrored':
      return 'Mirrored: for the other hand';
    case 'ends exchanged':
      return d.ropes.length === 1 && figure.ropes.length > 1
        ? `${words.standingPart} and ${words.tail} exchanged in ${called(d.ropes[0] as string)}`
        : `${words.standingPart} and ${words.tail} exchanged`;
    case 'keeper':
      return `With a keeper of ${d.turns === 1 ? 'one turn' : `${d.turns} turns`} round its ${words.standingPart}${by(d.rope)}`;
  }
}

/** What was laid on between strands that lie close is drawn as rope lies, where that can be done. */
function asRopeLies(layout: Layout, before: Figure): Layout {
  const whole = { ...layout, figure: outerBreaks(layout.figure) };
  if (crossingsOf(whole.figure).length === crossingsOf(before).length) return whole;
  const settled = settle(whole.figure);
  const laid = settled.ok ? changeLayout(whole, { kind: 'redraw', ...settled.value }) : settled;
  return laid.ok ? laid.value : whole;
}

/** Makes one knot from another, and proves how they are kin; refused where it cannot be made or is not proved. */
export function* derivingOne(
  knot: KnotDocument,
  derivation: Derivation,
  book: KeyBook,
  words: Vocabulary = WORKSHOP_WORDS,
): Work<Result<Derived>> {
  const method = methodAfter(knot.method, derivation, words);
  if (!method.ok) return method;
  const made = derivation.kind === 'mirrored' ? leftHandedEdition(knot) : undefined;
  const layout = made ? bare(made.method) : asRopeLies(method.value, knot.method.figure);
  const count = derivation.kind === 'turns' && derivation.more > 1 ? derivation.more : undefined;
  const kin = kinOf(derivation);
  const from = kinKnot(knot.name, made ? knot.method : firstLayout(knot.method));
  yield 0.3;
  const signature = signatureOf(kinKnot('', layout).figure);
  if (!signature.ok) return signature;
  // A bight that goes through holds nothing by itself: the slipped form is not the knot that is left when it is drawn out.
  const known =
    derivation.kind === 'slipped' ? undefined : book.named(signature.value.key).find((m) => m.relation === 'same');
  const name = known?.name ?? nameAfter(knot.name, derivation);
  const proof = yield* proving(kin, from, kinKnot(name, layout), count);
  if (proof.state !== 'proved')
    return refuse(
      'figure',
      `Drawn so, it is not proved: ${proof.compared}`,
      'Draw the knot more openly in Draft, or make the change there by hand.',
    );
  const classified = classOf(kinKnot('', layout).figure);
  const { wrongWayOf: _wrong, judged: _judged, behaviour: _behaviour, claim, ...entry } = made?.entry ?? knot.entry;
  return accept({
    derivation,
    kin,
    ...(count === undefined ? {} : { count }),
    says: capital(sayDerivation(knot.method.figure, derivation, words)),
    proof,
    ...(known ? { known: { id: known.id, name: known.name } } : {}),
    knot: {
      ...(made ?? knot),
      name,
      entry: {
        ...entry,
        aliases: [],
        class: classified.ok ? classified.value.class : entry.class,
        // Nobody has judged or tried the new knot yet.
        useGrade: 'light duty',
        summary: sayKin(kin, knot.name, name, count),
        // The other hand of a knot is meant to be that knot; anything else is what it was found to be.
        claim: made ? claim : (known?.id ?? 'none'),
      },
      method: layout,
      ...(made ? {} : { methodName: undefined, others: undefined }),
    },
  });
}

/** The same turn laid several times more, or a keeper of so many turns. Where there is no room beside it, beside another that makes the same knot. */
export function* derivingTurns(
  knot: KnotDocument,
  once: Derived,
  more: number,
  book: KeyBook,
  words: Vocabulary = WORKSHOP_WORDS,
): Work<Result<Derived>> {
  if (once.derivation.kind === 'keeper')
    return yield* derivingOne(knot, { ...once.derivation, turns: more }, book, words);
  if (once.derivation.kind !== 'turns') return refuse('turns', 'That adds no turn.', 'Choose a turn.');
  const { figure } = knot.method;
  const goal = signatureOf(once.knot.method.figure);
  const own = yield* derivingOne(knot, { ...once.derivation, more }, book, words);
  if (own.ok || !goal.ok) return own;
  for (const turn of turnsIn(figure)) {
    const made = withTurns(figure, turn);
    const signature = made.ok ? signatureOf(made.value.figure) : made;
    yield 0.5;
    if (!signature.ok || signature.value.key !== goal.value.key) continue;
    const done = yield* derivingOne(knot, { kind: 'turns', turn, more }, book, words);
    if (done.ok) return done;
  }
  return own;
}

/** Every change that a knot's drawing allows, most turns first laid where they are drawn best. */
function* changesOf(figure: Figure): Generator<Derivation> {
  for (const turn of turnsIn(figure)) if (turn.times === 1) yield { kind: 'turns', turn, more: 1 };
  const own = figure.ropes.filter((r) => !r.closed && r.ends[1] === 'tail');
  for (const r of own) yield { kind: 'slipped', rope: r.id };
  if (figure.ropes.length === 1 && own.length === 1)
    for (const as of ['loop', 'bend'] as const) yield { kind: 'doubled', as };
  yield { kind: 'mirrored' };
  for (const r of own) yield { kind: 'ends exchanged', ropes: [r.id] };
  if (own.length > 1) yield { kind: 'ends exchanged', ropes: own.map((r) => r.id) };
  for (const r of own) yield { kind: 'keeper', rope: r.id, turns: 1 };
}

/** A loss of legibility: sharp bends weigh most, then the number of crossings. */
const badness = (d: Derived): number =>
  100 * sharpBends(d.knot.method.figure).length + crossingsOf(d.knot.method.figure).length;

/** Turns tried: those of a large knot are many, and most of them make the same knots. */
const MOST_TURNS_TRIED = 40;

/**
 * All that can be made of a knot, each different one once, drawn as well as it can be. Yields what is known so far with its share of the
 * work, so that it can be shown as it comes.
 */
export function* deriving(
  knot: KnotDocument,
  book: KeyBook,
  words: Vocabulary = WORKSHOP_WORDS,
  found: (all: readonly Derived[]) => void = () => undefined,
): Work<readonly Derived[]> {
  const { figure } = knot.method;
  const own = signatureOf(figure);
  if (!own.ok) return [];
  let turns = 0;
  const list = [...changesOf(figure)].filter((d) => d.kind !== 'turns' || (turns += 1) <= MOST_TURNS_TRIED);
  const best = new Map<string, Derived>();
  for (const [i, change] of list.entries()) {
    yield i / list.length;
    const made = drive(derivingOne(knot, change, book, words));
    if (!made.ok) continue;
    const signature = signatureOf(kinKnot('', made.value.knot.method).figure);
    // What comes out as the knot itself is nothing new: a knot that is its own mirror image, ends that do not matter.
    if (!signature.ok || signature.value.key === own.value.key) continue;
    const key = `${made.value.kin} ${signature.value.key}`;
    const there = best.get(key);
    if (there && badness(there) <= badness(made.value)) continue;
    best.set(key, made.value);
    found(ranked(legible([...best.values()], figure)));
  }
  return ranked(legible([...best.values()], figure));
}

/** Turns drawn so tightly that they kink are left out, unless there are no others. */
function legible(all: readonly Derived[], figure: Figure): readonly Derived[] {
  const before = sharpBends(figure).length;
  const clear = (d: Derived): boolean => d.kin !== 'one more turn' || sharpBends(d.knot.method.figure).length <= before;
  return all.some((d) => d.kin === 'one more turn' && clear(d)) ? all.filter(clear) : all;
}

/** Of the same kind, knots that have a name come first, then those whose turns go round most. */
function ranked(all: readonly Derived[]): readonly Derived[] {
  const turned = ({ derivation: d }: Derived): number => (d.kind === 'turns' ? d.turn.passages : 0);
  const order = [...new Set(all.map((d) => d.kin))];
  return [...all].sort(
    (a, b) =>
      order.indexOf(a.kin) - order.indexOf(b.kin) ||
      Number(b.known !== undefined) - Number(a.known !== undefined) ||
      turned(b) - turned(a),
  );
}
