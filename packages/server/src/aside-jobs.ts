/**
 * What is computed aside, in processes of their own: reading a document, examining it, its left-handed edition, proofs of kinship, pages
 * and sheets. Orders and answers are plain data.
 */
import type { InSpace, PublicKnot } from '@foxtrail/contract';
import {
  accept,
  cautionsFor,
  conceptsIn,
  conceptSchema,
  crossingsOf,
  finishedFigure,
  FINISH_ORDER,
  kinKnot,
  KIN_KINDS,
  leftHandedEdition,
  howToSet,
  keysOf,
  lessonCheck,
  lessonTexts,
  mergeGlossary,
  mirroredSetting,
  proveKin,
  readGlossaryCsv,
  readKnot,
  sayRefusal,
  setNow,
  STATION_NAMES,
  stepsOf,
  vocabularyFor,
  wordedOf,
  writeKnot,
  type Concept,
  type Entry,
  type FigureFile,
  type Glossary,
  type HousePractice,
  type Incoming,
  type KinKnot,
  type KinProof,
  type KnotDocument,
  type Merged,
  type Resolution,
  type Result,
  type Station,
  type Vocabulary,
  type WordChoice,
} from '@foxtrail/core';
import { NO_FACTS, type KnotFacts } from '@foxtrail/core/assembly';
import { demonstration } from '@foxtrail/core/reel';
import { writeForm, finishFace, formSvg, slipInHand, slipsToSet } from '@foxtrail/core/form';
import {
  claimOf,
  conceptOfPattern,
  findingsIn,
  patternKeys,
  patternKin,
  patternOf,
  proofOf,
  withExhibitsRetold,
} from '@foxtrail/pattern-book';
import {
  knotPage,
  layPage,
  mayBeLaid,
  mayBeTraced,
  practicePage,
  yoursPage,
  type PageFrame,
  type Shown,
  type CourseOnPages,
} from '@foxtrail/lesson';
import { identityIn, type StoredIdentity } from './identity.js';
import { sheetSvg, thumbnail, type FinishFaces } from './pictures.js';

/** What the shelf shows of a document before it is examined. */
export interface ReadDocument {
  readonly document: FigureFile;
  readonly name: string;
  readonly entry: Entry;
  /** The pattern it is meant to be. */
  readonly claim: string | null;
  readonly crossings: number;
  readonly steps: number;
}

const seen = (knot: KnotDocument): ReadDocument => ({
  document: writeKnot(knot),
  name: knot.name,
  entry: knot.entry,
  claim: claimOf(knot)?.id ?? null,
  crossings: crossingsOf(finishedFigure(knot.method)).length,
  steps: stepsOf(knot.method).length,
});

/** Checks a document. */
export function read({ document }: { readonly document: unknown }): Result<ReadDocument> {
  const knot = readKnot(document);
  return knot.ok ? accept(seen(knot.value)) : knot;
}

/** The left-handed edition of a document: the mirror image of what it claims to be. */
export function edition({ document }: { readonly document: unknown }): Result<ReadDocument> {
  const knot = readKnot(document);
  if (!knot.ok) return knot;
  const claim = claimOf(knot.value)?.id ?? knot.value.entry.claim;
  return accept(seen(withExhibitsRetold(leftHandedEdition(knot.value, claim))));
}

export interface Examined {
  readonly errors: number;
  readonly warnings: number;
  readonly identity: StoredIdentity;
  /** The pattern that it is, where it is what it claims to be, in either hand. */
  readonly pattern: string | null;
}

export interface ToExamine {
  readonly document: unknown;
  readonly practice: HousePractice;
  readonly words: Vocabulary;
}

/** What a document is found to be, by the rules of a house. */
export function examine({ document, practice, words }: ToExamine): Result<Examined> {
  const knot = readKnot(document);
  if (!knot.ok) return knot;
  const pieces = [...proofOf(knot.value, { practice, words })];
  const findings = findingsIn(pieces);
  const identity = identityIn(pieces);
  const isIt = identity.state === 'holds' || identity.state === 'mirrored';
  return accept({
    identity,
    pattern: isIt ? (claimOf(knot.value)?.id ?? null) : null,
    errors: findings.filter((f) => f.severity === 'error').length,
    warnings: findings.filter((f) => f.severity === 'warning').length,
  });
}

