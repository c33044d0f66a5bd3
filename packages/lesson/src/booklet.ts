/**
 * A course as a booklet: pages that stand by themselves, and open from a memory stick without a server. Addresses are relative; there are no
 * scripts. What it needs beside its pages (pictures in the hand, fonts) it names, and whoever makes it puts there.
 */
import type { PublicKnot } from '@foxtrail/contract';
import {
  figureToSet,
  finishedLayout,
  idFrom,
  methodsOf,
  readKnot,
  STATION_NAMES,
  stepsOf,
  type KnotDocument,
} from '@foxtrail/core';
import { lift } from '@foxtrail/core/lift';
import { FigureWriter, PAGE_LOOK } from './figure.js';
import { html, raw, type Html } from './html.js';
import { firstShown, lessonHtml } from './lesson.js';
import { inspectionCard } from './parts.js';
import { pageStyle } from './page-frame.js';
import { rigGroups, rigHtml, type Rig } from './rig.js';

interface Entry {
  readonly name: string;
  readonly goal: string;
  /** What it takes, as it is said. */
  readonly time: string;
}
/** A lesson of the booklet. */
export interface BookletLesson extends Entry {
  readonly kind: 'lesson';
  readonly knot: PublicKnot;
}
/** An assembly of the booklet. */
export interface BookletRig extends Entry, Omit<Rig, 'name'> {
  readonly kind: 'assembly';
}
export type BookletEntry = BookletLesson | BookletRig;

/** A word that the booklet uses, and the lessons that say it, by their place in it. */
export interface BookletWord {
  readonly word: string;
  readonly definition: string;
  readonly entries: readonly number[];
}

export interface Booklet {
  readonly name: string;
  readonly house: string;
  readonly summary: string;
  readonly goals: readonly string[];
  readonly made: string;
  readonly time: string;
  readonly entries: readonly BookletEntry[];
  readonly words: readonly BookletWord[];
  /** What is cut, rope by rope. */
  readonly ropes: readonly { readonly name: string; readonly length: string; readonly copies: number }[];
}

export interface BookletPage {
  readonly path: string;
  readonly text: string;
}
/** A picture that a page shows: where it stands in the booklet, and where it is fetched from. */
export interface BookletPicture {
  readonly path: string;
  readonly from: string;
}

const slugOf = (entry: BookletEntry, i: number): string =>
  `${String(i + 1).padStart(2, '0')}-${idFrom(entry.name) || 'page'}`;
const pageOf = (entry: BookletEntry, i: number): string => `${slugOf(entry, i)}.html`;

/** Where the pictures of a lesson stand in the booklet. */
export const pictureFolder = ({ slug }: PublicKnot): string => `pictures/${slug}`;

/** What a lesson needs of pictures: its finishing steps, and the knot in the hand from all sides. */
export function picturesOf({ knot: page }: BookletLesson): BookletPicture[] {
  const read = readKnot(page.document);
  if (!read.ok) return [];
  const base = `/api/public/knots/${page.slug}`;
  const { method, view } = firstShown(lessonOf(page, read.value));
  const shown = methodsOf(read.value)[method]?.method ?? read.value.method;
  return [
    ...stepsOf(shown)
      .filter((s) => s.does !== 'lay')
      .map(({ index }) => ({
        path: `${pictureFolder(page)}/step-${index + 1}.svg`,
        from: `${base}/steps/${index + 1}.svg?method=${method + 1}&view=${view}`,
      })),
    // Of what cannot be set there is no picture in the hand.
    ...(lift(figureToSet(shown)).ok ? STATION_NAMES : []).map((side) => ({
      path: `${pictureFolder(page)}/form/${side}.svg`,
      from: `${base}/form/${side}.svg${view === 'left' ? '?hand=left' : ''}`,
    })),
  ];
}

const lessonOf = (page: PublicKnot, knot: KnotDocument): Parameters<typeof lessonHtml>[0] => ({
  knot,
  house: page.house,
  words: page.vocabulary,
  terms: page.terms,
  otherSchools: page.otherSchools,
  files: pictureFolder(page),
  finished: ({ index }) => `${pictureFolder(page)}/step-${index + 1}.svg`,
});

/** Pages are the same for the eye and on paper: every step is there, no player. */
const STYLE = `
  .lesson .player, .lesson .turning, .lesson .methods { display: none; }
  .book { max-width: 60rem; margin: 0 auto; padding: 1rem 1.25rem 3rem; }
  .book .turn { display: flex; flex-wrap: wrap; gap: .5rem 1.5rem; margin: 1.5rem 0; }
  .book .contents { padding-inline-start: 1.6rem; }
  .book .contents li { margin: .5rem 0; }
  .book .rig-board { overflow-x: auto; }
  .book .rig-board svg { display: block; width: 100%; min-width: 40rem; height: auto; }
  @media print { .book .rig-board svg { min-width: 0; } }
  .book .check { list-style: none; padding: 0; }
  .book .check li { padding-block: .3rem; padding-inline-start: 2rem; position: relative; border-top: 1px solid var(--line); }
  .book .check li::before { content: ''; position: absolute; inset-inline-start: .2rem; top: .55rem; width: 1rem; height: 1rem; border: 2px solid currentColor; }
  .book dt { font-weight: 700; margin-top: .8rem; }
  .book dd { margin: 0; }
  header.bar { flex-wrap: wrap; height: auto; min-height: 48px; padding-block: 4px; }
  header.bar .mark { min-width: 0; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .book .cover { min-height: 40vh; padding-top: 12vh; }
  .book section.card { padding: 1rem 1.25rem; margin: 1rem 0; break-inside: avoid; }
  @media print { .book .turn, header.bar { display: none; } .book { padding: 0; } }
`;

