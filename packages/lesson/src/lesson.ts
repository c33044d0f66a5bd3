/**
 * A lesson as a page of markup: cautions first, then the steps, large for going through and small at a glance, then what to look at, and
 * how it goes wrong. It reads and prints without scripts; the player (see `browser/player`) adds going from step to step.
 */
import type { House, LessonTerm } from '@foxtrail/contract';
import {
  choiceOf,
  drawStep,
  isFromBehind,
  leftHanded,
  LEAST_LETTERS,
  methodsOf,
  NOTE_SIZE,
  pictureBox,
  stepsOf,
  stepText,
  VIEWS,
  viewOfStep,
  type Box,
  type KnotDocument,
  type Look,
  type Method,
  type NamedMethod,
  type Step,
  type View,
  type Vocabulary,
} from '@foxtrail/core';
import { FigureWriter } from './figure.js';
import { html, type Html } from './html.js';
import * as parts from './parts.js';

export interface LessonData {
  readonly knot: KnotDocument;
  readonly house: House;
  /** The words it is written in. */
  readonly words: Vocabulary;
  /** The words it explains before the first step. */
  readonly terms: readonly LessonTerm[];
  /** Where other schools do otherwise, in sentences. */
  readonly otherSchools: readonly string[];
  /** Where the picture of a step that finishes the knot is, in the hand; absent while there is none: the drawing is shown. */
  readonly finished?: ((step: Step, shown: Shown) => string | undefined) | undefined;
  /** Where its files are, as long as it is published: the pictures of the knot in the hand are among them. */
  readonly files?: string | undefined;
}

/** Which way of tying it is shown, and from which side. */
export interface Shown {
  readonly method: number;
  readonly view: View;
  /** The course that one goes through, by its address. */
  readonly course?: string | undefined;
}

/** What is shown first: the first method, in the hand that the house shows; a drawing for the left hand is shown as it is. */
export const firstShown = ({ knot, house }: LessonData): Shown => ({
  method: 0,
  view: choiceOf(house.practice, 'hand') === 'left' && knot.entry.hand !== 'left' ? 'left' : 'front',
});

/** The method that is shown of a knot, where it has so many; and what its page is asked by, drawn for either hand. */
export function shownOf(
  knot: KnotDocument,
  { method, view }: Shown,
): {
  readonly method: Method;
  readonly index: number;
  readonly isLeft: boolean;
  readonly queryFor: (hand: View) => string;
} {
  const methods = methodsOf(knot);
  const index = Math.min(method, methods.length - 1);
  return {
    method: (methods[index] as NamedMethod).method,
    index,
    isLeft: view === 'left',
    queryFor: (hand) => queryOf({ method: index, view: hand === 'left' ? 'left' : 'front' }),
  };
}

/** The least breadth of a picture's paper for its height, and the most. */
const NARROWEST = 0.6;
const WIDEST = 4;

/** The least breadth and height, in CSS pixels, at which a step is shown large (on a phone), and small beside the others. */
const LARGE: readonly [number, number] = [340, 220];
const SMALL: readonly [number, number] = [260, 190];

/** Height of a callout's letters, in diameters, so that they can be read in a picture of this box on paper of this size. */
const readable = ([l, t, r, b]: Box, [width, height]: readonly [number, number]): number =>
  Math.max(NOTE_SIZE, LEAST_LETTERS * Math.max((r - l) / width, (b - t) / height));

/** Its query in the page's address. */
export const queryOf = ({ method, view, course }: Shown): string =>
  `?${course === undefined ? '' : `course=${course}&`}${method === 0 ? '' : `method=${method + 1}&`}view=${view}`;

/** The lesson; `more` is what the page adds at its end. */
export function lessonHtml(data: LessonData, shown: Shown, look: Look, more?: Html): Html {
  const { knot, house, words } = data;
  const draw = new FigureWriter(look, 'lesson');
  const methods = methodsOf(knot);
  const chosen = Math.min(shown.method, methods.length - 1);
  const { method } = methods[chosen] as NamedMethod;
  // Left-handed, the card and the wrong ways are those of the other hand.
  const said = shown.view === 'left' ? leftHanded(method) : method;
  return html`<article class="lesson">
    ${parts.head(knot, house)} ${parts.cautions(knot)} ${parts.terms(data.terms, draw)}
    ${parts.otherSchools(data.otherSchools)} ${choiceOfMethods(methods, { ...shown, method: chosen })}
    ${
      stepsOf(method).length === 0
        ? html`<p class="soft">It has no steps yet.</p>`
        : stepsHtml(method, { ...shown, method: chosen }, data, draw)
    }
    ${data.files !== undefined && parts.inHand({ ...knot, method }, data.files, shown.view === 'left' ? 'left' : 'right')}
    ${parts.inspection(said, words, draw)} ${parts.behaviour(knot)} ${parts.exhibits(knot.name, said, words, draw)}
    ${parts.tail(knot, house, words)} ${more}
  </article>`;
}

