/** The parts of a lesson: each is markup, made from the knot by the core. */
import type { House, LessonTerm } from '@foxtrail/contract';
import {
  behaviourOf,
  besidePlaces,
  cautionsFor,
  choiceOf,
  classLabel,
  diameterOf,
  drawFigure,
  drawStep,
  emphasise,
  figureInView,
  figureToSet,
  chosenMarks,
  finishedLayout,
  heartBox,
  heartWith,
  litBox,
  markPoints,
  markSize,
  readKnot,
  requiredTail,
  ropeWord,
  sayLength,
  stepsOf,
  tailRuleFor,
  shownExhibits,
  type Box,
  type Drawing,
  type KnotDocument,
  type Method,
  type ShownExhibit,
  type Station,
  type Vocabulary,
} from '@foxtrail/core';
import { lift } from '@foxtrail/core/lift';
import type { FigureMark, FigureWriter } from './figure.js';
import { html, type Html } from './html.js';

/** A step's text, with the words that say how the end passes set in heavier type. */
export const stepWords = (text: string): Html =>
  html`<span
    >${emphasise(text).map((run) => (run.strong ? html`<strong class="pass">${run.text}</strong>` : run.text))}</span
  >`;

export function head({ name, entry }: KnotDocument, house: House): Html {
  return html`<header>
    <h1>${name}</h1>
    <p class="chips">
      <span class="chip">${classLabel(entry.class, house.classSchool)}</span>
      <span class="chip">${entry.useGrade}</span>
      ${entry.wrongWayOf !== undefined && html`<span class="chip fails">wrong way of the ${entry.wrongWayOf}</span>`}
    </p>
    ${entry.summary !== '' && html`<p class="summary">${entry.summary}</p>`}
    ${entry.aliases.length > 0 && html`<p class="soft aliases">Also called: ${entry.aliases.join(', ')}.</p>`}
  </header>`;
}

export const cautions = ({ entry }: KnotDocument): Html =>
  html`<section class="cautions" aria-label="Cautions">
    <h2>Before you begin</h2>
    <ul>
      ${cautionsFor(entry.useGrade, entry.cautions).map((c) => html`<li>${c}</li>`)}
    </ul>
  </section>`;

/** The words a lesson explains before its first step: each with its figure and what it means. */
export function terms(all: readonly LessonTerm[], draw: FigureWriter): Html | false {
  const picture = ({ figure, word }: LessonTerm): Html | false => {
    const read = figure === null ? undefined : readKnot(figure);
    if (!read?.ok) return false;
    const { method } = read.value;
    const drawing = drawStep(method, Math.max(0, stepsOf(method).length - 1));
    return html`<div class="of-term">${draw.figure({ drawing, box: litBox(method), label: word, bleed: true })}</div>`;
  };
  return (
    all.length > 0 &&
    html`<section class="terms" aria-labelledby="terms">
      <h2 id="terms">Words of this lesson</h2>
      <ul>
        ${all.map(
          (t) =>
            html`<li>
              ${picture(t)}
              <p><strong>${t.word}</strong> ${t.definition}</p>
            </li>`,
        )}
      </ul>
    </section>`
  );
}

export const otherSchools = (sentences: readonly string[]): Html | false =>
  sentences.length > 0 &&
  html`<details class="schools">
    <summary>Other schools do some of this otherwise</summary>
    <ul>
      ${sentences.map((s) => html`<li>${s}</li>`)}
    </ul>
  </details>`;

/** A face of the finished knot with its numbered marks. */
export interface InspectedFace {
  readonly name: 'Front' | 'Back';
  readonly drawing: Drawing;
  readonly box: Box;
  readonly label: string;
  readonly marks: readonly FigureMark[];
}

/** Front and back with numbered marks, and what each number asks a learner to see: the chosen marks that the figure still has. */
export function inspectedFaces(
  method: Method,
  words: Vocabulary,
): { readonly faces: readonly InspectedFace[]; readonly said: readonly { side: 'Front' | 'Back'; text: string }[] } {
  const { figure: finished, marks: chosen = [] } = finishedLayout(method);
  const marks = chosenMarks(finished, chosen, words).flatMap(({ mark }) => mark ?? []);
  const face = (view: 'front' | 'back', name: InspectedFace['name']): InspectedFace => {
    const figure = figureInView(finished, view);
    const own = marks.flatMap((m, i) => {
      return m.side === view ? markPoints(figure, m).map((at) => ({ at, label: String(i + 1), text: m.text })) : [];
    });
    const radius = markSize(heartBox(figure));
    const places = besidePlaces(
      figure,
      own.map(({ at }) => at),
      radius,
    );
    const numbers = places.map((p, i): FigureMark => ({ ...p, kind: 'number', label: own[i]?.label ?? '' }));
    const box = heartWith(
      figure,
      places.flatMap((p) => [p.point, p.at]),
      radius + 0.4,
    );
    const said = marks.flatMap((m, i) => (m.side === view ? [`${i + 1}: ${m.text}`] : []));
    return { name, drawing: drawFigure(figure), box, label: [`${name}.`, ...said].join(' '), marks: numbers };
  };
  return {
    faces: [face('front', 'Front'), face('back', 'Back')],
    said: marks.map((m) => ({ side: m.side === 'front' ? 'Front' : 'Back', text: m.text })),
  };
}

