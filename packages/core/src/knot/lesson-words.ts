/**
 * The words of a lesson: every text of a knot in the order in which a learner reads it, held against the words it is to be written in, and
 * rewritten in them.
 */
import type { OfCordage } from '../figure/cordage.js';
import { remembered } from '../ground/remembered.js';
import type { KnotDocument } from './document.js';
import type { Entry } from './entry.js';
import type { Glossary } from '../words/glossary.js';
import { checkLesson, inWordsOf, type LessonCheck, type LessonText, type Remark } from '../words/lint.js';
import { TermIndex } from '../words/terms.js';
import { vocabularyOf, type Vocabulary, type WordChoice } from '../words/vocabulary.js';
import { composeStep } from '../tying/compose.js';
import type { LayoutEdit } from '../tying/layout-edit.js';
import { finishedLayout, layoutsOf, placeOfStep, stepsOf, type Method, type Step } from '../tying/method.js';
import { change } from './change.js';
import { methodsOf } from './methods.js';
import { ownRopeNames, withRopeNames } from './rope-names.js';

/** A text of a knot that its author wrote, and where it stands. */
export type TextPlace =
  | { readonly kind: 'summary' }
  | { readonly kind: 'caution'; readonly index: number }
  | { readonly kind: 'step'; readonly index: number }
  | { readonly kind: 'callout'; readonly step: number; readonly index: number }
  | { readonly kind: 'tell'; readonly index: number };

export interface KnotText extends LessonText {
  readonly at: TextPlace;
  /** Written by the author; false for a composed text. */
  readonly own: boolean;
}

export interface RemarkedText extends KnotText {
  readonly remarks: readonly Remark[];
}

/** The words a knot is written in: those of the school it names, else the house's. */
export const choiceFor = ({ words }: Pick<Entry, 'words'>, house: WordChoice): WordChoice =>
  words?.school === undefined ? house : { school: words.school, own: {} };

/** A knot's vocabulary: the words of its school or its house, and the names of its ropes. */
export const vocabularyFor = (knot: Spoken, house: WordChoice, glossary: Glossary): Vocabulary =>
  withRopeNames(vocabularyOf(glossary, choiceFor(knot, house)), knot.ropes ?? []);

/** The index of a glossary, built once. */
const indexOf = remembered((glossary: Glossary) => new TermIndex(glossary));

/** What says how a knot is spoken of: the words its entry names, and what its ropes are. */
export type Spoken = Pick<Entry, 'words'> & { readonly ropes?: readonly OfCordage[] | undefined };

/** What a knot says of its words: its school's, those it explains, and the names that its author gave to knot, cord and ropes. */
export type Worded = Spoken & Partial<Pick<Entry, 'aliases' | 'cord'>>;

/** How a knot is spoken of. */
export const wordedOf = ({ entry, method }: Pick<KnotDocument, 'entry' | 'method'>): Worded => ({
  words: entry.words,
  aliases: entry.aliases,
  cord: entry.cord,
  ropes: method.figure.ropes,
});

/** What a knot's texts are checked with; the index of a glossary is built once. */
export function lessonCheck(
  knot: Worded,
  house: WordChoice,
  glossary: Glossary,
  takenAsKnown: readonly string[],
): LessonCheck {
  return {
    glossary,
    index: indexOf(glossary),
    choice: choiceFor(knot, house),
    known: new Set([...takenAsKnown, ...(knot.words?.introduces ?? [])]),
    named: [...(knot.aliases ?? []), ...(knot.cord ? [knot.cord.name] : []), ...ownRopeNames(knot.ropes ?? [])],
  };
}

/** The texts of one of a knot's methods and of its entry, in reading order. */
export function lessonTexts({ entry }: KnotDocument, method: Method, words: Vocabulary): KnotText[] {
  const text = (at: TextPlace, place: string, said: string, own = true): KnotText => ({ at, place, text: said, own });
  return [
    ...(entry.summary === '' ? [] : [text({ kind: 'summary' }, 'what it is for', entry.summary)]),
    ...entry.cautions.map((c, index) => text({ kind: 'caution', index }, `caution ${index + 1}`, c)),
    ...stepsOf(method).flatMap((step): KnotText[] => [
      stepTextOf(method, step, words),
      ...(step.telling.callouts ?? []).map((c, index) =>
        text({ kind: 'callout', step: step.index, index }, `a callout of step ${step.index + 1}`, c.text),
      ),
    ]),
    ...(finishedLayout(method).exhibits ?? []).flatMap(({ tell }, index) =>
      tell === undefined ? [] : [text({ kind: 'tell', index }, `wrong way ${index + 1}`, tell)],
    ),
  ];
}