const link = (to: Shown, name: string, here: boolean): Html =>
  html`<a
    class="tab${here && ' here'}"
    href="${queryOf(to)}"
    data-method="${to.method}"
    data-view="${to.view}"
    ${here && html` aria-current="true"`}
    >${name}</a
  >`;

const choiceOfMethods = (methods: readonly NamedMethod[], shown: Shown): Html | false =>
  methods.length > 1 &&
  html`<nav class="methods" aria-label="Ways to tie it">
    <span>Ways to tie it</span>
    ${methods.map((m, i) => link({ ...shown, method: i }, m.name, i === shown.method))}
  </nav>`;

function stepsHtml(method: Method, shown: Shown, { words, finished }: LessonData, draw: FigureWriter): Html {
  const { view } = shown;
  /** The knot in the hand, in place of the drawing. */
  const inHand = (index: number, label: string): Html | undefined => {
    const step = steps[index] as Step;
    const address = step.does === 'lay' ? undefined : finished?.(step, shown);
    return address === undefined
      ? undefined
      : html`<img class="formed" src="${address}" alt="${label}" loading="lazy" />`;
  };
  const steps = stepsOf(method);
  const name = VIEWS.find((v) => v.view === view)?.name ?? '';
  // Sides are exchanged for the left hand; from behind they are said as they are tied, from the front.
  const said = view === 'left' ? leftHanded(method) : method;
  const told = steps.map(({ index }) => {
    const bare = pictureBox(method, index, view);
    const [noteSize, smallNotes] = [readable(bare, LARGE), readable(bare, SMALL)];
    return {
      index,
      text: stepText(said, index, words),
      noteSize,
      box: pictureBox(method, index, view, noteSize),
      small: { noteSize: smallNotes, box: pictureBox(method, index, view, smallNotes) },
    };
  });
  // The page keeps the shape of the tallest picture from step to step.
  const shape = Math.max(NARROWEST, Math.min(WIDEST, ...told.map(({ box: [l, t, r, b] }) => (r - l) / (b - t))));
  const behind = (step: Step): boolean => isFromBehind(viewOfStep(step, view));
  const large = ({ index, text, box, noteSize }: (typeof told)[number]): Html => {
    const drawing = drawStep(method, index, { view, ghost: true, noteSize });
    const label = `Step ${index + 1}, ${name} view. ${text}`;
    return html`<div class="slide" ${index > 0 && html` hidden`}>
      <div class="paper">
        ${inHand(index, label) ?? draw.figure({ drawing, box: inShape(box, shape), label, bleed: true })}
        ${view === 'left' && html`<span class="badge">Left-handed</span>`}
        ${behind(steps[index] as Step) && html`<span class="badge behind">Seen from behind</span>`}
      </div>
      <p class="say"><span class="count">${index + 1}</span>${parts.stepWords(text)}</p>
    </div>`;
  };
  const small = ({ index, text, small: { box, noteSize } }: (typeof told)[number]): Html =>
    html`<li>
      <a class="paper" href="#player" data-step="${index}" aria-label="Go to step ${index + 1}"
        >${inHand(index, `Step ${index + 1}. ${text}`) ?? draw.figure({ drawing: drawStep(method, index, { view, noteSize }), box, label: `Step ${index + 1}. ${text}`, bleed: true })}</a
      >
      <p><span class="count">${index + 1}</span>${parts.stepWords(text)}</p>
    </li>`;
  return html`<section
      class="player"
      id="player"
      tabindex="0"
      role="region"
      aria-label="Step player: arrow keys go from step to step, plus enlarges the picture, V changes the view, F fills the screen"
    >
      <div class="slides" aria-live="polite">${told.map(large)}</div>
      <div class="controls">
        <button type="button" class="go" data-go="-1" hidden>Back</button>
        <span class="of" hidden>Step 1 of ${steps.length}</span>
        <button type="button" class="go onward" data-go="1" hidden>Next</button>
        <button type="button" class="go" data-near="" hidden>Enlarge</button>
        <button type="button" class="go" data-room="" hidden>For a room</button>
        <span class="space"></span>
        <nav class="views" aria-label="View">
          ${VIEWS.map((v) => link({ ...shown, view: v.view }, v.name, v.view === view))}
        </nav>
      </div>
    </section>
    <section class="all${shape < 1.2 && ' tall'}" aria-label="All steps">
      <h2>All steps${view !== 'front' && `, ${name.toLowerCase()}`}</h2>
      <ol>
        ${told.map(small)}
      </ol>
    </section>`;
}

/** A box widened to a shape (breadth by height) about its middle. */
function inShape([l, t, r, b]: Box, shape: number): Box {
  const [w, h] = [Math.max(r - l, (b - t) * shape), Math.max(b - t, (r - l) / shape)];
  const [x, y] = [(l + r) / 2, (t + b) / 2];
  return [x - w / 2, y - h / 2, x + w / 2, y + h / 2];
}
