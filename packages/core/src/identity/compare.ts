/**
 * Compare two figures: same, same from behind, mirror, a tail laid to the other side, same body with other ends, or different;
 * with the facts that agree and those that do not.
 *
 * Equal signatures are evidence; equal codes of the reduced diagrams are a proof, and are said to be one.
 */
import { remembered } from '../ground/remembered.js';
import { capital } from '../words/inflect.js';
import { roundFrom } from '../ground/ring.js';
import type { Figure } from '../figure/figure.js';
import { accept, type Result } from '../figure/refusal.js';
import { codeBehind, codeOf, simplify, type Simplified } from '../topology/simplify.js';
import type { RimPoint, Tangle } from '../topology/tangle.js';
import { mirror } from '../topology/views.js';
import { factsOf, type FactName } from './facts.js';
import { liftedTangles, partsOf, signatureOf, type Signature } from './signature.js';

export type Relation =
  | 'same'
  | 'same from behind'
  | 'mirror'
  | 'same, a tail laid to the other side'
  | 'same body, other ends'
  | 'different';

export interface Mark {
  readonly name: FactName;
  readonly agrees: boolean;
  /** A sentence in an author's words. */
  readonly text: string;
}

export interface Comparison {
  readonly relation: Relation;
  /** True when the relation rests on equal codes of the reduced diagrams, and not on the signatures alone. */
  readonly proved: boolean;
  /** What was compared and found, one sentence. */
  readonly evidence: string;
  readonly marks: readonly Mark[];
  readonly leftOut: readonly string[];
}

/** How two signatures stand to each other; `mirrored` is the first figure's mirror image. */
export function relate(a: Signature, mirrored: Signature | undefined, b: Signature): Relation {
  if (a.key === b.key) return a.front === b.front ? 'same' : 'same from behind';
  if (mirrored?.key === b.key) return 'mirror';
  if (a.lays.some((l) => b.lays.includes(l))) return 'same, a tail laid to the other side';
  if (a.body === b.body || mirrored?.body === b.body) return 'same body, other ends';
  return 'different';
}

/** States of the search over R3 that a proof may take: a moment's work. */
const PROOF_LIMIT = 200;

const reduce = remembered((tangle: Tangle): Simplified => simplify(tangle, PROOF_LIMIT));

/**
 * The codes of a tangle's reduced diagrams with labelled ends, from in front or from behind, read from each standing end (or each end,
 * when none stands). The codes
 * of one tangle drawn in two ways share a member as soon as the search finds it.
 */
function codes(tangle: Tangle, behind = false): Set<string> {
  const { forms } = reduce(tangle);
  const standing = tangle.rim.flatMap((p, i) => (p.role === 's' ? [i] : []));
  const starts = standing.length > 0 ? standing : tangle.rim.map((_, i) => i);
  const n = tangle.rim.length;
  return new Set(
    forms.flatMap((form) =>
      (starts.length === 0 ? [0] : starts).map((s) => {
        const roles = roundFrom(s, behind ? -1 : 1, n).map((i) => (tangle.rim[i] as RimPoint).role);
        return `${roles.join('')} ${behind ? codeBehind(form, s) : codeOf(form, s, 1)}`;
      }),
    ),
  );
}

const meet = (a: Set<string>, b: Set<string>): boolean => [...a].some((c) => b.has(c));

/** True when the reduced diagrams of both figures' tangles are equal: from in front, or one of them from behind. */
export function provedSame(a: Figure, b: Figure): boolean {
  const [p, q] = [liftedTangles(a).tangles, liftedTangles(b).tangles];
  if (p.length !== q.length) return false;
  const pairs = (behind: boolean): boolean =>
    p.every((t, i) => {
      // From behind, the tail that is over is under, and the order of the ends is read the other way round.
      const other = q[behind ? q.length - 1 - i : i] as Tangle;
      return meet(codes(t), codes(other, behind));
    });
  return pairs(false) || pairs(true);
}

const sentence = (text: string): string => `${capital(text)}.`;

/** The facts of two figures side by side. `other` names the second: “the pattern”, “Reef knot”. */
export function marksOf(a: Figure, b: Figure, other: string): readonly Mark[] {
  const [mine, theirs] = [factsOf(a), factsOf(b)];
  if (!mine.ok || !theirs.ok) return [];
  return mine.value.flatMap((fact): Mark[] => {
    const match = theirs.value.find((f) => f.name === fact.name);
    if (!match)
      return [{ name: fact.name, agrees: false, text: sentence(`this figure ${fact.phrase}, ${other} does not`) }];
    const agrees = match.value === fact.value;
    const text = agrees ? `it ${fact.phrase}` : `this figure ${fact.phrase}; ${other} ${match.phrase}`;
    return [{ name: fact.name, agrees, text: sentence(text) }];
  });
}

/** Compares a figure with another one, named `other` in the sentences. */
export function compareFigures(a: Figure, b: Figure, other = 'the pattern'): Result<Comparison> {
  const [p, q] = [signatureOf(a), signatureOf(b)];
  // Too large for a signature, what hangs together may still have one code in both drawings.
  if ((!p.ok || !q.ok) && partsOf(a).length === 1 && partsOf(b).length === 1 && provedSame(a, b))
    return accept({
      relation: 'same',
      proved: true,
      evidence: evidenceFor('same', true, other),
      marks: marksOf(a, b, other),
      leftOut: [],
    });
  if (!p.ok) return p;
  if (!q.ok) return q;
  const turned = mirror(a);
  const mirrored = signatureOf(turned);
  const relation = relate(p.value, mirrored.ok ? mirrored.value : undefined, q.value);
  const proved =
    relation === 'same' || relation === 'same from behind'
      ? provedSame(a, b)
      : relation === 'mirror' && provedSame(turned, b);
  return accept({
    relation,
    proved,
    evidence: evidenceFor(relation, proved, other),
    marks: marksOf(a, b, other),
    leftOut: [...new Set([...p.value.leftOut, ...q.value.leftOut])],
  });
}

export function evidenceFor(relation: Relation, proved: boolean, other: string): string {
  const how = proved
    ? 'Proved: reduced as far as they go, both drawings have the same code.'
    : 'The signatures are equal: strong evidence, though not a proof.';
  switch (relation) {
    case 'same':
    case 'same from behind':
    case 'mirror':
      return how;
    case 'same, a tail laid to the other side':
      return `One vector of the pair agrees with that of ${other}: only a tail lies otherwise.`;
    case 'same body, other ends':
      return `Held where they lie and their parts forgotten, the ends make the body of ${other}; other ends are loaded.`;
    case 'different':
      return `The signature differs from that of ${other}, and no change of view makes them equal.`;
  }
}
