/**
 * What is pulled when a knot is set: its ends and loops, how hard each, and which of them first.
 */
import type { PartPull, Strength } from '../dressing/dressed.js';
import { lastAt, ropeOf, type Figure, type TrailPosition } from '../figure/figure.js';
import { strandWord, type Vocabulary } from '../words/vocabulary.js';
import type { Pull } from './beads.js';
import { placeOf, type Chain, type Form, type Outlet } from './form.js';
import type { Vector } from './vector.js';

/** How one moment of pulling pulls each part. */
export type PullOf = (outlet: Outlet, chain: Chain) => Pull;

/** A part that can be pulled, and how hard it is pulled by itself. */
export interface PulledPart extends PartPull {
  readonly kind: Outlet['kind'];
}

/** How the parts are to be pulled, where it is not as by themselves. */
export interface PullWishes {
  readonly inTurn?: boolean | undefined;
  readonly pulls?: readonly PartPull[] | undefined;
}

/** The tension of a loaded end, of a leg of a loop, of a tail drawn snug by hand, and of what nobody pulls. */
const TENSION = { end: 1, eye: 0.7, tail: 0.6, slack: 0.12 } as const;

/** Which parts of a figure are pulled by themselves, how strongly, and by whom. */
function byThemselves(figure: Figure, { chains, solids }: Form): PullOf {
  const outlets = chains.flatMap((c) => c.outlets);
  const loaded = outlets.filter((o) => o.kind !== 'tail' && o.kind !== 'eye').length;
  const eyes = outlets.filter((o) => o.kind === 'eye').length;
  // A knot in the end of a rope that holds nothing else is drawn tight between both its ends.
  const stopper = figure.ropes.length === 1 && solids.length === 0 && eyes === 0;
  const byEye = (): number => {
    if (solids.length > 0 || figure.ropes.length > 1) return 1;
    return loaded > 1 ? 0 : TENSION.end / (2 * TENSION.eye);
  };
  return ({ kind }) => {
    if (kind === 'eye') return { tension: TENSION.eye, held: byEye() };
    if (kind === 'tail') return stopper ? { tension: TENSION.end, held: 1 } : { tension: TENSION.tail, held: 0 };
    return { tension: TENSION.end, held: 1 };
  };
}

/** How hard a part is pulled by itself, in an author's words. */
const strengthOf = ({ tension }: Pull): Strength => (tension === TENSION.tail ? 'by hand' : 'loaded');

function pulledAs(strength: Strength, { kind }: Outlet, own: Pull): Pull {
  if (strength === strengthOf(own)) return own;
  if (strength === 'slack') return { ...own, tension: TENSION.slack };
  if (strength === 'by hand') return { tension: TENSION.tail, held: kind === 'tail' ? 0 : own.held };
  return kind === 'eye' ? own : { tension: TENSION.end, held: 1 };
}

/** Where on its trail an outlet is: its end, or its eye. */
function placeOfOutlet(figure: Figure, { rope, at, closed }: Chain, o: Outlet): TrailPosition {
  const drawn = ropeOf(figure, rope);
  if (o.kind === 'eye' || closed || !drawn) return { strand: rope, at: at[(o.first + o.last) >> 1]! };
  return { strand: rope, at: o.first === 0 ? 0 : lastAt(drawn) };
}

/** The parts of a lifted figure that can be pulled: standing parts, then loops, then tails; each as it is pulled by itself. */
export function partsPulled(figure: Figure, lifted: Form): PulledPart[] {
  const own = byThemselves(figure, lifted);
  const order: readonly Outlet['kind'][] = ['standing', 'off', 'eye', 'tail'];
  return lifted.chains
    .flatMap((chain) =>
      chain.outlets.map((o) => ({
        place: placeOfOutlet(figure, chain, o),
        pulled: strengthOf(own(o, chain)),
        kind: o.kind,
      })),
    )
    .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind));
}

const ORDER = ['first', 'second', 'third', 'fourth'] as const;

