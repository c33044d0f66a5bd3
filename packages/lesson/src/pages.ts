/** The public pages: a published knot, the list of them, and what stands where there is none. */
import type { PublicKnot } from '@foxtrail/contract';
import {
  finishedFigure,
  finishedLayout,
  leftHanded,
  methodsOf,
  readKnot,
  stepsOf,
  type KnotDocument,
  type NamedMethod,
} from '@foxtrail/core';
import { mayBeAsked } from '@foxtrail/core/drill';
import type { Footage } from '@foxtrail/core/footage';
import { courseBar, courseEnd, placeInCourse, type CourseOnPages } from './courses.js';
import { PAGE_LOOK } from './figure.js';
import { html, type Html } from './html.js';
import { mayBeLaid } from './lay.js';
import { frame, type PageFrame } from './page-frame.js';
import { mayBeTraced } from './yours.js';
import { firstShown, lessonHtml, queryOf, type LessonData, type Shown } from './lesson.js';

/** A published knot; `shown` as the address asks. Undefined when its document cannot be read. */
export function knotPage(
  page: PublicKnot,
  asked: Partial<Shown>,
  with_: PageFrame,
  course?: CourseOnPages,
): string | undefined {
  const read = readKnot(page.document);
  if (!read.ok) return undefined;
  const knot = read.value;
  const base = `/api/public/knots/${page.slug}`;
  const data: LessonData = {
    knot,
    house: page.house,
    words: page.vocabulary,
    terms: page.terms,
    otherSchools: page.otherSchools,
    files: base,
    finished: ({ index }, { method, view }) => `${base}/steps/${index + 1}.svg?method=${method + 1}&view=${view}`,
  };
  const first = firstShown(data);
  const place = course && placeInCourse(course, page.slug);
  const shown = {
    method: Math.min(asked.method ?? first.method, methodsOf(knot).length - 1),
    view: asked.view ?? first.view,
    course: place?.on.slug,
  };
  return frame(
    {
      title: knot.name,
      description: knot.entry.summary === '' ? `How to tie the ${knot.name}.` : knot.entry.summary,
      picture: `${base}/steps/last.svg`,
      isDesk: place !== undefined,
      main: html`<main>
        ${place && courseBar(place)}
        ${lessonHtml(data, shown, PAGE_LOOK, more(page, base, methodsOf(knot), shown, practiceOf(page, knot, shown)))}
        ${place && courseEnd(place)}
      </main>`,
    },
    with_,
  );
}

/** What is played of a film, as a part of its address (W3C, “Media Fragments URI 1.0”). */
const played = ({ cut }: Footage): string =>
  cut === undefined ? '' : `#t=${cut.map((t) => Math.round(t * 1000) / 1000).join(',')}`;

/** What of a film its page lays over it. */
const laidOver = ({ turned, steps, callouts, passages, steady }: Footage): object => ({
  turned,
  steps,
  callouts,
  passages,
  steady,
});

/** Address of the drawing of a step, its number left open. */
const stepPictures = (base: string, method: number, view: Shown['view']): string =>
  `${base}/steps/{step}.svg?method=${method + 1}&view=${view}`;

/** Where a knot is practised, by what one does there; nothing of a wrong way, nor of what is too small or too large for it. */
interface Practice {
  readonly practised?: string | undefined;
  readonly laid?: string | undefined;
  readonly traced?: string | undefined;
}
function practiceOf({ slug }: PublicKnot, knot: KnotDocument, { method, view }: Shown): Practice {
  const query = queryOf({ method, view: view === 'left' ? 'left' : 'front' });
  const { entry } = knot;
  return {
    practised:
      entry.wrongWayOf === undefined && mayBeAsked(finishedFigure(knot.method)) ? `/learn/${slug}/practice` : undefined,
    laid: mayBeLaid(knot) ? `/learn/${slug}/lay${query}` : undefined,
    traced: mayBeTraced(knot) ? `/learn/${slug}/yours${query}` : undefined,
  };
}

