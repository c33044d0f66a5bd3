/**
 * The verdict: whether a figure is the knot it claims to be, what it is if not, and what that rests on.
 */
import type { Figure } from '../figure/figure.js';
import { accept, type Result } from '../figure/refusal.js';
import type { KeyBook, Match } from './book.js';
import { compareFigures, marksOf, type Comparison, type Mark, type Relation } from './compare.js';
import { factsOf } from './facts.js';
import { theKnot, uncapital } from '../words/vocabulary.js';
import { signatureOf } from './signature.js';

/** A knot that a figure can be compared with. */
export interface KnownKnot {
  readonly id: string;
  readonly name: string;
  readonly figure: Figure;
}

/**
 * Holds: it is what it claims. Mirrored: of the other hand. Fails: it is not. Unclaimed: nothing is claimed, and this is what it
 * is. Unknown: nothing is claimed and no known knot has its signature.
 */
export type VerdictState = 'holds' | 'mirrored' | 'fails' | 'unclaimed' | 'unknown';

export interface Verdict {
  readonly state: VerdictState;
  readonly headline: string;
  readonly evidence: string;
  readonly claim?: { readonly id: string; readonly name: string };
  readonly relation?: Relation;
  readonly proved: boolean;
  /** Known knots that it is or is kin to, the closest first. */
  readonly matches: readonly Match[];
  readonly marks: readonly Mark[];
  readonly leftOut: readonly string[];
}

const joinNames = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) as string}`;

/** What the closest matches say, without a claim. */
function identity(matches: readonly Match[]): string | undefined {
  const same = matches.filter((m) => m.relation === 'same');
  if (same.length === 1) return `It is ${theKnot(same[0]!.name)}.`;
  if (same.length > 1)
    return `It is what several entries share: ${joinNames(same.map((m) => m.name))} are one knot, tied in more than one way.`;
  const mirrored = matches.find((m) => m.relation === 'mirror');
  if (mirrored) return `It is ${theKnot(mirrored.name)}, of the other hand.`;
  const kin = matches[0];
  if (!kin) return undefined;
  return kin.relation === 'same body, other ends'
    ? `It has the body of ${theKnot(kin.name)}, with other ends loaded.`
    : `It is ${theKnot(kin.name)} with a tail laid to the other side.`;
}

function headlineFor(claim: KnownKnot, c: Comparison, matches: readonly Match[], fallsApart: boolean): string {
  switch (c.relation) {
    case 'same':
      return `It is ${theKnot(claim.name)}.`;
    case 'same from behind':
      return `It is ${theKnot(claim.name)}, seen from behind.`;
    case 'mirror':
      return `It is ${theKnot(claim.name)} of the other hand: its mirror image.`;
    case 'same, a tail laid to the other side':
      return `It is ${theKnot(claim.name)} with a tail laid to the other side.`;
    default: {
      if (fallsApart) return `It is not ${theKnot(claim.name)}: it falls apart.`;
      const other = identity(matches.filter((m) => m.id !== claim.id));
      const what = other ? uncapital(other) : 'it is a knot without a name here.';
      return `It is not ${theKnot(claim.name)}: ${what}`;
    }
  }
}

/** The verdict on a figure. `own` are matches found elsewhere, such as among the author's own knots. */
export function verdictOf(
  figure: Figure,
  claim: KnownKnot | undefined,
  book: KeyBook,
  own: readonly Match[] = [],
): Result<Verdict> {
  const signature = signatureOf(figure);
  if (!signature.ok) return signature;
  const { fallsApart, leftOut } = signature.value;
  const known = book.matches(signature.value);
  const matches = [...known, ...own.filter((o) => known.every((k) => k.id !== o.id))];
  if (!claim) {
    const said = fallsApart ? 'Nothing holds: it falls apart.' : identity(matches);
    return accept({
      state: said && !fallsApart ? 'unclaimed' : 'unknown',
      headline: said ?? 'No known knot has its signature.',
      evidence: said
        ? 'Found by its signature among the known knots.'
        : 'Looked up by its signature, its tails laid either way, and its body.',
      proved: false,
      matches,
      marks: [],
      leftOut,
    });
  }
  const compared = compareFigures(figure, claim.figure, theKnot(claim.name));
  if (!compared.ok) return compared;
  const c = compared.value;
  const state: VerdictState =
    c.relation === 'same' || c.relation === 'same from behind'
      ? 'holds'
      : c.relation === 'mirror'
        ? 'mirrored'
        : 'fails';
  return accept({
    state,
    headline: headlineFor(claim, c, matches, fallsApart),
    evidence: c.evidence,
    claim: { id: claim.id, name: claim.name },
    relation: c.relation,
    proved: c.proved,
    matches,
    marks: c.marks,
    leftOut: c.leftOut,
  });
}

/**
 * The known knots most like a figure, by the facts that agree; only those of the same ropes, loops and hosts are looked at, so that the
 * rest can be compared.
 */
export function nearestOf(figure: Figure, known: readonly KnownKnot[], most = 3): readonly KnownKnot[] {
  const own = factsOf(figure);
  if (!own.ok) return [];
  const build = (facts: readonly { readonly name: string; readonly value: string }[]): string =>
    ['ropes', 'hosts', 'eyes'].map((n) => facts.find((f) => f.name === n)?.value ?? '').join('/');
  const shape = build(own.value);
  const scored = known.flatMap((k) => {
    const facts = factsOf(k.figure);
    if (!facts.ok || build(facts.value) !== shape) return [];
    const marks = marksOf(figure, k.figure, k.name);
    const count = (name: string): number => Number(facts.value.find((f) => f.name === name)?.value ?? 0);
    const apart = Math.abs(count('crossings') - Number(own.value.find((f) => f.name === 'crossings')?.value ?? 0));
    return [{ knot: k, off: marks.filter((m) => !m.agrees).length + apart / 100 }];
  });
  return scored
    .sort((a, b) => a.off - b.off)
    .slice(0, most)
    .map((s) => s.knot);
}
