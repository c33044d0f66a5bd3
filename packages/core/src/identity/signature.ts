/**
 * The signature: what a knot is, apart from how it is drawn.
 *
 * It is the pair of skein vectors of the tangle (one tail lifted over, then under; two tails over–under, then under–over), with those
 * of the sub-tangles left when the strands are taken out one at a time, read by role from a standing end. Of all readings that
 * mean the same thing the least is kept: another standing end first, a spar turned end for end, an eye's ends exchanged. The
 * first vector is read counterclockwise and the second clockwise, so that the view from behind exchanges the two.
 *
 * Equal signatures are evidence that two knots are the same, not a proof; see `compare`.
 */
import { DisjointSets } from '../ground/disjoint-sets.js';
import { remembered } from '../ground/remembered.js';
import { onRing, roundFrom } from '../ground/ring.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { crossingsOf, weaveFigure } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { TooWide, type Laurent } from '../topology/laurent.js';
import { readMap } from '../topology/planar-map.js';
import { slimmed } from '../topology/simplify.js';
import { skeinTerms, type SkeinTerm } from '../topology/skein.js';
import { closedStrands, flipTangle, linkingNumber, withoutStrand } from '../topology/strands.js';
import { backView } from '../topology/views.js';
import { labelOf, type EndRole } from '../topology/rim-end.js';
import { tangleOf, type LiftSide, type Tangle } from '../topology/tangle.js';

/** The tangles that a figure's signature is read from. Crossings 0 … n − 1 of each are the figure's crossings 1 … n. */
export interface Lifted {
  /** Standing end of each free tail's rope. */
  readonly tails: readonly string[];
  /** With one tail: over, under. With two: the first over and the second under, then the reverse. Else one tangle. */
  readonly tangles: readonly Tangle[];
  /** Every tail held where it lies; ends shut in are led out over what lies above them. */
  readonly held: Tangle;
  /** The same from behind, where that is another tangle: an end shut in is led out under. */
  readonly heldBehind?: Tangle;
  /** What could not be taken into account, in words. */
  readonly leftOut: readonly string[];
}

export interface Signature {
  /** The same for every drawing of a knot, from in front and from behind; 40 hexadecimal digits. */
  readonly key: string;
  /** The full readings from in front and from behind. */
  readonly front: string;
  readonly behind: string;
  /** Keys of each vector of the pair by itself; a knot whose tail is laid to the other side shares one of them. */
  readonly lays: readonly string[];
  /** The knot's body with every tail held and the ends' roles forgotten: `key`, up to rotation. */
  readonly body: string;
  /** True when nothing in it holds: every strand comes free of every other and pulls straight. */
  readonly fallsApart: boolean;
  readonly leftOut: readonly string[];
}

/** Tails that can each be lifted to a side of their own. */
const MOST_TAILS = 2;

/** Lifts a figure's tails in the ways the signature wants. Throws on a degenerate drawing: see `readMap`. */
export const liftedTangles = remembered((figure: Figure): Lifted => {
  const held = tangleOf(figure, 'held');
  const free = figure.ropes.filter((r) => !r.closed && r.ends.includes('tail')).map((r) => r.id);
  const leftOut = held.buried
    .filter((end) => end.at !== 'tail')
    .map((end) => `${end.strand}: an end that is held lies inside the knot and was led out over it`);
  const made = ((): Omit<Lifted, 'held' | 'heldBehind'> => {
    if (free.length > MOST_TAILS) {
      const note = `${free.length} free tails: each was held where it lies, so the comparison is partial`;
      return { tails: [], tangles: [held], leftOut: [...leftOut, note] };
    }
    const sides = (first: LiftSide): ReadonlyMap<string, LiftSide> =>
      new Map(free.map((rope, i) => [rope, (i === 0) === (first === 'over') ? 'over' : 'under']));
    const ways: LiftSide[] = free.length === 0 ? ['over'] : ['over', 'under'];
    return {
      tails: free.map((strand) => labelOf({ strand, at: 'standing' })),
      tangles: ways.map((w) => tangleOf(figure, sides(w))),
      leftOut,
    };
  })();
  return {
    ...made,
    held,
    ...(held.buried.length > 0 ? { heldBehind: tangleOf(backView(figure), 'held') } : {}),
  };
});

