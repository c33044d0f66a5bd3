/**
 * Discovering kin: what each knot of a library becomes by one change is looked up among all the others, by its signature. Only what is
 * found so is offered; nothing is guessed.
 */
import { passagesOf, crossingsOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { accept, type Result } from '../figure/refusal.js';
import type { Work } from '../identity/atlas.js';
import { flippedKeys, signatureOf } from '../identity/signature.js';
import { cutEye, exchangeEnds, pullOut, withoutRope } from '../identity/structure.js';
import { TooWide } from '../topology/laurent.js';
import { mirror } from '../topology/views.js';
import { doubled } from './doubled.js';
import { settingOf, type KinKnot } from './prove.js';
import type { KinKind } from './kinds.js';
import { BOTH_WAYS } from './relations.js';
import { pulledThrough } from './slipped.js';
import { turnsIn, withoutTurn } from './turns.js';

/** A knot of a library, by a reference of the caller's. */
export interface KinEntry extends KinKnot {
  readonly ref: string;
}

export interface KinOffer {
  readonly from: string;
  readonly to: string;
  readonly kind: KinKind;
  /** What was done and found: “With one turn taken out”. */
  readonly because: string;
}

/** Figures larger than this, in crossings, are compared as they are but not taken apart: each part would take seconds. */
const MOST_CROSSINGS = 60;
/** Passages drawn back at most, in search of a keeper. */
const MOST_BACK = 24;

interface Known {
  readonly key: string;
  readonly mirrorKey: string;
  readonly body: string;
  readonly fallsApart: boolean;
}

/** Reads each knot once, and finds them again by their signatures. */
class Library {
  private readonly byKey = new Map<string, string[]>();
  private readonly byBody = new Map<string, string[]>();
  readonly known = new Map<string, Known>();
  readonly figures = new Map<string, Figure>();

  add(ref: string, figure: Figure, known: Known): void {
    this.known.set(ref, known);
    this.figures.set(ref, figure);
    if (known.fallsApart) return;
    const put = (index: Map<string, string[]>, key: string): void => {
      index.set(key, [...(index.get(key) ?? []), ref]);
    };
    for (const key of new Set([known.key, known.mirrorKey])) put(this.byKey, key);
    put(this.byBody, known.body);
  }

  /** Knots that a figure is, in one hand or the other. */
  are(figure: Figure): readonly string[] {
    const found = signatureOf(figure);
    return found.ok ? this.withKey(found.value.key) : [];
  }

  withKey(key: string): readonly string[] {
    return this.byKey.get(key) ?? [];
  }

  withBody(body: string): readonly string[] {
    return this.byBody.get(body) ?? [];
  }
}

/** Looks through a library; offers come as they are found, each once. */
export function* discovering(
  entries: readonly KinEntry[],
  found: (offer: KinOffer) => void,
  /** Only relations in which one of these has a part; all, when not given. */
  about?: ReadonlySet<string>,
): Work<number> {
  const library = new Library();
  for (const [i, e] of entries.entries()) {
    const own = signatureOf(e.figure);
    const turned = own.ok ? signatureOf(mirror(e.figure)) : own;
    if (own.ok && turned.ok)
      library.add(e.ref, e.figure, {
        key: own.value.key,
        mirrorKey: turned.value.key,
        body: own.value.body,
        fallsApart: own.value.fallsApart,
      });
    yield (0.2 * i) / entries.length;
  }
  const held: KinOffer[] = [];
  const said = new Set<string>();
  /** Pairs between which more is said than a weak kinship. */
  const strong = new Set<string>();
  const offer: Offering = (from, to, kind, because) => {
    if (from === to || (about && !about.has(from) && !about.has(to))) return;
    const [a, b] = [library.known.get(from), library.known.get(to)];
    // Two drawings of one knot are no kin of each other.
    if (!a || !b || a.key === b.key) return;
    const key = `${kind} ${pairOf(kind, from, to)}`;
    if (said.has(key)) return;
    said.add(key);
    if (!WEAK.has(kind)) strong.add(pairOf(kind, from, to));
    const made = { from, to, kind, because };
    if (WEAK.has(kind) || kind === 'one more turn') held.push(made);
    else found(made);
  };
  for (const [i, e] of entries.entries()) {
    const own = library.known.get(e.ref);
    if (own && !own.fallsApart) {
      for (const other of library.withKey(own.mirrorKey))
        if (library.known.get(other)?.key === own.mirrorKey && own.mirrorKey !== own.key)
          offer(e.ref, other, 'mirrored', 'Mirrored');
      yield* tryChanges(e, library, offer);
      for (const other of library.withBody(own.body))
        if (
          !said.has(`ends exchanged ${pairOf('ends exchanged', e.ref, other)}`) &&
          !library.withKey(own.key).includes(other)
        )
          offer(e.ref, other, 'same structure', 'Held where they lie, the ends’ parts forgotten');
    }
    yield 0.2 + (0.8 * (i + 1)) / entries.length;
  }
  const turned = held.filter((o) => o.kind === 'one more turn');
  // Two turns taken out as one: what comes by way of a third knot is left to the two steps that lead there.
  const direct = turned.filter(
    (o) => !turned.some((x) => x.from === o.from && turned.some((y) => y.from === x.to && y.to === o.to)),
  );
  direct.forEach(found);
  const rest = held.filter(
    (o) => WEAK.has(o.kind) && !strong.has(`${o.from} ${o.to}`) && !strong.has(`${o.to} ${o.from}`),
  );
  rest.forEach(found);
  return said.size - held.length + direct.length + rest.length;
}

/** Kinds that say little where another kinship is found between the same two knots. */
const WEAK: ReadonlySet<KinKind> = new Set(['made into', 'mistaken for']);

const pairOf = (kind: KinKind, from: string, to: string): string =>
  BOTH_WAYS.has(kind) ? [from, to].sort().join(' ') : `${from} ${to}`;

type Offering = (from: string, to: string, kind: KinKind, because: string) => void;

function* tryChanges(e: KinEntry, library: Library, offer: Offering): Generator<number> {
  const { figure, ref } = e;
  if (crossingsOf(figure).length > MOST_CROSSINGS) return;
  const pause = 0.5;
  const becomes = (done: Result<Figure> | Figure | undefined, kind: KinKind, because: string): void => {
    if (!done) return;
    const changed = 'ok' in done ? done : accept(done);
    if (!changed.ok) return;
    const all = library.are(changed.value);
    // A change that leaves the knot what it is, in one hand or the other, says nothing.
    if (all.includes(ref)) return;
    for (const other of all) {
      const was = library.figures.get(other);
      if (kind === 'one more turn' && (!was || settingOf(was) !== settingOf(figure))) continue;
      offer(other, ref, kind, because);
    }
  };
  for (const turn of turnsIn(figure)) {
    if (turn.times > 1) continue;
    becomes(withoutTurn(figure, turn), 'one more turn', 'With one turn taken out');
    yield pause;
  }
  for (const bight of e.bights)
    becomes(pulledThrough(figure, bight), 'slipped', 'With its end pulled through the bight');
  for (const rope of figure.ropes) {
    if (rope.closed) continue;
    if ((rope.eyes ?? []).length === 1) becomes(cutEye(figure, rope.id), 'same structure', 'With its loop cut');
    if (rope.ends.includes('tail'))
      becomes(exchangeEnds(figure, rope.id), 'ends exchanged', 'Standing part and tail exchanged');
    yield pause;
    if (rope.ends[1] !== 'tail') continue;
    const passages = [...passagesOf(figure, rope.id)].reverse().slice(0, MOST_BACK);
    for (const [i, p] of passages.entries()) {
      // A single passage drawn back undoes a tuck; a keeper is more than that.
      if (i < 2) continue;
      const back = pullOut(figure, rope.id, (p.at + (passages[i + 1]?.at ?? 0)) / 2);
      becomes(back, 'made into', `With the end drawn back through its last ${i + 1} crossings`);
      yield pause;
    }
  }
  yield* trySingles(e, library, offer);
  yield* trySlips(e, library, offer);
}

/** Doubled knots: the single strand is looked up, and the relation offered when its doubling is this knot. */
function* trySingles({ figure, ref }: KinEntry, library: Library, offer: Offering): Generator<number> {
  const [rope] = figure.ropes;
  const eye = rope?.eyes?.[0];
  const single =
    figure.ropes.length === 2
      ? withoutRope(figure, (figure.ropes[1] as { readonly id: string }).id)
      : rope && eye !== undefined && !rope.closed
        ? pullOut(figure, rope.id, eye)
        : undefined;
  if (!single?.ok) return;
  const bend = figure.ropes.length === 2;
  for (const other of library.are(single.value)) {
    const made = doubled(library.figures.get(other) ?? single.value, bend ? 'bend' : 'loop');
    yield 0.5;
    if (made.ok && library.are(made.value.figure).includes(ref))
      offer(other, ref, bend ? 'followed' : 'doubled on the bight', 'Every strand doubled');
  }
}

/** Slips of the hand: one crossing laid the wrong way. */
function* trySlips({ figure, ref }: KinEntry, library: Library, offer: Offering): Generator<number> {
  const keyAfter = flippedKeys(figure);
  for (const { number } of crossingsOf(figure)) {
    try {
      for (const other of library.withKey(keyAfter([number]).key))
        offer(ref, other, 'mistaken for', `With crossing ${number} laid the wrong way`);
    } catch (error) {
      if (!(error instanceof TooWide)) throw error;
    }
    yield 0.5;
  }
}
