/**
 * A course on paper: the booklet, and pocket cards to be cut out and folded, as documents for the PDF library. Every picture is drawn in lines, so
 * that it is sharp at any size.
 */
import {
  cautionsFor,
  classLabel,
  drawStep,
  methodsOf,
  PAPER_LOOK,
  pictureBox,
  readKnot,
  stepsOf,
  stepText,
  svgPieces,
  leftHanded,
  type Box,
  type Drawing,
  type KnotDocument,
  type Method,
  type View,
} from '@foxtrail/core';
import type { Content, StyleDictionary, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { pictureFolder, type Booklet, type BookletEntry, type BookletLesson, type BookletRig } from './booklet.js';
import { markMarkup, type FigureMark } from './figure.js';
import { firstShown } from './lesson.js';
import { inspectedFaces, sayTail } from './parts.js';

export const PAPER_SIZES = ['A4', 'LETTER'] as const;
export type PaperSize = (typeof PAPER_SIZES)[number];

export interface OnPaper {
  readonly size: PaperSize;
  /** Pictures by where they stand in the booklet, as SVG; undefined where one could not be fetched. */
  readonly picture: (path: string) => string | undefined;
}

/** Points of a page: a PDF's unit is 1/72 inch. */
const PAGES: Readonly<Record<PaperSize, readonly [width: number, height: number]>> = {
  A4: [595.28, 841.89],
  LETTER: [612, 792],
};
const MARGIN = 44;
const INK = '#1f2a33';
const SOFT = '#53606a';

const STYLES: StyleDictionary = {
  title: { font: 'Head', fontSize: 32, lineHeight: 1.1 },
  name: { font: 'Head', fontSize: 24, margin: [0, 0, 0, 4] },
  head: { font: 'Head', fontSize: 15, margin: [0, 12, 0, 4] },
  soft: { color: SOFT },
  small: { fontSize: 9 },
};

/** Pictures narrower than this for their height stand three in a row. */
const NARROW = 1;
const shapeOf = ([l, t, r, b]: Box): number => (r - l) / (b - t);

/** Height and breadth of a picture that fills what room there is. */
const fitted = ([l, t, r, b]: Box, width: number, height: number): { width: number; height: number } => {
  const scale = Math.min(width / (r - l), height / (b - t));
  return { width: (r - l) * scale, height: (b - t) * scale };
};

/** A drawing with its marks, in the colours of paper. */
function drawn(drawing: Drawing, box: Box, name: string, marks: readonly FigureMark[] = []): string {
  const [l, t, r, b] = box;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${l} ${t} ${r - l} ${b - t}" width="${r - l}" height="${b - t}"><rect x="${l}" y="${t}" width="${r - l}" height="${b - t}" fill="${PAPER_LOOK.paper}"/><g fill="none" stroke-linejoin="round">${svgPieces(drawing, PAPER_LOOK, name, box).join('')}</g>${markMarkup(marks, box, INK, PAPER_LOOK.paper)}</svg>`;
}

/** The part of an SVG between its outermost tags, its ids made its own, and how much it shows. */
function insides(svg: string, name: string): { viewBox: string; inner: string } | undefined {
  const found = /^[^<]*(?:<\?xml[^>]*>\s*)?<svg\b([^>]*)>([\s\S]*)<\/svg>\s*$/.exec(svg);
  const viewBox = /viewBox="([^"]*)"/.exec(found?.[1] ?? '')?.[1];
  if (!found || viewBox === undefined) return undefined;
  const inner = (found[2] ?? '')
    .replace(/\bid="/g, `id="${name}-`)
    .replace(/url\(#/g, `url(#${name}-`)
    .replace(/href="#/g, `href="#${name}-`);
  return { viewBox, inner };
}

/** A board whose pictures stand in it themselves, and whose letters have their halo beneath them: the library knows no other way. */
export function boardOnPaper(board: string, picture: OnPaper['picture']): string {
  let count = 0;
  return board
    .replace(
      /<image href="([^"]*)" x="([^"]*)" y="([^"]*)" width="([^"]*)" height="([^"]*)"\/>/g,
      (_all, href: string, x: string, y: string, width: string, height: string) => {
        const svg = picture(href);
        const own = svg === undefined ? undefined : insides(svg, `board${(count += 1)}`);
        return own
          ? `<svg x="${x}" y="${y}" width="${width}" height="${height}" viewBox="${own.viewBox}">${own.inner}</svg>`
          : '';
      },
    )
    .replace(
      /<text([^>]*) paint-order="stroke"([^>]*)>([\s\S]*?)<\/text>/g,
      (_all, a: string, b: string, text: string) => {
        const bare = `${a}${b}`.replace(/ stroke(?:-[a-z]+)?="[^"]*"/g, '');
        return `<text${a}${b}>${text}</text><text${bare}>${text}</text>`;
      },
    );
}

