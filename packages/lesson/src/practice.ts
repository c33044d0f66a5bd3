/**
 * The page on which a knot is practised: its questions in order, each with its pictures and its answer folded away. It reads without a script; the
 * script asks one at a time (see `browser/practise`).
 */
import type { PublicKnot } from '@foxtrail/contract';
import { besidePlaces, drawFigure, heartWith, markSize, theKnot, type KnotDocument } from '@foxtrail/core';
import type { DrillPicture, DrillQuestion } from '@foxtrail/core/drill';
import { FigureWriter, PAGE_LOOK, type FigureMark } from './figure.js';
import { html, type Html } from './html.js';
import { frame, type PageFrame } from './page-frame.js';

/** Where the pictures of patterns in the hand are. */
const patternPicture = (pattern: string, side: string): string => `/api/public/patterns/${pattern}/form/${side}.svg`;

/** Where the picture of a slip in the hand is. */
const slipPicture = (slug: string, slip: number): string => `/api/public/knots/${slug}/slips/${slip}.svg`;

/** A picture of a question; of a slip with the numbers of its crossings and a ring round the wrong one, which show when they are asked for and told. */
function picture(draw: FigureWriter, slug: string, shown: DrillPicture, where: DrillQuestion['where']): Html {
  if (!('figure' in shown))
    return html`<img
      src="${'slip' in shown ? slipPicture(slug, shown.slip) : patternPicture(shown.pattern, shown.side)}"
      alt="${shown.says}"
      width="320"
      height="240"
      loading="lazy"
    />`;
  const { figure, says } = shown;
  if (!where) return draw.figure({ drawing: drawFigure(figure), box: shown.box, label: says, bleed: true });
  const radius = markSize(shown.box);
  const places = besidePlaces(figure, where.points, radius);
  const box = heartWith(
    figure,
    places.flatMap((p) => [p.point, p.at]),
    radius + 0.4,
  );
  const slip = where.slip === undefined ? undefined : where.points[where.slip - 1];
  const marks: FigureMark[] = places.map((p, i) => ({ ...p, kind: 'number', label: String(i + 1) }));
  if (slip) marks.push({ kind: 'ring', point: slip });
  return draw.figure({ drawing: drawFigure(figure), box, label: says, marks, bleed: true });
}

function question(draw: FigureWriter, slug: string, q: DrillQuestion): Html {
  const several = q.pictures.length > 1;
  return html`<li
    data-question="${q.id}"
    data-kind="${q.kind}"
    data-level="${q.level}"
    data-right="${q.right}"
    ${q.where && html`data-crossings="${q.where.points.length}"`}
    ${q.where?.slip !== undefined && html`data-slip="${q.where.slip}"`}
  >
    <h2>${q.asks}</h2>
    <div class="pictures${several && ' several'}">
      ${q.pictures.map(
        (p, i) =>
          html`<figure>
            <div class="paper">${picture(draw, slug, p, q.where)}</div>
            ${several && html`<figcaption>${i + 1}</figcaption>`}
          </figure>`,
      )}
    </div>
    <ul class="options">
      ${q.options.map((o) => html`<li>${o}</li>`)}
    </ul>
    <details>
      <summary>What is so</summary>
      <p><b>${q.options[q.right]}.</b> ${q.tells}</p>
    </details>
  </li>`;
}

/** What is sent of a learner, and only where the learner has said so. */
export const consent = (house: string): Html =>
  html`<section class="consent" hidden>
    <label
      ><input type="checkbox" data-consent="" /> Tell ${house} how each question is answered, so that the lesson gets
      better where many slip.</label
    >
    <p class="soft">
      What is sent is which question, and whether the answer was right: a count, and nothing about you, your device or
      the time. What you have learnt is kept in this browser alone.
      <button type="button" data-forget="">Forget it here</button>
    </p>
    <form class="code" data-code="">
      <label
        >Class code, if your teacher gave you one
        <input maxlength="12" autocomplete="off" autocapitalize="characters" spellcheck="false"
      /></label>
      <button type="submit">Join</button>
      <span role="status"></span>
    </form>
  </section>`;

/** The page on which a published knot is practised. */
export function practicePage(
  { slug, revision, house }: PublicKnot,
  knot: KnotDocument,
  questions: readonly DrillQuestion[],
  with_: PageFrame,
): string {
  const draw = new FigureWriter(PAGE_LOOK, 'ask');
  const the = theKnot(knot.name);
  return frame(
    {
      title: `Practise ${the}`,
      description: `Spot the slip: ${questions.length} questions on ${the}.`,
      isDesk: true,
      main: html`<main class="practice" data-practice="${slug}" data-revision="${revision}">
        <article>
          <header>
            <h1>Practise ${the}</h1>
            <p>
              ${questions.length} questions: which is it, where is the slip, which hand, which side.
              <a href="/learn/${slug}">The lesson</a>
            </p>
          </header>
          <div class="sitting" hidden></div>
          <ol class="questions">
            ${questions.map((q) => question(draw, slug, q))}
          </ol>
          ${consent(house.name)}
          <p class="soft">
            A picture teaches to look; it is no test of a knot in rope. Where somebody could be hurt, have yours checked
            by a qualified instructor.
          </p>
        </article>
      </main>`,
    },
    with_,
  );
}