/** What the parts of a knot are called: by their rope where there are several, by their order where they would be called alike. */
export function namesOfParts(figure: Figure, parts: readonly PulledPart[], words: Vocabulary): string[] {
  const plain = parts.map(({ kind, place }) => {
    const part = kind === 'eye' ? words.eye : kind === 'tail' ? words.tail : words.standingPart;
    return figure.ropes.length > 1 ? `${part} of ${strandWord(words, figure, place.strand)}` : part;
  });
  return plain.map((name, i) => {
    const alike = plain.flatMap((other, j) => (other === name ? [j] : []));
    return alike.length > 1 ? `${ORDER[alike.indexOf(i)] ?? 'another'} ${name}` : name;
  });
}

/** The index of what is asked of a part, by its place and those of its rope's parts: each wish is of the part nearest to it. */
function askedOf({ strand, at }: TrailPosition, parts: readonly TrailPosition[], pulls: readonly PartPull[]): number {
  const own = parts.filter((p) => p.strand === strand);
  return pulls.findIndex(
    ({ place }) =>
      place.strand === strand && Math.abs(at - place.at) === Math.min(...own.map((p) => Math.abs(p.at - place.at))),
  );
}

/** What is asked of the parts of a knot, spelled out: of every part how it is pulled, in the order in which it is. */
export function spelledOut(parts: readonly PulledPart[], pulls: readonly PartPull[] = []): readonly PulledPart[] {
  const places = parts.map((p) => p.place);
  const turns = new Map(parts.map((p) => [p, askedOf(p.place, places, pulls)]));
  const order = (p: PulledPart): number => {
    const turn = turns.get(p) ?? -1;
    return turn < 0 ? pulls.length : turn;
  };
  return [...parts]
    .sort((a, b) => order(a) - order(b))
    .map((p) => ({ ...p, pulled: pulls[turns.get(p) ?? -1]?.pulled ?? p.pulled }));
}

const asked = (figure: Figure, pulls: readonly PartPull[], outlet: Outlet, chain: Chain): number =>
  askedOf(
    placeOfOutlet(figure, chain, outlet),
    chain.outlets.map((o) => placeOfOutlet(figure, chain, o)),
    pulls,
  );

/** An end of a rope that carries the load: where it is held, and the way it is pulled. */
export interface Load {
  readonly kind: Outlet['kind'];
  readonly place: Vector;
  readonly way: Vector;
}

/** The ends that carry the load. */
export function loadsOf(figure: Figure, { chains }: Form, { pulls = [] }: PullWishes): Load[] {
  const ends = chains.flatMap((chain) => chain.outlets.flatMap((o) => (o.kind === 'eye' ? [] : [{ o, chain }])));
  const byItself = ({ o }: (typeof ends)[number]): boolean => o.kind !== 'tail';
  const loaded = ends.filter((end) => {
    const wish = pulls[asked(figure, pulls, end.o, end.chain)];
    return wish ? wish.pulled === 'loaded' : byItself(end);
  });
  return (loaded.length > 0 ? loaded : ends.filter(byItself)).map(({ o, chain }) => ({
    kind: o.kind,
    place: placeOf(chain.x, o.first),
    way: o.way,
  }));
}

/** How the parts are pulled, moment after moment: the last with all of them. */
export function stagesOf(figure: Figure, lifted: Form, { inTurn, pulls = [] }: PullWishes): readonly PullOf[] {
  const own = byThemselves(figure, lifted);
  const all: PullOf = (o, chain) => {
    const wish = pulls[asked(figure, pulls, o, chain)];
    return wish ? pulledAs(wish.pulled, o, own(o, chain)) : own(o, chain);
  };
  if (inTurn !== true) return [all];
  const before = pulls.slice(0, -1).map((_, turn): PullOf => (o, chain) => {
    const index = asked(figure, pulls, o, chain);
    const isPulled = index >= 0 && index <= turn;
    return isPulled ? all(o, chain) : pulledAs('slack', o, own(o, chain));
  });
  return [...before, all];
}