/** Lines that are ticked by a pen. */
const BOX =
  '<svg viewBox="0 0 10 10" width="10" height="10"><rect x="1" y="1" width="8" height="8" fill="none" stroke="#1f2a33" stroke-width="1.2"/></svg>';
const checked = (texts: readonly string[], size = 10): Content => ({
  stack: texts.map((text) => ({
    columns: [
      { svg: BOX, width: size - 1, height: size - 1, margin: [0, 2, 0, 0] },
      { text, fontSize: size, width: '*' },
    ],
    columnGap: 6,
    margin: [0, 2, 0, 2],
  })),
});

interface Sheet {
  readonly width: number;
  readonly on: OnPaper;
}

/** Things side by side, in rows that no page cuts in two. */
function inRows(cells: readonly Content[], columns: number): Content {
  const rows: TableCell[][] = [];
  for (let i = 0; i < cells.length; i += columns)
    rows.push(Array.from({ length: columns }, (_, k): TableCell => cells[i + k] ?? ''));
  return {
    table: { widths: Array.from({ length: columns }, () => '*'), body: rows, dontBreakRows: true },
    layout: 'noBorders',
  };
}

/** The method and the view that a lesson shows first, as they are said. */
function shownOf(page: BookletLesson['knot'], knot: KnotDocument): { drawn: Method; said: Method; view: View } {
  const { method, view } = firstShown({ knot, house: page.house, words: page.vocabulary, terms: [], otherSchools: [] });
  const chosen = methodsOf(knot)[method]?.method ?? knot.method;
  return { drawn: chosen, said: view === 'left' ? leftHanded(chosen) : chosen, view };
}

function stepsOnPaper({ knot: page }: BookletLesson, knot: KnotDocument, { width, on }: Sheet): Content {
  const { drawn: method, said, view } = shownOf(page, knot);
  const shapes = stepsOf(method).map(({ index }) => shapeOf(pictureBox(method, index, view)));
  const columns = Math.max(0, ...shapes) < NARROW ? 3 : 2;
  const room = { width: width / columns - 10, height: 138 };
  const cells = stepsOf(method).map((step): Content => {
    const fetched = step.does === 'lay' ? undefined : on.picture(`${pictureFolder(page)}/step-${step.index + 1}.svg`);
    const box = pictureBox(method, step.index, view);
    const picture: Content =
      fetched === undefined
        ? {
            svg: drawn(drawStep(method, step.index, { view }), box, `s${step.index}-`),
            ...fitted(box, room.width, room.height),
          }
        : { svg: fetched, fit: [room.width, room.height] };
    return {
      stack: [
        picture,
        {
          text: [
            { text: `${step.index + 1}  `, font: 'Head', fontSize: 14 },
            stepText(said, step.index, page.vocabulary),
          ],
          margin: [0, 4, 0, 10],
        },
      ],
    };
  });
  return cells.length === 0 ? { text: 'It has no steps yet.', style: 'soft' } : inRows(cells, columns);
}

const cautioned = (cautions: readonly string[]): Content => ({
  table: {
    widths: ['*'],
    body: [
      [
        {
          stack: [{ text: 'Before you begin', bold: true }, { ul: [...cautions] }],
          fillColor: '#fbe6d6',
          margin: [6, 4, 6, 4],
        },
      ],
    ],
  },
  layout: 'noBorders',
  margin: [0, 8, 0, 8],
});