export const flipLifted = (lifted: Lifted, which: readonly number[]): Lifted => ({
  ...lifted,
  tangles: lifted.tangles.map((t) => flipTangle(t, which)),
  held: flipTangle(lifted.held, which),
  ...(lifted.heldBehind ? { heldBehind: flipTangle(lifted.heldBehind, which) } : {}),
});

/** A tangle with everything about it that does not depend on where the reading begins. */
interface Measured {
  readonly roles: readonly EndRole[];
  readonly labels: readonly string[];
  /** Rim index of each point's other end. */
  readonly partner: readonly number[];
  readonly terms: readonly SkeinTerm[];
  /** Sub-tangles: the rim index at which the strand taken out begins (−1 for a closed one), and what is left. */
  readonly without: readonly { readonly ends: readonly number[]; readonly terms: readonly SkeinTerm[] }[];
  readonly linking: string;
}

const sayPoly = (p: Laurent): string => `${p.low}:${p.coefficients.join(',')}`;

function measure(whole: Tangle, subTangles: boolean): Measured {
  const tangle = slimmed(whole);
  const labels = tangle.rim.map((p) => p.label);
  const roles = tangle.rim.map((p) => p.role);
  const partner = tangle.rim.map((p, i) => tangle.rim.findIndex((q, j) => j !== i && q.strand === p.strand));
  const closed = closedStrands(tangle);
  const strands = [...new Set(tangle.rim.filter((_, i) => roles[i] !== 'h').map((p) => p.strand)), ...closed];
  const indexOf = (point: Tangle['rim'][number]): number => tangle.rim.findIndex((p) => p.label === point.label);
  const without =
    subTangles && strands.length > 1
      ? strands.map((strand) => {
          const rest = slimmed(withoutStrand(tangle, strand));
          const back = rest.rim.map(indexOf);
          return {
            ends: tangle.rim.flatMap((p, i) => (p.strand === strand ? [i] : [])),
            terms: skeinTerms(rest).map((t) => ({
              poly: t.poly,
              pairs: t.pairs.map(([a, b]) => [back[a] as number, back[b] as number] as const),
            })),
          };
        })
      : [];
  const links = closed.flatMap((a, i) => closed.slice(i + 1).map((b) => Math.abs(linkingNumber(tangle, a, b))));
  return { roles, labels, partner, terms: skeinTerms(tangle), without, linking: links.sort((a, b) => a - b).join(',') };
}

/** Reads a measured tangle from one rim point, one way round. */
function reading(m: Measured, start: number, way: 1 | -1, role: (r: EndRole) => string = (r) => r): string {
  const n = m.roles.length;
  const place = (i: number): number => onRing((i - start) * way, n);
  const order = roundFrom(start, way, n);
  const say = (terms: readonly SkeinTerm[]): string =>
    terms
      .map(({ pairs, poly }) => {
        const placed = pairs.map(([a, b]) => [place(a), place(b)].sort((x, y) => x - y) as [number, number]);
        placed.sort((p, q) => p[0] - q[0]);
        return `${placed.map((p) => p.join('-')).join(' ')}=${sayPoly(poly)}`;
      })
      .sort()
      .join(';');
  const subs = m.without
    .map(
      (w) =>
        `${w.ends
          .map(place)
          .sort((a, b) => a - b)
          .join('-')}/${say(w.terms)}`,
    )
    .sort();
  const ends = order.map((i) => `${role(m.roles[i] as EndRole)}${place(m.partner[i] as number)}`).join('');
  return [ends, say(m.terms), ...subs, m.linking].join('|');
}