/** One side of a stated kinship: a figure file, or a pattern's id. */
export type KinSide = { readonly pattern: string } | { readonly document: unknown };
export interface StatedKin {
  readonly kind: string;
  readonly turns: number;
  readonly from: KinSide;
  readonly to: KinSide;
}

function knotOf(side: KinSide): KinKnot | string {
  if ('pattern' in side)
    return patternKin(side.pattern) ?? `There is no pattern “${side.pattern}” in the book any more.`;
  const read = readKnot(side.document);
  return read.ok ? kinKnot(read.value.name, read.value.method) : sayRefusal(read);
}

/** Tries a stated kinship on the figures of both sides. */
export function kin({ kind, turns, from, to }: StatedKin): KinProof {
  const known = KIN_KINDS.find((k) => k === kind);
  const [a, b] = [knotOf(from), knotOf(to)];
  if (typeof a === 'string') return { state: 'open', compared: a };
  if (typeof b === 'string') return { state: 'open', compared: b };
  if (!known) return { state: 'open', compared: `Nothing is known of the kinship “${kind}”.` };
  return proveKin(known, a, b, turns);
}

export type WordFormat = 'ttl' | 'jsonld' | 'csv';

/** Reads a glossary file. What reads RDF is large, and loaded when the first is read. */
async function readWords(format: WordFormat, text: string): Promise<Incoming> {
  if (format === 'csv') return readGlossaryCsv(text);
  const { readJsonLd, readTurtle } = await import('@foxtrail/core/skos');
  return format === 'ttl' ? readTurtle(text) : readJsonLd(text);
}

/** A glossary file, the glossary it is to be taken into, and how collisions are decided so far. */
export interface ToTake {
  readonly format: WordFormat;
  readonly text: string;
  readonly current: Glossary;
  readonly answers: Readonly<Record<string, Resolution>>;
}

export interface Taken extends Omit<Merged, 'glossary'> {
  readonly schools: Glossary['schools'];
  /** The concepts that are new, or are not what they were. */
  readonly changed: readonly Concept[];
}

/** Takes a glossary file into a glossary. What stands in that keeps the rules that a concept written by hand keeps. */
export async function words({ format, text, current, answers }: ToTake): Promise<Taken> {
  const incoming = await readWords(format, text);
  const first = mergeGlossary(current, incoming, answers);
  const bad = first.glossary.concepts.flatMap((c) => {
    const checked = conceptSchema.safeParse(c);
    if (checked.success) return [];
    const reason = `${checked.error.issues[0]?.message ?? 'It cannot be kept'}.`;
    return [{ place: c.id, reason, remedy: 'Mend it in the file.' }];
  });
  const refused = new Set(bad.map((b) => b.place));
  const kept = incoming.glossary.concepts.filter((c) => !refused.has(c.id));
  const { report, decided, glossary } =
    bad.length === 0
      ? first
      : mergeGlossary(
          current,
          { glossary: { ...incoming.glossary, concepts: kept }, refused: [...incoming.refused, ...bad] },
          answers,
        );
  const before = new Map(current.concepts.map((c) => [c.id, JSON.stringify(c)]));
  const changed = glossary.concepts.filter((c) => before.get(c.id) !== JSON.stringify(c));
  return { report, decided, schools: glossary.schools, changed };
}

/** Makes ready what the first job would otherwise wait for. */
export function ready(_order: object): number {
  return patternKeys().entries.length;
}

/** The public page of a knot; none where its document cannot be read. */
export const page = ({
  knot,
  asked,
  frame,
  course,
}: {
  readonly knot: PublicKnot;
  readonly asked: Partial<Shown>;
  readonly frame: PageFrame;
  readonly course?: CourseOnPages | undefined;
}): string | undefined => knotPage(knot, asked, frame, course);