function dressed({ knot: page }: BookletLesson, { width, on }: Sheet): Content[] {
  const sides = (['front', 'back'] as const).flatMap((side): Content[] => {
    const svg = on.picture(`${pictureFolder(page)}/form/${side}.svg`);
    const says = side === 'front' ? 'As tied' : 'From behind';
    return svg === undefined
      ? []
      : [
          {
            stack: [
              { svg, fit: [width / 2 - 10, 170] },
              { text: says, style: ['soft', 'small'] },
            ],
          },
        ];
  });
  return sides.length === 0
    ? []
    : [{ stack: [{ text: 'Dressed and set', style: 'head' }, inRows(sides, 2)], unbreakable: true }];
}

function looked(method: Method, { knot: page }: BookletLesson, { width }: Sheet): Content[] {
  const { faces, said } = inspectedFaces(method, page.vocabulary);
  if (said.length === 0) return [];
  const cells = faces.map(({ name, drawing, box, marks }): Content => ({
    stack: [
      { svg: drawn(drawing, box, `f${name}-`, marks), ...fitted(box, width / 2 - 10, 150) },
      { text: name, style: ['soft', 'small'] },
    ],
  }));
  return [
    {
      stack: [
        { text: 'Look at the finished knot', style: 'head' },
        inRows(cells, 2),
        { ol: said.map((m) => ({ text: [{ text: `${m.side}. `, bold: true }, m.text] })) },
      ],
      unbreakable: true,
    },
  ];
}

/** A part begins a page, and stands in the contents. */
const named = (entry: BookletEntry, id: string): Content => ({
  text: entry.name,
  style: 'name',
  id,
  pageBreak: 'before',
  tocItem: true,
  tocMargin: [0, 4, 0, 0],
});

function lessonOnPaper(entry: BookletLesson, id: string, sheet: Sheet): Content[] {
  const { knot: page } = entry;
  const read = readKnot(page.document);
  // What is published was read when it was published.
  if (!read.ok) return [];
  const { entry: is } = read.value;
  const chips = [classLabel(is.class, page.house.classSchool), is.useGrade, entry.time].filter((t) => t !== '');
  return [
    named(entry, id),
    { text: chips.join(' · '), style: 'soft' },
    ...(is.summary === '' ? [] : [{ text: is.summary, margin: [0, 6, 0, 0] } satisfies Content]),
    ...(entry.goal === '' ? [] : [{ text: [{ text: 'After it: ', bold: true }, entry.goal] } satisfies Content]),
    cautioned(cautionsFor(is.useGrade, is.cautions)),
    { text: [{ text: 'Tail. ', bold: true }, sayTail(read.value, page.house, page.vocabulary)], margin: [0, 0, 0, 4] },
    ...page.terms.map((t): Content => ({ text: [{ text: `${t.word} `, bold: true }, t.definition] })),
    { text: 'Step by step', style: 'head' },
    stepsOnPaper(entry, read.value, sheet),
    ...dressed(entry, sheet),
    ...looked(shownOf(page, read.value).said, entry, sheet),
  ];
}

const groupsOnPaper = ({ groups }: BookletRig): Content[] =>
  groups.map((g): Content => ({
    stack: [
      { text: `${g.number === null ? '' : `${g.number}. `}${g.title}`, bold: true, margin: [0, 8, 0, 2] },
      checked(g.items.map((i) => i.text)),
    ],
    unbreakable: true,
  }));

function rigOnPaper(entry: BookletRig, id: string, { width, on }: Sheet): Content[] {
  return [
    named(entry, id),
    { text: [entry.useGrade, entry.time].filter((t) => t !== '').join(' · '), style: 'soft' },
    ...(entry.summary === '' ? [] : [{ text: entry.summary, margin: [0, 6, 0, 0] } satisfies Content]),
    cautioned(cautionsFor(entry.useGrade, entry.cautions)),
    { svg: boardOnPaper(entry.board, on.picture), fit: [width, 330] },
    { text: 'Not to scale. The numbers are the order of tying.', style: ['soft', 'small'] },
    { text: 'Look at it before it is loaded', style: 'head' },
    ...groupsOnPaper(entry),
  ];
}

const NO_TRAINING =
  'This is no training. Where people can be hurt, learn from a qualified instructor, follow local codes and the makers’ instructions.';