export const keyOf = (text: string): string => bytesToHex(sha256(utf8ToBytes(text))).slice(0, 40);

const least = (list: readonly string[]): string => list.reduce((a, b) => (b < a ? b : a));

/** Where a reading may begin: at a standing end, else at an eye, else at a host's end. */
function starts({ labels, roles }: Measured): string[] {
  for (const role of ['s', 'e', 'h'] as const) {
    const found = labels.filter((_, i) => roles[i] === role);
    if (found.length > 0) return found;
  }
  return [];
}

/** The first tail met, going one way round from a label. */
function firstTail({ tails }: Lifted, labels: readonly string[], from: string, way: 1 | -1): number {
  for (const i of roundFrom(labels.indexOf(from), way, labels.length)) {
    const at = tails.indexOf(labels[i] as string);
    if (at >= 0) return at;
  }
  return 0;
}

/** The pair of readings from a start, seen from in front or from behind. */
function readPair(
  lifted: Lifted,
  measured: readonly Measured[],
  start: string | undefined,
  behind: boolean,
): [string, string] {
  const [a] = measured as [Measured];
  const way = behind ? -1 : 1;
  const at = (m: Measured): number => Math.max(0, start === undefined ? 0 : m.labels.indexOf(start));
  if (measured.length < 2) return [reading(a, at(a), way), ''];
  // `measured[0]` has the first tail over. From behind, over is under and counterclockwise clockwise.
  const first = start === undefined ? 0 : firstTail(lifted, a.labels, start, way);
  const over = measured[(first === 0) === !behind ? 0 : 1] as Measured;
  const under = measured[(first === 0) === !behind ? 1 : 0] as Measured;
  return [reading(over, at(over), way), reading(under, at(under), behind ? 1 : -1)];
}

interface Readings {
  readonly whole: string;
  readonly lays: readonly string[];
}

function readView(lifted: Lifted, measured: readonly Measured[], behind: boolean): Readings {
  const where = starts(measured[0] as Measured);
  const pairs = (where.length === 0 ? [undefined] : where).map((s) => readPair(lifted, measured, s, behind));
  return {
    whole: least(pairs.map((p) => p.join('||'))),
    lays: measured.length < 2 ? [] : [0, 1].map((k) => least(pairs.map((p) => p[k] as string))),
  };
}

/** The key alone, and whether everything comes apart: what the mistake atlas asks of each changed crossing. Throws `TooWide`. */
export function keyOfLifted(lifted: Lifted): Pick<Signature, 'key' | 'fallsApart'> {
  const measured = lifted.tangles.map((t) => measure(t, true));
  const views = [false, true].map((behind) => readView(lifted, measured, behind).whole);
  return { key: keyOf(least(views)), fallsApart: measured.every(isTrivial) };
}

/** The signature of tangles that are lifted already. Throws `TooWide` when the figure is too large. */
export function signatureOfLifted(lifted: Lifted): Signature {
  const measured = lifted.tangles.map((t) => measure(t, true));
  const [front, behind] = [readView(lifted, measured, false), readView(lifted, measured, true)];
  return {
    key: keyOf(least([front.whole, behind.whole])),
    front: front.whole,
    behind: behind.whole,
    lays: [...new Set([...front.lays, ...behind.lays].map(keyOf))].sort(),
    body: bodyOf(lifted),
    fallsApart: measured.every(isTrivial),
    leftOut: lifted.leftOut,
  };
}

/** True when a vector says that the strands run from end to end as if nothing were there. */
const isTrivial = ({ terms, partner }: Measured): boolean =>
  terms.length === 1 && terms[0]!.pairs.every(([a, b]) => partner[a] === b) && sayPoly(terms[0]!.poly) === '0:1';