/** What the page adds to the lesson: the clip and the films of the method shown, for the hand that it is shown for, other pages, files to take away. */
function more(
  { clips, wrongWays }: PublicKnot,
  base: string,
  methods: readonly NamedMethod[],
  asked: Shown,
  { practised, laid, traced }: Practice,
): Html {
  const shown = Math.min(asked.method, methods.length - 1);
  const { method } = methods[shown] as NamedMethod;
  const steps = stepsOf(method).length;
  const films = finishedLayout(asked.view === 'left' ? leftHanded(method) : method).footage ?? [];
  const clip = clips.includes(shown);
  const way = shown === 0 ? '' : `?method=${shown + 1}`;
  return html`${
      clip &&
      html`<section class="clip">
        <h2>Watch it</h2>
        <!-- The captions are drawn into the picture too; the track is there for those who need it larger or read aloud. -->
        <video controls playsinline preload="metadata" poster="${base}/poster${way}" src="${base}/clip.webm${way}">
          <track kind="captions" srclang="en" label="English" src="${base}/captions.vtt${way}" />
          <track kind="chapters" srclang="en" label="Steps" src="${base}/chapters.vtt${way}" />
          <track kind="descriptions" srclang="en" label="What it shows" src="${base}/descriptions.vtt${way}" />
        </video>
        <div class="desk" hidden></div>
      </section>`
    }
    ${films.map(
      (film) =>
        html`<section
          class="film${film.turned === true && ' turned'}"
          ${
            (film.callouts ?? film.passages ?? film.steady) &&
            html`data-over="${JSON.stringify(laidOver(film))}" data-steps="${stepPictures(base, shown, asked.view)}"`
          }
        >
          <h2>Watch it tied: ${film.name}</h2>
          <video controls playsinline preload="metadata" src="${base}/films/${film.film}${played(film)}">
            ${
              film.captions &&
              html`<track
                kind="captions"
                srclang="en"
                label="English"
                ${film.turned !== true && html`default=""`}
                src="${base}/films/${film.film}/captions.vtt?hand=${asked.view === 'left' ? 'left' : 'right'}&amp;method=${shown + 1}"
              />`
            }
            ${
              film.steps &&
              html`<track
                kind="chapters"
                srclang="en"
                label="Steps"
                src="${base}/films/${film.film}/chapters.vtt?hand=${asked.view === 'left' ? 'left' : 'right'}&amp;method=${shown + 1}"
              />`
            }
          </video>
          <div class="desk" hidden></div>
          ${
            film.callouts &&
            html`<details class="said">
              <summary>What is written on it</summary>
              ${film.callouts.map((c) => html`<p>${(c.keys[0]?.at ?? 0).toFixed(1)} s: ${c.text === '' ? 'a ring round what is meant' : c.text}</p>`)}
            </details>`
          }
          ${
            film.captions &&
            html`<details class="said">
              <summary>What is said</summary>
              ${film.captions.map((c) => html`<p>${c.text}</p>`)}
            </details>`
          }
        </section>`,
    )}
    ${
      wrongWays.length > 0 &&
      html`<section class="wrong">
        <h2>Ways it goes wrong</h2>
        <ul>
          ${wrongWays.map((w) => html`<li><a href="/learn/${w.slug}">${w.name}</a></li>`)}
        </ul>
      </section>`
    }
    ${
      (practised ?? laid ?? traced) &&
      html`<section class="practise">
        <h2>Practise it</h2>
        <ul>
          ${
            practised &&
            html`<li>
              <a href="${practised}">Spot the slip</a>: which is it, where is it wrong, which hand, which side. A few
              questions a day.
            </li>`
          }
          ${
            laid &&
            html`<li>
              <a href="${laid}">Lay it yourself</a> on the screen, move by move; what a wrong crossing makes of it is
              told.
            </li>`
          }
          ${
            traced &&
            html`<li>
              <a href="${traced}">Show your knot</a>: trace yours over a photograph, and be told what it is. Nothing is
              sent.
            </li>`
          }
        </ul>
      </section>`
    }
    <section class="files">
      <h2>Take it with you</h2>
      <p>
        <a href="${base}/sheet.svg" download>Sheet (SVG)</a>
        ${Array.from({ length: steps }, (_, i) => html`<a href="${base}/steps/${i + 1}.svg${way}" download>Step ${i + 1} (SVG)</a> `)}
        <a href="${base}/figure.json" download>Figure (JSON)</a>
        <a href="${base}/captions.vtt${way}" download>Captions (WebVTT)</a>
        ${clip && html`<a href="${base}/clip.webm${way}" download>Clip (WebM)</a>`}
        <button type="button" data-print hidden>Print</button>
      </p>
      <p data-offline=""></p>
    </section>`;
}

export interface PublishedList {
  readonly house: string;
  readonly knots: readonly Listed[];
  readonly courses: readonly (Listed & { readonly count: number })[];
}
interface Listed {
  readonly name: string;
  readonly slug: string;
  readonly summary: string;
}

/** What a house has published, for learners. */
export const listPage = ({ house, knots, courses }: PublishedList, with_: PageFrame): string =>
  frame(
    {
      title: 'Published knots',
      description: `Knots that ${house} teaches, step by step.`,
      main: html`<main class="published">
        <h1>Published by ${house}</h1>
        ${
          courses.length > 0 &&
          html`<h2>Courses</h2>
            <ul>
              ${courses.map(
                (c) =>
                  html`<li class="card">
                    <a href="/learn/courses/${c.slug}"
                      ><span class="told"
                        ><b>${c.name}</b
                        ><span class="soft">${c.count} ${c.count === 1 ? 'part' : 'parts'}. ${c.summary}</span></span
                      ></a
                    >
                  </li>`,
              )}
            </ul>
            <h2>Knots</h2>`
        }
        <ul>
          ${knots.map(
            (k) =>
              html`<li class="card" data-knot="${k.slug}">
                <a href="/learn/${k.slug}">
                  <img
                    src="/api/public/knots/${k.slug}/steps/last.svg"
                    alt=""
                    width="200"
                    height="130"
                    loading="lazy"
                  />
                  <span class="told"><b>${k.name}</b><span class="soft">${k.summary}</span></span>
                </a>
              </li>`,
          )}
          ${knots.length === 0 && html`<li class="soft">Nothing is published yet.</li>`}
        </ul>
      </main>`,
    },
    with_,
  );

/** What stands where no page is, and why. */
export const missingPage = (title: string, text: string, with_: PageFrame): string =>
  frame(
    {
      title,
      description: text,
      main: html`<main class="note card" role="alert">
        <h1>${title}</h1>
        <p>${text}</p>
        <a href="/learn">Published knots</a>
      </main>`,
    },
    with_,
  );