function cover(booklet: Booklet): Content[] {
  return [
    { text: booklet.name, style: 'title', margin: [0, 150, 0, 12] },
    ...(booklet.summary === '' ? [] : [{ text: booklet.summary, fontSize: 14 } satisfies Content]),
    { text: `${booklet.house}, ${booklet.made}. In all ${booklet.time}.`, style: 'soft', margin: [0, 10, 0, 0] },
    ...(booklet.goals.length === 0
      ? []
      : [{ text: 'After it you can', style: 'head' } satisfies Content, { ul: [...booklet.goals] } satisfies Content]),
    { text: NO_TRAINING, style: 'soft', margin: [0, 30, 0, 0] },
    { toc: { title: { text: 'Contents', style: 'name' } }, pageBreak: 'before' },
    ...(booklet.ropes.length === 0
      ? []
      : [
          { text: 'Ropes', style: 'head' } satisfies Content,
          {
            ul: booklet.ropes.map((r) => `${r.name}: ${r.length}${r.copies > 1 ? `, ${r.copies} of them` : ''}`),
          } satisfies Content,
        ]),
  ];
}

const idOf = (i: number): string => `part-${i + 1}`;

/** Words as they are defined, and every name with its page. */
function wordsOnPaper({ words, entries }: Booklet): Content[] {
  const names = entries
    .flatMap((entry, i) => {
      const read = entry.kind === 'lesson' ? readKnot(entry.knot.document) : undefined;
      return [entry.name, ...(read?.ok === true ? read.value.entry.aliases : [])].map((name) => ({ name, i }));
    })
    .sort((a, b) => a.name.localeCompare(b.name));
  return [
    ...(words.length === 0
      ? []
      : [
          {
            text: 'Words',
            style: 'name',
            pageBreak: 'before',
            tocItem: true,
            tocMargin: [0, 4, 0, 0],
          } satisfies Content,
          ...words.map((w): Content => ({
            text: [{ text: `${w.word} `, bold: true }, w.definition],
            margin: [0, 2, 0, 2],
          })),
        ]),
    { text: 'Index', style: 'name', tocItem: true, tocMargin: [0, 4, 0, 0], margin: [0, 16, 0, 4] },
    ...names.map(({ name, i }): Content => ({ text: [`${name}  `, { pageReference: idOf(i), color: SOFT }] })),
  ];
}

const documentOf = (
  booklet: Booklet,
  size: PaperSize,
  content: Content[],
  more: Partial<TDocumentDefinitions> = {},
): TDocumentDefinitions => ({
  pageSize: size,
  pageMargins: [MARGIN, MARGIN, MARGIN, MARGIN + 10],
  info: { title: booklet.name, author: booklet.house },
  defaultStyle: { font: 'Text', fontSize: 11, lineHeight: 1.2, color: INK },
  styles: STYLES,
  content,
  ...more,
});

/** The booklet: cover, contents, a part for each lesson and assembly, words and index. */
export function bookletOnPaper(booklet: Booklet, on: OnPaper): TDocumentDefinitions {
  const sheet: Sheet = { width: PAGES[on.size][0] - 2 * MARGIN, on };
  return documentOf(
    booklet,
    on.size,
    [
      ...cover(booklet),
      ...booklet.entries.flatMap((e, i) =>
        e.kind === 'lesson' ? lessonOnPaper(e, idOf(i), sheet) : rigOnPaper(e, idOf(i), sheet),
      ),
      ...wordsOnPaper(booklet),
    ],
    {
      footer: (page, pages) => ({
        columns: [
          { text: `${booklet.house} · ${booklet.name}` },
          { text: page === 1 ? '' : `${page} of ${pages}`, alignment: 'right' },
        ],
        margin: [MARGIN, 14, MARGIN, 0],
        fontSize: 9,
        color: SOFT,
      }),
    },
  );
}

/** Pocket cards on a page, and the lines that one holds on its inner side. */
const CARDS = 4;
const CARD_LINES = 8;
const CARD_MARGIN = 28;
const CARD_PADDING = 8;

/** One card: what stands on its front, and what on its inner side when it is folded. */
interface Card {
  readonly front: Content;
  readonly lines: readonly string[];
}

const chunks = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.max(1, Math.ceil(list.length / size)) }, (_, i) => list.slice(i * size, (i + 1) * size));