/** What is looked at of the finished knot. */
export function inspectionCard(method: Method, words: Vocabulary, draw: FigureWriter): Html {
  const { faces, said } = inspectedFaces(method, words);
  return html`<div class="inspection">
    <div class="faces">
      ${faces.map(
        ({ name, ...face }) =>
          html`<figure>
            <div class="paper">${draw.figure(face)}</div>
            <figcaption>${name}</figcaption>
          </figure>`,
      )}
    </div>
    ${
      said.length === 0
        ? html`<p class="soft">No mark is chosen yet.</p>`
        : html`<ol>
            ${said.map((m) => html`<li><b>${m.side}.</b> ${m.text}</li>`)}
          </ol>`
    }
  </div>`;
}

/** The knot as it lies in the hand; its pictures are drawn when they are asked for. */
export function inHand({ name, method }: KnotDocument, base: string, hand: 'right' | 'left'): Html | false {
  if (!lift(figureToSet(method)).ok) return false;
  const way = hand === 'left' ? '?hand=left' : '';
  const face = (side: Station, said: string): Html =>
    html`<figure>
      <div class="paper">
        <img
          src="${base}/form/${side}.svg${way}"
          alt="${name}, dressed and set, ${said.toLowerCase()}"
          loading="lazy"
        />
      </div>
      <figcaption>${said}</figcaption>
    </figure>`;
  const more = [
    ['left', 'From the left'],
    ['right', 'From the right'],
    ['end', 'End on'],
  ] as const;
  return html`<section class="in-hand inspection" aria-label="Dressed and set">
    <h2>Dressed and set</h2>
    <p class="soft">
      Computed from the drawing: the rope drawn taut, without passing through itself, and proved to be the same knot. Of
      a knot that does not hold, the last moment is shown before its rope runs.
    </p>
    <div class="turning" data-space="${base}/form.json${way}" hidden>
      <button type="button" class="go" data-turn="" hidden>Turn it in your hand</button>
    </div>
    <div class="faces">${face('front', 'As tied')}${face('back', 'From behind')}</div>
    <p class="sides">${more.map(([side, said]) => html`<a href="${base}/form/${side}.svg${way}">${said}</a> `)}</p>
  </section>`;
}

export const inspection = (method: Method, words: Vocabulary, draw: FigureWriter): Html | false =>
  (finishedLayout(method).marks ?? []).length > 0 &&
  html`<section class="inspect" aria-label="Inspection card">
    <h2>Look at the finished knot</h2>
    ${inspectionCard(method, words, draw)}
  </section>`;

/** What the drawing and its author say that it does; what others judged of the kind is not a lesson's to tell. */
export function behaviour(knot: KnotDocument): Html | false {
  const rows = behaviourOf(knot);
  return (
    rows.length > 0 &&
    html`<section class="behaviour">
      <h2>How it behaves</h2>
      <div class="scroll">
        <table class="table">
          <thead>
            <tr>
              <th scope="col">When one does this</th>
              <th scope="col">it</th>
              <th scope="col">What that rests on</th>
              <th scope="col">How to undo it</th>
            </tr>
          </thead>
          <tbody>
            ${rows.map(
              (r) =>
                html`<tr>
                  <th scope="row">${r.trial}</th>
                  <td><strong${r.does !== 'holds' && html` class="bad"`}>${r.does}</strong></td>
                  <td><span class="soft">${r.by}:</span> ${r.why}</td>
                  <td>${r.undo}</td>
                </tr>`,
            )}
          </tbody>
        </table>
      </div>
    </section>`
  );
}

/** Wrong ways the author shows: the figure so laid, its wrong crossings ringed. */
export function exhibits(name: string, method: Method, words: Vocabulary, draw: FigureWriter): Html | false {
  const shown = shownExhibits(finishedLayout(method), name, words);
  const item = ({ figure, becomes, tell, points, box }: ShownExhibit): Html => {
    const marks = points.map((point): FigureMark => ({ kind: 'ring', point }));
    return html`<li>
      <div class="paper">${draw.figure({ drawing: drawFigure(figure), box, label: tell, marks, bleed: true })}</div>
      <h3>${becomes}</h3>
      <p>${tell}</p>
    </li>`;
  };
  return (
    shown.length > 0 &&
    html`<section class="exhibits" aria-label="Ways it goes wrong">
      <h2>One wrong crossing</h2>
      <ul>
        ${shown.map(item)}
      </ul>
    </section>`
  );
}

/** What tail is asked, in sentences. */
export function sayTail({ entry, method }: KnotDocument, { name, practice }: House, words: Vocabulary): string {
  const { diameterMm, name: cord } = entry.cord;
  const rule = tailRuleFor(practice, entry);
  const unit = choiceOf(practice, 'units') === 'inches' ? 'inches' : 'millimetres';
  const wanted = (mm: number): string => sayLength(requiredTail(rule, mm), mm, unit);
  // A rope of another thickness is asked another length.
  const others = finishedLayout(method).figure.ropes.flatMap((rope, i) =>
    diameterOf(rope) === 1 ? [] : [`on ${ropeWord(words, i)} ${wanted(diameterMm * diameterOf(rope))}`],
  );
  const ofHouse = requiredTail(tailRuleFor(practice, { useGrade: entry.useGrade }), diameterMm);
  const whose =
    requiredTail(rule, diameterMm) > ofHouse
      ? `The ropes of this lesson are cut for it; the rule of ${name} is at least ${sayLength(ofHouse, diameterMm, unit)}.`
      : `This is the rule of ${name}; other schools measure it otherwise.`;
  const on = cord === '' ? '' : ` on the ${cord}`;
  return `Leave a tail of at least ${wanted(diameterMm)}${on}${others.map((o) => `, ${o}`).join('')}. ${whose}`;
}

export const tail = (knot: KnotDocument, house: House, words: Vocabulary): Html =>
  html`<section class="tail">
    <h2>Tail</h2>
    <p>${sayTail(knot, house, words)}</p>
  </section>`;