function frame(booklet: Booklet, title: string, main: Html, turn: Html | false = false): string {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <title>${title}</title>
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="color-scheme" content="light dark" />
        <link rel="stylesheet" href="style.css" />
        ${raw(`<style>${pageStyle()}${STYLE}</style>`)}
      </head>
      <body>
        <header class="bar">
          <a class="mark" href="index.html">${booklet.name}</a>
          <nav aria-label="Booklet"><a href="words.html">Words</a><a href="cards.html">Cards</a></nav>
        </header>
        <main class="book">${main}${turn}</main>
      </body>
    </html>`.text;
}

/** From page to page. */
const turnOf = ({ entries }: Booklet, i: number): Html => {
  const link = (k: number, says: string): Html | false => {
    const entry = entries[k];
    return entry !== undefined && html`<a href="${pageOf(entry, k)}">${says}: ${entry.name}</a>`;
  };
  return html`<nav class="turn" aria-label="Pages">
    ${link(i - 1, 'Before')}<a href="index.html">Contents</a>${link(i + 1, 'Next')}
  </nav>`;
};

function cardOf(entry: BookletEntry, i: number): Html | false {
  if (entry.kind === 'assembly')
    return html`<h2>${entry.name}</h2>
      ${rigGroups(entry, 'on paper')}`;
  const read = readKnot(entry.knot.document);
  if (!read.ok || (finishedLayout(read.value.method).marks ?? []).length === 0) return false;
  const draw = new FigureWriter(PAGE_LOOK, `card-${i}`);
  return html`<section class="card inspect">
    <h2>${entry.name}</h2>
    ${inspectionCard(read.value.method, entry.knot.vocabulary, draw)}
  </section>`;
}

const cover = (booklet: Booklet): Html =>
  html`<div class="cover">
      <h1>${booklet.name}</h1>
      ${booklet.summary !== '' && html`<p class="summary">${booklet.summary}</p>`}
      <p class="soft">${booklet.house}, ${booklet.made}</p>
      ${
        booklet.goals.length > 0 &&
        html`<h2>After it you can</h2>
          <ul>
            ${booklet.goals.map((g) => html`<li>${g}</li>`)}
          </ul>`
      }
    </div>
    <h2>Contents</h2>
    <ol class="contents">
      ${booklet.entries.map(
        (e, i) =>
          html`<li>
            <a href="${pageOf(e, i)}">${e.name}</a> <span class="soft">${e.time}</span>${
              e.goal !== '' && html`<br />${e.goal}`
            }
          </li>`,
      )}
    </ol>
    <p class="soft">In all ${booklet.time}.</p>
    <p><a href="words.html">Words and index</a> · <a href="cards.html">Inspection cards</a></p>
    ${
      booklet.ropes.length > 0 &&
      html`<h2>Ropes</h2>
        <ul>
          ${booklet.ropes.map((r) => html`<li>${r.name}: ${r.length}${r.copies > 1 && `, ${r.copies} of them`}</li>`)}
        </ul>`
    }
    <p class="soft">
      This booklet is no training. Where people can be hurt, learn from a qualified instructor, follow local codes and
      the makers’ instructions.
    </p>`;

/** Words as they are defined here, and every name with its pages. */
function wordsHtml({ words, entries }: Booklet): Html {
  const links = (of: readonly number[]): Html =>
    html`${of.map((i, k) => {
      const entry = entries[i];
      return entry !== undefined && html`${k > 0 && ', '}<a href="${pageOf(entry, i)}">${entry.name}</a>`;
    })}`;
  const names = entries
    .flatMap((entry, i) => {
      const read = entry.kind === 'lesson' ? readKnot(entry.knot.document) : undefined;
      const aliases = read?.ok === true ? read.value.entry.aliases : [];
      return [entry.name, ...aliases].map((name) => ({ name, i }));
    })
    .sort((a, b) => a.name.localeCompare(b.name));
  return html`<h1>Words</h1>
    <dl>
      ${words.map(
        (w) =>
          html`<dt>${w.word}</dt>
            <dd>${w.definition} <span class="soft">${links(w.entries)}</span></dd>`,
      )}
    </dl>
    <h2>Index</h2>
    <ul>
      ${names.map(({ name, i }) => html`<li>${name}: ${links([i])}</li>`)}
    </ul>`;
}

/** The pages of a booklet, one after the other, so that whoever makes it can say how far it is. */
export function* bookletPages(booklet: Booklet): Generator<BookletPage, void> {
  yield { path: 'index.html', text: frame(booklet, booklet.name, cover(booklet)) };
  for (const [i, entry] of booklet.entries.entries()) {
    const title = `${entry.name} · ${booklet.name}`;
    const turn = turnOf(booklet, i);
    if (entry.kind === 'assembly') {
      yield { path: pageOf(entry, i), text: frame(booklet, title, rigHtml(entry, 'on paper'), turn) };
      continue;
    }
    const read = readKnot(entry.knot.document);
    // What is published was read when it was published.
    if (!read.ok) continue;
    const data = lessonOf(entry.knot, read.value);
    const main = lessonHtml(data, firstShown(data), PAGE_LOOK);
    yield { path: pageOf(entry, i), text: frame(booklet, title, main, turn) };
  }
  yield { path: 'words.html', text: frame(booklet, `Words · ${booklet.name}`, wordsHtml(booklet)) };
  yield {
    path: 'cards.html',
    text: frame(
      booklet,
      `Inspection cards · ${booklet.name}`,
      html`<h1>Inspection cards</h1>
        ${booklet.entries.map(cardOf)}`,
    ),
  };
}
