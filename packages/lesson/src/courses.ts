/**
 * A course as learners go through it: its contents, the bar by which a lesson leads on to the next, and its assemblies. How far one has come is kept
 * in the browser (see `browser/course`).
 */
import type { PublishedCourse } from '@foxtrail/contract/courses';
import { assemblyCautions, assemblySvg } from '@foxtrail/core/assembly';
import { html, type Html } from './html.js';
import { frame, type PageFrame } from './page-frame.js';
import { rigHtml } from './rig.js';

/** A published course, and where its lessons are published now, by the ids of their knots. */
export interface CourseOnPages {
  readonly slug: string;
  readonly course: PublishedCourse;
  readonly lessons: Readonly<Record<string, string>>;
}
type Item = PublishedCourse['items'][number];

const addressOf = ({ slug }: CourseOnPages): string => `/learn/courses/${slug}`;

/** Where an item is; undefined of a lesson that is withdrawn. */
function placeOf(on: CourseOnPages, index: number): string | undefined {
  const item = on.course.items[index];
  if (!item) return undefined;
  if (item.kind === 'assembly') return `${addressOf(on)}/${index + 1}`;
  const lesson = on.lessons[item.knot];
  return lesson === undefined ? undefined : `/learn/${lesson}?course=${on.slug}`;
}

/** By what a browser keeps that an item is done. */
const keyOf = (item: Item): string => (item.kind === 'lesson' ? item.knot : `assembly ${item.name}`);

/** Where a page stands in a course. */
export interface CoursePlace {
  readonly on: CourseOnPages;
  readonly index: number;
}

/** Where the lesson at an address stands in a course; undefined where it is not in it. */
export function placeInCourse(on: CourseOnPages, lesson: string): CoursePlace | undefined {
  const index = on.course.items.findIndex((i) => i.kind === 'lesson' && on.lessons[i.knot] === lesson);
  return index < 0 ? undefined : { on, index };
}

/** The bar above a page of a course: where one is, and what comes before and after. */
export function courseBar({ on, index }: CoursePlace): Html {
  const { course, slug } = on;
  const link = (k: number, says: string, way: 'prev' | 'next'): Html | false => {
    const address = placeOf(on, k);
    const item = course.items[k];
    return (
      address !== undefined &&
      item !== undefined &&
      html`<a href="${address}" rel="${way}" aria-label="${way === 'prev' ? 'Before it' : 'Next'}: ${item.name}"
        >${says}</a
      >`
    );
  };
  return html`<nav
    class="course-bar"
    aria-label="Course"
    data-course="${slug}"
    data-item="${keyOf(course.items[index] as Item)}"
  >
    <a href="${addressOf(on)}"><b>${course.name}</b></a>
    <span>${index + 1} of ${course.items.length}</span>
    <span class="space"></span>
    ${link(index - 1, 'Before', 'prev')} ${link(index + 1, 'Next', 'next')}
  </nav>`;
}

/** What stands at the end of a page of a course: that one can do it, and on to the next. */
export function courseEnd({ on, index }: CoursePlace): Html {
  const { course } = on;
  const item = course.items[index] as Item;
  const next = placeOf(on, index + 1);
  return html`<section class="course-end card">
    ${item.goal !== '' && html`<p>After it: ${item.goal}</p>`}
    <label data-done="" hidden><input type="checkbox" /> I can do it</label>
    ${
      next === undefined
        ? html`<a class="go" href="${addressOf(on)}">To the contents</a>`
        : html`<a class="go onward" href="${next}">Next: ${course.items[index + 1]?.name ?? ''}</a>`
    }
  </section>`;
}