function bodyOf({ held, heldBehind }: Lifted): string {
  const forget = (r: EndRole): string => (r === 's' || r === 't' ? 'x' : r);
  const readings = (tangle: Tangle, way: 1 | -1): string[] => {
    const m = measure(tangle, false);
    const from = m.roles.flatMap((r, i) => (r === 's' || r === 't' ? [i] : []));
    return (from.length > 0 ? from : [0]).map((i) => reading(m, i, way, forget));
  };
  return keyOf(least([...readings(held, 1), ...(heldBehind ? readings(heldBehind, 1) : readings(held, -1))]));
}

const declined = (e: unknown): Refusal => {
  if (!(e instanceof TooWide)) throw e;
  return refuse('figure', e.message, 'Draw it with fewer strands side by side, or a smaller part of it.');
};

/** Runs a computation that may find the figure too large, and turns that into a refusal. */
export function orDecline<T>(work: () => T): Result<T> {
  try {
    return accept(work());
  } catch (e) {
    return declined(e);
  }
}

/** The figure in its connected parts: strands that cross nothing of each other can lie anywhere, so each part is read by itself. */
export function partsOf(figure: Figure): Figure[] {
  const ids = [...figure.ropes, ...figure.hosts].map((s) => s.id);
  const together = new DisjointSets(ids);
  for (const c of crossingsOf(figure)) together.join(c.first.strand, c.second.strand);
  const groups = together.groups(ids);
  if (groups.length < 2) return [figure];
  return groups
    .map((own) => ({
      ropes: figure.ropes.filter((s) => own.includes(s.id)),
      hosts: figure.hosts.filter((s) => own.includes(s.id)),
    }))
    .filter((f) => f.ropes.length > 0);
}

function joined(parts: readonly Signature[]): Signature {
  const together = (texts: readonly string[]): string => [...texts].sort().join('&');
  const [front, behind] = [together(parts.map((p) => p.front)), together(parts.map((p) => p.behind))];
  return {
    key: keyOf(least([front, behind])),
    front,
    behind,
    lays: [],
    body: keyOf(together(parts.map((p) => p.body))),
    fallsApart: parts.every((p) => p.fallsApart),
    leftOut: parts.flatMap((p) => p.leftOut),
  };
}

/** The signature of a figure, or why there is none: no rope, a degenerate drawing, a figure too large. */
export const signatureOf = remembered((figure: Figure): Result<Signature> => {
  if (figure.ropes.length === 0)
    return refuse('figure', 'There is no rope on the board.', 'Lay one from its standing part to its end.');
  const map = readMap(figure);
  if (!map.ok) return map;
  const own = partsOf(figure);
  // A part is drawn as the whole is, but what lies close may be told apart in the whole and not in it.
  for (const part of own) {
    const read = readMap(part);
    if (!read.ok) return read;
  }
  return orDecline(() => {
    const parts = own.map((part) => signatureOfLifted(liftedTangles(part)));
    return parts.length === 1 ? (parts[0] as Signature) : joined(parts);
  });
});

export type FlippedKey = Pick<Signature, 'key' | 'fallsApart'>;

/** The key of a figure after some of its crossings (by number) are swapped, for many such sets. Throws `TooWide`. */
export function flippedKeys(figure: Figure): (numbers: readonly number[]) => FlippedKey {
  if (partsOf(figure).length > 1)
    return (numbers) => {
      const found = signatureOf(flipped(figure, numbers));
      if (!found.ok) throw new TooWide(found.reason);
      return found.value;
    };
  const lifted = liftedTangles(figure);
  return (numbers) =>
    keyOfLifted(
      flipLifted(
        lifted,
        numbers.map((n) => n - 1),
      ),
    );
}

/** The figure with some of its crossings (by number) swapped. */
export function flipped(figure: Figure, numbers: readonly number[]): Figure {
  const list = crossingsOf(figure);
  const turned = new Set(list.filter((c) => numbers.includes(c.number)).map((c) => c.first));
  const over = new Set(list.flatMap((c) => (c.over === c.first ? [c.first] : [])));
  return weaveFigure(figure, (m) => over.has(m.first) !== turned.has(m.first));
}