function stepTextOf(method: Method, step: Step, words: Vocabulary): KnotText {
  const composed = composeStep(method, step.index, words);
  const loops = composed.moves.flatMap((m) => (m.kind === 'loop' ? [m.hand] : []));
  return {
    at: { kind: 'step', index: step.index },
    place: `step ${step.index + 1}`,
    text: step.telling.text ?? composed.text,
    own: step.telling.text !== undefined,
    ...(loops.length === 1 ? { loop: loops[0] } : {}),
  };
}

/** A knot's texts with what is to be said of their words. The cautions of its grade are the house's, not the author's. */
export function remarkedTexts(knot: KnotDocument, method: Method, check: LessonCheck): RemarkedText[] {
  const texts = lessonTexts(
    knot,
    method,
    withRopeNames(vocabularyOf(check.glossary, check.choice), knot.method.figure.ropes),
  );
  const remarks = checkLesson(texts, check);
  return texts.map((t, i) => ({ ...t, remarks: t.own ? (remarks[i] ?? []) : [] }));
}

/** Whether a text is one of a method; the entry's texts are those of all methods, and told with the first. */
const ofMethod = ({ kind }: TextPlace): boolean => kind === 'step' || kind === 'callout' || kind === 'tell';

/** The same for all of a knot's methods, each text once. */
export const remarkedKnot = (knot: KnotDocument, check: LessonCheck): RemarkedText[] =>
  methodsOf(knot).flatMap(({ method }, m) =>
    remarkedTexts(knot, method, check).filter((t) => m === 0 || ofMethod(t.at)),
  );

/** A text of the author's own as it would stand in other words. */
export interface Rewording {
  /** Which of the knot's methods it is of; the entry's texts are of the first. */
  readonly method: number;
  readonly at: TextPlace;
  readonly place: string;
  readonly before: string;
  readonly after: string;
}

/** Every text of the author's own that the words of a check would change. */
export function rewordings(knot: KnotDocument, check: LessonCheck): Rewording[] {
  const words = vocabularyOf(check.glossary, check.choice);
  const methods = methodsOf(knot);
  return methods.flatMap(({ name, method }, m) =>
    lessonTexts(knot, method, words)
      .filter((t) => t.own && (m === 0 || ofMethod(t.at)))
      .flatMap((t): Rewording[] => {
        const { text } = inWordsOf(t.text, check);
        if (text === t.text) return [];
        return [
          {
            method: m,
            at: t.at,
            place: methods.length > 1 ? `${name}, ${t.place}` : t.place,
            before: t.text,
            after: text,
          },
        ];
      }),
  );
}

/** The knot with some of its texts written anew. */
export function reworded(knot: KnotDocument, changes: readonly Rewording[]): KnotDocument {
  return changes.reduce(withText, knot);
}

function withText(knot: KnotDocument, { method: index, at, after }: Rewording): KnotDocument {
  const { entry } = knot;
  switch (at.kind) {
    case 'summary':
      return { ...knot, entry: { ...entry, summary: after } };
    case 'caution':
      return { ...knot, entry: { ...entry, cautions: entry.cautions.map((c, i) => (i === at.index ? after : c)) } };
    case 'step':
    case 'callout':
    case 'tell': {
      const method = methodsOf(knot)[index]?.method;
      const found = method && textEdit(method, at, after);
      const next = found && change(knot, { method: index, layout: found.layout }, found.edit);
      return next?.ok ? next.value : knot;
    }
  }
}

/** The edit that writes a step's text or callout anew, and the layout it is of. */
function textEdit(
  method: Method,
  at: Extract<TextPlace, { kind: 'step' | 'callout' | 'tell' }>,
  text: string,
): { readonly layout: number; readonly edit: LayoutEdit } | undefined {
  if (at.kind === 'tell') {
    const exhibits = (finishedLayout(method).exhibits ?? []).map((e, i) => (i === at.index ? { ...e, tell: text } : e));
    return { layout: layoutsOf(method).length - 1, edit: { kind: 'show', shown: { exhibits } } };
  }
  const step = stepsOf(method)[at.kind === 'step' ? at.index : at.step];
  if (!step) return undefined;
  const { layout, index } = placeOfStep(method, step.index);
  if (at.kind === 'step') return { layout, edit: { kind: 'set-text', index, text } };
  const callouts = (step.telling.callouts ?? []).map((c, i) => (i === at.index ? { ...c, text } : c));
  return { layout, edit: { kind: 'tell', index, telling: { callouts } } };
}
