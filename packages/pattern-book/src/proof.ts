/**
 * The proof of a knot: everything that is found for or against it, once and for all. Server, bench and command line take it from
 * here, so none of them knows of a finding that another does not.
 */
import {
  accept,
  behaviourFindings,
  choiceOf,
  classOf,
  findingsOf,
  finishedFigure,
  keysOf,
  knotByMethod,
  layoutFindings,
  methodProofs,
  methodsOf,
  orDecline,
  relayProofs,
  tailRuleFor,
  verdictOf,
  type Classified,
  type Finding,
  type HousePractice,
  type KnotDocument,
  type KnotKeys,
  type MethodProof,
  type Refusal,
  type RelayProof,
  type Result,
  type TailRule,
  type Verdict,
  type Vocabulary,
} from '@foxtrail/core';
import { claimOf } from './claim.js';
import { exhibitFindings } from './exhibits.js';
import { footageFindings } from './footage.js';
import { gradeFinding } from './grade.js';
import { eyeFinding, patternKeys, verdictFinding } from './known.js';
import { loadedFindings } from './loaded.js';
import { practised, practiceFindings, type Practised } from './practice.js';
import { withToldKnots } from './told.js';

/** What a knot is held against. */
export interface ProofHouse {
  readonly practice: HousePractice;
  readonly words: Vocabulary;
  /** A tail rule in place of the one that the practice has for the knot's grade. */
  readonly tail?: TailRule | undefined;
}

/** What a method's finished figure was found to be. */
export interface Identity {
  readonly keys: KnotKeys;
  readonly verdict: Verdict;
  readonly classified?: Classified | undefined;
}

/** The parts of a proof: what it is; whether it suits its grade; the house's rules; layouts and methods; wrong ways and films; drawing and steps. */
export const PROOF_PARTS = ['identity', 'grade', 'practice', 'layouts', 'exhibits', 'drawing'] as const;
export type ProofPart = (typeof PROOF_PARTS)[number];

/** One piece of a proof. */
export interface ProofPiece {
  readonly part: ProofPart;
  /** Index of the method it is about. */
  readonly method: number;
  readonly findings: readonly Finding[];
  /** Why this piece could not be worked out. */
  readonly declined?: Refusal | undefined;
  readonly identity?: Identity | undefined;
  readonly layouts?: { readonly relaid: readonly RelayProof[]; readonly methods: readonly MethodProof[] } | undefined;
}

/** Which methods are proved, and which parts of their proof are wanted; without, all of them. */
export interface ProofScope {
  readonly methods?: readonly number[];
  readonly parts?: readonly ProofPart[];
}

/** Proves a knot piece by piece, method by method. Nothing is computed before it is asked for; no piece throws. */
export function* proofOf(
  knot: KnotDocument,
  house: ProofHouse,
  { methods = methodsOf(knot).map((_, i) => i), parts = PROOF_PARTS }: ProofScope = {},
): Generator<ProofPiece, void> {
  for (const method of methods) yield* proofOfMethod(knot, method, house, new Set(parts));
}

function* proofOfMethod(
  whole: KnotDocument,
  method: number,
  { practice, words, tail }: ProofHouse,
  wanted: ReadonlySet<ProofPart>,
): Generator<ProofPiece, void> {
  const knot = knotByMethod(whole, method);
  const piece = (part: ProofPart, found: Result<Omit<ProofPiece, 'part' | 'method'>>): ProofPiece =>
    found.ok ? { part, method, ...found.value } : { part, method, findings: [], declined: found };
  if (wanted.has('identity') || wanted.has('grade')) {
    const classified = classOf(finishedFigure(knot.method));
    const identity = identityOf(knot, classified);
    if (wanted.has('identity'))
      yield piece(
        'identity',
        identity.ok
          ? accept({
              identity: identity.value,
              findings: [
                ...listed(verdictFinding(identity.value.verdict, knot.entry)),
                ...listed(eyeFinding(knot.method, identity.value.verdict)),
              ],
            })
          : identity,
      );
    if (wanted.has('grade'))
      yield piece(
        'grade',
        accept({
          findings: listed(
            gradeFinding(knot, {
              matches: identity.ok ? identity.value.verdict.matches : undefined,
              class: classified.ok ? classified.value.class : undefined,
            }),
          ),
        }),
      );
  }
  let kept: Practised | undefined;
  const keptTo = (): Practised => (kept ??= practised(knot));
  if (wanted.has('practice'))
    yield piece(
      'practice',
      orDecline(() => ({
        findings: [...practiceFindings(knot, practice, keptTo()), ...loadedFindings(knot), ...behaviourFindings(knot)],
      })),
    );
  if (wanted.has('layouts'))
    yield piece(
      'layouts',
      orDecline(() => ({
        findings: layoutFindings(knot.method, method === 0 ? whole.others : []),
        // The other methods are held against the first, whichever is proved.
        layouts: { relaid: relayProofs(knot.method), methods: methodProofs(whole.method, whole.others ?? []) },
      })),
    );
  if (wanted.has('exhibits'))
    yield piece(
      'exhibits',
      orDecline(() => ({ findings: [...exhibitFindings(knot.method), ...footageFindings(knot)] })),
    );
  if (wanted.has('drawing'))
    yield piece(
      'drawing',
      orDecline(() => {
        const keeper = choiceOf(practice, 'tail-counted') === 'before the keeper' ? keptTo().keeper : undefined;
        return {
          findings: withToldKnots(
            knot.method,
            findingsOf(knot.method, {
              tail: tail ?? tailRuleFor(practice, knot.entry),
              tailFrom: keeper && new Map([[keeper.rope, keeper.from]]),
              cordMm: knot.entry.cord.diameterMm,
              words,
              pull: knot.entry.pull,
            }),
          ),
        };
      }),
    );
}

/** What a knot's finished figure is: its keys, and the verdict on what it claims. */
function identityOf(knot: KnotDocument, classified: Result<Classified>): Result<Identity> {
  const figure = finishedFigure(knot.method);
  const keys = keysOf(figure);
  if (!keys.ok) return keys;
  const claim = claimOf(knot);
  const claimed = claim && { id: claim.id, name: claim.knot.name, figure: finishedFigure(claim.knot.method) };
  const verdict = verdictOf(figure, claimed, patternKeys());
  if (!verdict.ok) return verdict;
  return accept({
    keys: keys.value,
    verdict: verdict.value,
    ...(classified.ok ? { classified: classified.value } : {}),
  });
}

const listed = (finding: Finding | undefined): readonly Finding[] => (finding ? [finding] : []);

/** All findings of the pieces of a proof; what is found of several methods in the same words is told once. */
export function findingsIn(pieces: Iterable<ProofPiece>): readonly Finding[] {
  const told = new Set<string>();
  const found: Finding[] = [];
  for (const { findings, method } of pieces)
    for (const f of findings) {
      // What points at a place is of its method; what does not may be of the knot itself.
      const placed = f.place !== undefined || f.crossings !== undefined || f.step !== undefined || f.fix !== undefined;
      const words = JSON.stringify([f.code, f.title, f.why, placed ? method : '']);
      if (!placed && told.has(words)) continue;
      told.add(words);
      found.push(f);
    }
  return found;
}
