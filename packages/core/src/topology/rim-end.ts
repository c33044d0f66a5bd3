/** The ends of a tangle: what each point of its rim is on the bench. */
import { lastAt, type Rope } from '../figure/figure.js';

export type RimEnd =
  /** A rope's end: standing, a tail, or the far end of one that is no tail. */
  | { readonly strand: string; readonly at: 'standing' | 'tail' | 'far' }
  /** One of the two ends of a cut at an eye, counted along the rope; `before` and `after` the cut. */
  | { readonly strand: string; readonly at: 'eye'; readonly eye: number; readonly side: 'before' | 'after' }
  /** An end of an open host. */
  | { readonly strand: string; readonly at: 'left' | 'right' };

/** What an end is: standing, tail, eye or host. */
export type EndRole = 's' | 't' | 'e' | 'h';

const ROLES: Readonly<Record<RimEnd['at'], EndRole>> = {
  standing: 's',
  far: 's',
  tail: 't',
  eye: 'e',
  left: 'h',
  right: 'h',
};

export const roleOf = (end: RimEnd): EndRole => ROLES[end.at];

const SIGNS: Readonly<Record<Exclude<RimEnd['at'], 'eye'>, string>> = {
  standing: 's',
  far: 's2',
  tail: 't',
  left: 'L',
  right: 'R',
};

/** The end as one word, for files and as a key: `a.s`, `a.t`, `a.s2`, `a.e0a`, `spar.L`. Different ends have different words. */
export const labelOf = (end: RimEnd): string =>
  end.at === 'eye' ? `${end.strand}.e${end.eye}${end.side === 'before' ? 'a' : 'b'}` : `${end.strand}.${SIGNS[end.at]}`;

export interface RopeEnd {
  /** Trail position. */
  readonly at: number;
  readonly end: RimEnd;
}

/** The two ends of an open rope, the standing one first: a rope whose trail begins with its only tail is taken the other way round. */
export function ropeEnds(rope: Rope): readonly [RopeEnd, RopeEnd] {
  const backwards = rope.ends[0] === 'tail' && rope.ends[1] !== 'tail';
  const [near, far] = backwards ? [lastAt(rope), 0] : [0, lastAt(rope)];
  const isTail = rope.ends[backwards ? 0 : 1] === 'tail';
  return [
    { at: near, end: { strand: rope.id, at: 'standing' } },
    { at: far, end: { strand: rope.id, at: isTail ? 'tail' : 'far' } },
  ];
}