/** The page on which a published knot is practised; none where its document cannot be read, or it is nothing to practise on. */
export async function practice({
  knot,
  slips,
  frame,
}: {
  readonly knot: PublicKnot;
  /** Slips whose pictures in the hand are there. */
  readonly slips: readonly number[];
  readonly frame: PageFrame;
}): Promise<string | undefined> {
  const read = readKnot(knot.document);
  if (!read.ok) return undefined;
  const { drillOf } = await import('@foxtrail/pattern-book/drill');
  const questions = drillOf(read.value, knot.vocabulary, slips);
  return questions.ok && questions.value.length > 0
    ? practicePage(knot, read.value, questions.value, frame)
    : undefined;
}

interface HandOrder {
  readonly knot: PublicKnot;
  readonly shown: Shown;
  readonly frame: PageFrame;
}
/** A page on which something is done with a published knot by hand; none where its document cannot be read, or the knot is not for it. */
const byHand =
  (may: (knot: KnotDocument) => boolean, written: typeof layPage) =>
  ({ knot, shown, frame }: HandOrder): string | undefined => {
    const read = readKnot(knot.document);
    return read.ok && may(read.value) ? written(knot, read.value, shown, frame) : undefined;
  };
/** The page on which a published knot is laid. */
export const lay = byHand(mayBeLaid, layPage);
/** The page on which a learner's own knot is held against a published one. */
export const yours = byHand(mayBeTraced, yoursPage);

/** A pattern as it lies in the hand; none where there is no such pattern, or it cannot be set. What it is called is not said: it is asked. */
export async function patternForm({
  pattern,
  station,
}: {
  readonly pattern: string;
  readonly station: Station;
}): Promise<string | undefined> {
  const { patternForm: formOf } = await import('@foxtrail/pattern-book/forms');
  const [known, form] = [patternOf(pattern), formOf(pattern)];
  if (!known || !form) return undefined;
  const { figure } = howToSet(known.knot.method);
  return formSvg(figure, form, {
    station,
    title: 'A knot as it lies in the hand',
    description: `It is ${SIDES[station]}.`,
  });
}

/** Slips of a knot that was read before which are worth setting, by the numbers of their crossings. */
export const slips = ({ knot }: { readonly knot: KnotDocument }): Result<readonly number[]> =>
  slipsToSet(knot.method, patternKeys());

/** A slip of a knot in the hand, as SVG; none where it cannot be shown. What is wrong with it is not said: it is asked. */
export function slip({ knot, at }: { readonly knot: KnotDocument; readonly at: number }): string | undefined {
  const found = slipInHand(knot.method, at);
  const [title, description] = ['A knot as it lies in the hand', `It is ${SIDES.front}.`];
  return found && formSvg(found.figure, found.form, { title, description });
}

/** What is known of a knot that an assembly shows; where it stands the database knows. */
export async function knotFacts({
  ref,
  document,
  words: spoken,
}: {
  readonly ref: string;
  readonly document: unknown;
  readonly words: Vocabulary;
}): Promise<KnotFacts> {
  const { knotFacts: of } = await import('@foxtrail/pattern-book/assemblies');
  const read = readKnot(document);
  const standing = { ref, state: 'there', errors: null, slug: null } as const;
  return read.ok ? of(read.value, standing, spoken) : { ...NO_FACTS, ref };
}

/** What is known of a pattern; of one that the book has no more, that it is gone. */
export async function patternFacts({
  pattern,
  words: spoken,
}: {
  readonly pattern: string;
  readonly words: Vocabulary;
}): Promise<KnotFacts> {
  const { patternFacts: of } = await import('@foxtrail/pattern-book/assemblies');
  return of(pattern, spoken) ?? { ...NO_FACTS, ref: `pattern:${pattern}` };
}

/** What a course asks of a lesson, beside where it stands. */
export interface LessonRead {
  readonly pattern: string | null;
  readonly words: readonly string[];
  readonly introduces: readonly string[];
  readonly seconds: number | null;
}

