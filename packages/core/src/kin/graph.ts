/**
 * The graph of kin: knots of the shelf and of the pattern book, and what leads from one to another. A pattern that the shelf has a knot of
 * gives its place, and its relations, to that knot.
 */
import type { KinKind, KinState } from './kinds.js';
import { differenceOf } from './relations.js';

/** A relation as it is stated, between references like `knot:…` and `pattern:…`. */
export interface KinLink {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly kind: KinKind;
  readonly turns: number;
  readonly proof: { readonly state: KinState; readonly compared: string } | null;
  readonly judged: { readonly by: string | null; readonly why: string } | null;
}

/** Knots by the pattern they stand for: the first on the shelf of each. */
export type StandIns = ReadonlyMap<string, string>;

/** A relation counts as shown when it is proved, or judged and not refuted. */
export const standingOf = ({
  proof,
  judged,
}: Pick<KinLink, 'proof' | 'judged'>): 'proved' | 'judged' | 'refuted' | 'open' | 'waiting' =>
  proof === null ? 'waiting' : proof.state === 'open' && judged !== null ? 'judged' : proof.state;

/** Relations with every pattern that a knot stands for taken over by it; where two then say the same, the knot's own stays. */
export function foldedLinks<L extends KinLink>(links: readonly L[], standIns: StandIns): readonly L[] {
  const own = (ref: string): string => standIns.get(ref) ?? ref;
  const kept = new Map<string, L>();
  const folded = links.map((l) => ({ l, moved: { ...l, from: own(l.from), to: own(l.to) } }));
  const isOwn = ({ l, moved }: (typeof folded)[number]): boolean => l.from === moved.from && l.to === moved.to;
  for (const { moved } of [...folded.filter(isOwn), ...folded.filter((f) => !isOwn(f))]) {
    if (moved.from === moved.to) continue;
    const key = `${moved.kind} ${moved.from} ${moved.to}`;
    if (!kept.has(key)) kept.set(key, moved);
  }
  return [...kept.values()];
}

export interface Neighbour<L extends KinLink> {
  readonly ref: string;
  /** What the neighbour is, seen from the knot: “one more turn”. */
  readonly difference: string;
  readonly link: L;
}

/** The neighbours of a knot, the proved ones first. */
export function neighboursOf<L extends KinLink>(links: readonly L[], ref: string): readonly Neighbour<L>[] {
  const order = ['proved', 'judged', 'open', 'waiting', 'refuted'];
  return links
    .flatMap((link): Neighbour<L>[] => [
      ...(link.from === ref ? [{ ref: link.to, difference: differenceOf(link.kind, true, link.turns), link }] : []),
      ...(link.to === ref ? [{ ref: link.from, difference: differenceOf(link.kind, false, link.turns), link }] : []),
    ])
    .sort((a, b) => order.indexOf(standingOf(a.link)) - order.indexOf(standingOf(b.link)));
}