/** The contents of a course. */
export function coursePage(on: CourseOnPages, house: string, with_: PageFrame): string {
  const { course, slug } = on;
  return frame(
    {
      title: course.name,
      description: course.summary === '' ? `A course of ${house}.` : course.summary,
      isDesk: true,
      main: html`<main class="course" data-course="${slug}">
        <article class="lesson">
          <header>
            <h1>${course.name}</h1>
            <p class="soft">A course of ${house}, ${course.time} in all</p>
            ${course.summary !== '' && html`<p class="summary">${course.summary}</p>`}
          </header>
          ${
            course.goals.length > 0 &&
            html`<section>
              <h2>After it you can</h2>
              <ul>
                ${course.goals.map((g) => html`<li>${g}</li>`)}
              </ul>
            </section>`
          }
          <div class="come" hidden><progress max="${course.items.length}" value="0"></progress> <span></span></div>
          <ol class="course-items">
            ${course.items.map((item, i) => {
              const address = placeOf(on, i);
              const lesson = item.kind === 'lesson' ? on.lessons[item.knot] : undefined;
              return html`<li data-item="${keyOf(item)}">
                ${lesson !== undefined && html`<img src="/api/public/knots/${lesson}/steps/last.svg" alt="" width="120" height="90" loading="lazy" />`}
                <span class="told">
                  ${address === undefined ? html`<b>${item.name}</b>` : html`<a href="${address}"><b>${item.name}</b></a>`}
                  <span class="soft">${item.kind === 'assembly' && 'assembly'} ${item.time}</span>
                  ${item.goal !== '' && html`<span>${item.goal}</span>`}
                  ${address === undefined && html`<span class="soft">This lesson is not published at present.</span>`}
                </span>
              </li>`;
            })}
          </ol>
          <p data-offline="" hidden></p>
          <p class="soft" data-kept="" hidden>
            What you ticked is kept in this browser alone. <button type="button" data-forget="">Forget it here</button>
          </p>
          <p class="soft">
            No page replaces training. Where people can be hurt, learn from a qualified instructor, follow local codes
            and the makers’ instructions.
          </p>
        </article>
      </main>`,
    },
    with_,
  );
}

/** An assembly of a course, by its place in it; undefined where there is none. */
export function courseRigPage(on: CourseOnPages, index: number, with_: PageFrame): string | undefined {
  const item = on.course.items[index];
  if (item?.kind !== 'assembly') return undefined;
  const { assembly: is, patterns } = item;
  /** The lesson of a knot, where it is published. */
  const lessonOf = (ref: string): string | undefined => on.lessons[ref.replace(/^knot:/, '')];
  const pictureOf = (ref: string): string | undefined => {
    const pattern = patterns[ref] ?? (ref.startsWith('pattern:') ? ref.slice('pattern:'.length) : undefined);
    if (pattern !== undefined) return `/api/public/patterns/${pattern}/form/front.svg`;
    const lesson = lessonOf(ref);
    return lesson === undefined ? undefined : `/api/public/knots/${lesson}/steps/last.svg`;
  };
  const order = html`<h2>In this order</h2>
    <ol class="course-items">
      ${is.knots.map((k) => {
        const lesson = lessonOf(k.ref);
        const picture = pictureOf(k.ref);
        return html`<li>
          ${picture !== undefined && html`<img src="${picture}" alt="" width="120" height="90" loading="lazy" />`}
          <span class="told">
            <b>${k.role}</b>
            ${lesson === undefined ? html`<span>${k.name}</span>` : html`<a href="/learn/${lesson}?course=${on.slug}">${k.name}</a>`}
          </span>
        </li>`;
      })}
    </ol>`;
  const place: CoursePlace = { on, index };
  const rig = {
    name: item.name,
    summary: is.summary,
    useGrade: is.useGrade,
    cautions: assemblyCautions(is),
    board: assemblySvg(is, pictureOf),
    groups: item.groups,
  };
  return frame(
    {
      title: item.name,
      description: is.summary === '' ? `${item.name}, knot by knot.` : is.summary,
      isDesk: true,
      main: html`<main class="course">
        ${courseBar(place)}${rigHtml(rig, 'on a screen', order)}${courseEnd(place)}
      </main>`,
    },
    with_,
  );
}