function cardsOf(entry: BookletEntry, on: OnPaper, width: number, height: number): Card[] {
  const head = (k: number, of: number): Content => ({
    text: `${entry.name}${of > 1 ? ` (${k + 1} of ${of})` : ''}`,
    font: 'Head',
    fontSize: 13,
    margin: [0, 0, 0, 4],
  });
  if (entry.kind === 'assembly') {
    const lines = entry.groups.flatMap((g) =>
      g.items.map((i) => `${g.number === null ? g.title : `${g.number}. ${g.title}`}: ${i.text}`),
    );
    const board = boardOnPaper(entry.board, on.picture);
    const parts = chunks(lines, CARD_LINES - 2);
    return parts.map((part, k) => ({
      front: { stack: [head(k, parts.length), { svg: board, fit: [width, height - 50] }] },
      lines: part,
    }));
  }
  const read = readKnot(entry.knot.document);
  if (!read.ok) return [];
  const { knot: page } = entry;
  const { drawn: method, said, view } = shownOf(page, read.value);
  const { said: marks } = inspectedFaces(said, page.vocabulary);
  const svg = on.picture(`${pictureFolder(page)}/form/front.svg`);
  const last = Math.max(0, stepsOf(method).length - 1);
  const box = pictureBox(method, last, view);
  const picture: Content =
    svg === undefined
      ? { svg: drawn(drawStep(method, last, { view }), box, 'card-'), ...fitted(box, width, height - 60) }
      : { svg, fit: [width, height - 60] };
  const lines = [
    ...marks.map((m) => `${m.side}: ${m.text}`),
    sayTail(read.value, page.house, page.vocabulary).split('. ')[0]!,
  ];
  const parts = chunks(lines, CARD_LINES);
  return parts.map((part, k) => ({
    front: { stack: [head(k, parts.length), picture, { text: read.value.entry.useGrade, style: ['soft', 'small'] }] },
    lines: part,
  }));
}

/** Pocket cards: four to a page, cut along the broken lines, folded along the dotted ones. */
export function cardsOnPaper(booklet: Booklet, on: OnPaper): TDocumentDefinitions {
  const [pageWidth, pageHeight] = PAGES[on.size];
  const half = (pageWidth - 2 * CARD_MARGIN) / 2;
  const height = (pageHeight - 2 * CARD_MARGIN - 20) / CARDS;
  const room = [half - 2 * CARD_PADDING, height - 2 * CARD_PADDING] as const;
  const cards = booklet.entries.flatMap((e) => cardsOf(e, on, ...room));
  const content = chunks(cards, CARDS).map((page, k): Content => ({
    table: {
      widths: [half - 2 * CARD_PADDING, half - 2 * CARD_PADDING],
      heights: height - 2 * CARD_PADDING,
      dontBreakRows: true,
      body: page.map((c): TableCell[] => [
        { stack: [c.front] },
        { stack: [{ text: 'Look at it', bold: true, fontSize: 10 }, checked(c.lines, 8.5)] },
      ]),
    },
    layout: {
      hLineWidth: () => 0.7,
      vLineWidth: () => 0.7,
      hLineColor: () => SOFT,
      vLineColor: () => SOFT,
      hLineStyle: () => ({ dash: { length: 6, space: 4 } }),
      vLineStyle: (i) => (i === 1 ? { dash: { length: 1, space: 3 } } : { dash: { length: 6, space: 4 } }),
      paddingLeft: () => CARD_PADDING,
      paddingRight: () => CARD_PADDING,
      paddingTop: () => CARD_PADDING,
      paddingBottom: () => CARD_PADDING,
    },
    ...(k === 0 ? {} : { pageBreak: 'before' as const }),
  }));
  return documentOf(booklet, on.size, content, {
    pageMargins: [CARD_MARGIN, CARD_MARGIN, CARD_MARGIN, CARD_MARGIN],
    footer: () => ({
      text: `${booklet.house}. Cut along the broken lines, fold along the dotted one. ${NO_TRAINING}`,
      fontSize: 7,
      color: SOFT,
      margin: [CARD_MARGIN, 6, CARD_MARGIN, 0],
    }),
  });
}