/** Reads lessons for a course: what each is by computation, the words it says, and how long its film is. */
export function lessons({
  documents,
  glossary,
  choice,
}: {
  readonly documents: readonly unknown[];
  readonly glossary: Glossary;
  readonly choice: WordChoice;
}): LessonRead[] {
  return documents.map((document): LessonRead => {
    const read = readKnot(document);
    if (!read.ok) return { pattern: null, words: [], introduces: [], seconds: null };
    const knot = read.value;
    const { name, entry, method } = knot;
    const check = lessonCheck(wordedOf(knot), choice, glossary, []);
    const spoken = vocabularyFor({ words: entry.words, ropes: method.figure.ropes }, choice, glossary);
    const keys = keysOf(finishedFigure(method));
    const matches = keys.ok ? patternKeys().matches(keys.value) : [];
    const own = matches.find((m) => m.relation === 'same' || m.relation === 'mirror');
    const concepts = conceptsIn(lessonTexts(knot, method, spoken), check);
    // A lesson says its own name.
    const isOwn = new Set([own?.id, claimOf(knot)?.id].map((id) => conceptOfPattern(id ?? '')));
    const cautions = cautionsFor(entry.useGrade, entry.cautions);
    const reel = (method.reels?.length ?? 0) > 0 ? 0 : undefined;
    return {
      pattern: own?.id ?? null,
      words: concepts.filter((c) => !isOwn.has(c)),
      introduces: entry.words?.introduces ?? [],
      seconds:
        stepsOf(method).length === 0
          ? null
          : demonstration({ method, name, words: spoken, pace: 'normal', cautions, reel }).duration,
    };
  });
}

/** Pictures that take a knot's figures many times over, as SVG. */
export const PICTURES = { sheet: sheetSvg, thumbnail } as const;

/** A picture of a knot that was read before. */
export const picture = ({
  of,
  knot,
  words: spoken,
  formed,
}: {
  readonly of: keyof typeof PICTURES;
  readonly knot: KnotDocument;
  readonly words: Vocabulary;
  /** Of each method, what its finishing steps show in the hand; a sheet has them. */
  readonly formed?: readonly (FinishFaces | undefined)[];
}): string => PICTURES[of](knot, spoken, formed);

/** What a knot looks like in the hand: as SVG by side and on its card, and the face of each step that finishes it. */
export interface FormPictures {
  readonly sides: Readonly<Record<Station, string>>;
  readonly card: string;
  readonly finishes: FinishFaces;
  readonly space: InSpace;
}

/** Sets the knot of a document that was read before, and draws it from all its sides. */
export function form({
  knot,
  hand,
}: {
  readonly knot: KnotDocument;
  readonly hand: 'right' | 'left';
}): Result<FormPictures> {
  const drawn = howToSet(knot.method);
  const { figure, wishes } = hand === 'left' ? mirroredSetting(drawn) : drawn;
  const done = setNow(figure, wishes);
  if (!done.ok) return done;
  const seen = (station: Station): string =>
    `${knot.name} as it lies in the hand, ${SIDES[station]}.${done.value.runs ? RUNS : ''}`;
  const sides = STATION_NAMES.map((station) => [
    station,
    formSvg(figure, done.value, {
      station,
      title: `${knot.name}, dressed and set`,
      description: seen(station),
    }),
  ]);
  const finishes = FINISH_ORDER.map((does) => [does, finishFace(figure, done.value, does)]);
  return accept({
    sides: Object.fromEntries(sides) as FormPictures['sides'],
    card: formSvg(figure, done.value, {
      title: knot.name,
      description: seen('front'),
      width: CARD_WIDTH,
      background: false,
    }),
    finishes: Object.fromEntries(finishes) as FinishFaces,
    space: {
      form: writeForm(knot.name, done.value),
      ropes: figure.ropes.map(({ id, cordage }) => ({ id, ...(cordage ? { cordage } : {}) })),
    },
  });
}

/** Width of a card's picture, in pixels. */
const CARD_WIDTH = 320;

/** Said of a knot that does not hold. */
const RUNS = ' Pulled further, its rope runs.';

const SIDES: Readonly<Record<Station, string>> = {
  front: 'seen as it was tied',
  back: 'seen from behind',
  left: 'seen from the left',
  right: 'seen from the right',
  end: 'seen end on',
};

export const JOBS = {
  read,
  edition,
  examine,
  kin,
  words,
  page,
  practice,
  lay,
  yours,
  lessons,
  patternForm,
  knotFacts,
  patternFacts,
  picture,
  form,
  slips,
  slip,
  ready,
} as const;
