/**
 * Pictures and captions made on the server from a knot's document: the same core that draws them on the page.
 */
import {
  figureInView,
  pictureBox,
  stepsOf,
  finishedFigure,
  cautionsFor,
  composeStep,
  drawFigure,
  drawStep,
  escapeXml,
  heartBox,
  inLines,
  chosenMarks,
  finishedLayout,
  shownExhibits,
  markPoints,
  markSize,
  ringSize,
  besidePlaces,
  heartWith,
  PAPER_LOOK,
  stepText,
  svgBody,
  toSvg,
  type Box,
  type FinishKind,
  type Drawing,
  methodsOf,
  type KnotDocument,
  type Method,
  type Pace,
  type Point,
  type View,
  type Vocabulary,
  type TailAsked,
} from '@foxtrail/core';
import type { FormFace } from '@foxtrail/core/form';
import { demonstration, toChapters, toDescriptions, toWebVtt, type Timeline } from '@foxtrail/core/reel';
import type { Response } from 'express';

const VIEW_NAMES: Record<View, string> = { front: 'front', back: 'back', left: 'left-handed' };

/** The finished figure, for a card on the shelf. */
export function thumbnail(knot: KnotDocument, words: Vocabulary): string {
  return toSvg(drawStep(knot.method, Infinity), {
    title: knot.name,
    description: describe(knot, words),
    width: 320,
    background: false,
    box: heartBox(finishedFigure(knot.method)),
  });
}

/** All step texts in one: the figure in words. */
export const describe = (knot: KnotDocument, words: Vocabulary): string =>
  stepsOf(knot.method).length === 0
    ? 'The figure, without steps yet.'
    : stepsOf(knot.method)
        .map((_, i) => `${i + 1}. ${stepText(knot.method, i, words)}`)
        .join(' ');

/** Step k (from 0) of a method in a view; its description is its text, and what it passes. */
export function stepSvg(name: string, method: Method, k: number, view: View, words: Vocabulary): string {
  const box = pictureBox(method, k, view);
  const text = stepText(method, k, words);
  const composed = composeStep(method, k, words).text;
  return toSvg(drawStep(method, k, { view }), {
    title: `${name}, step ${k + 1} of ${stepsOf(method).length}, ${VIEW_NAMES[view]} view`,
    description: text === composed ? text : `${text} (${composed})`,
    width: 800,
    box,
  });
}

/** One picture of a sheet with what stands under it. */
interface Cell {
  readonly id: string;
  readonly drawing: Drawing;
  readonly box: Box;
  /** In place of the drawing: the knot in the hand. */
  readonly formed?: string | undefined;
  /** A step's number, a face of the knot, or a warning. */
  readonly head: string;
  readonly lines: readonly string[];
  /** Numbered places, or rings where there is no number. */
  readonly marks: readonly { readonly point: Point; readonly label?: string; readonly at?: Point }[];
}

/** Letters to a line under a picture, and beside a longer head. */
const LINE = 42;

/** What the steps that finish a knot show of it in the hand. */
export type FinishFaces = Readonly<Record<FinishKind, FormFace>>;

/** One picture for each step of a method; those that finish the knot show it as it lies in the hand, where it is set. */
function stepCells(method: Method, words: Vocabulary, prefix: string, formed: FinishFaces | undefined): Cell[] {
  return stepsOf(method).map(({ index, does }) => {
    const face = does === 'lay' ? undefined : formed?.[does];
    return {
      id: `${prefix}step-${index + 1}`,
      drawing: drawStep(method, index),
      box: face?.box ?? pictureBox(method, index),
      formed: face?.body,
      head: String(index + 1),
      lines: inLines(stepText(method, index, words), LINE),
      marks: [],
    };
  });
}

/** The inspection card: front and back with the chosen marks numbered, when any is chosen. */
function cardCells({ method }: KnotDocument, words: Vocabulary): Cell[] {
  const { figure: finished, marks = [] } = finishedLayout(method);
  const chosen = chosenMarks(finished, marks, words).flatMap(({ mark }) => mark ?? []);
  if (chosen.length === 0) return [];
  return (['front', 'back'] as const).map((side) => {
    const figure = figureInView(finished, side);
    const numbered = chosen.map((mark, i) => ({ mark, label: String(i + 1) })).filter(({ mark }) => mark.side === side);
    const own = numbered.flatMap(({ mark, label }) => {
      return markPoints(figure, mark).map((at) => ({ at, label }));
    });
    const radius = markSize(heartBox(figure));
    const places = besidePlaces(
      figure,
      own.map(({ at }) => at),
      radius,
    );
    return {
      id: `inspect-${side}`,
      drawing: drawFigure(figure),
      box: heartWith(
        figure,
        places.flatMap((m) => [m.point, m.at]),
        radius + 0.4,
      ),
      head: side === 'front' ? 'Front' : 'Back',
      lines: numbered.flatMap(({ mark, label }) => inLines(`${label}. ${mark.text}`, LINE)),
      marks: places.map((m, i) => ({ ...m, label: own[i]?.label ?? '' })),
    };
  });
}

/** The wrong ways the author shows, their crossings ringed. */
const exhibitCells = ({ name, method }: KnotDocument, words: Vocabulary): Cell[] =>
  shownExhibits(finishedLayout(method), name, words).map(({ figure, becomes, tell, points, box }, i) => ({
    id: `wrong-${i + 1}`,
    drawing: drawFigure(figure),
    box,
    head: 'Wrong',
    lines: inLines(`${becomes}. ${tell}`, LINE),
    marks: points.map((point) => ({ point })),
  }));

const CELL = 380;
/** Letters to a line across the whole sheet. */
const CAUTION_LINE = 88;
const LINE_HEIGHT = 22;

/** Cells that belong together, under a heading where there is one. */
interface Group {
  readonly title?: string;
  readonly cells: readonly Cell[];
}

/** Room above a group for its heading. */
const HEADING = 46;

/**
 * Every step of every method on one sheet, two in a row, each with its number and text; then what to look for, and what goes wrong, as
 * the first method finishes the knot.
 */
export function sheetSvg(
  knot: KnotDocument,
  words: Vocabulary,
  formed: readonly (FinishFaces | undefined)[] = [],
): string {
  const methods = methodsOf(knot);
  const ways = methods.map(({ name, method }, i): Group => ({
    ...(methods.length > 1 ? { title: name } : {}),
    cells: stepCells(method, words, i === 0 ? '' : `method-${i + 1}-`, formed[i]),
  }));
  const steps = ways.flatMap((w) => w.cells);
  // As tall as the tallest step at the width of a cell, but never taller than wide.
  const shapes = steps.map(({ box: [l, t, r, b] }) => (b - t) / (r - l));
  const picture = CELL * Math.min(1, Math.max(0.4, ...shapes));
  const groups = [...ways, { cells: cardCells(knot, words) }, { cells: exhibitCells(knot, words) }];
  const rows = groups.flatMap(({ title, cells }: Group) =>
    Array.from({ length: Math.ceil(cells.length / 2) }, (_, i) => ({
      title: i === 0 ? title : undefined,
      cells: cells.slice(2 * i, 2 * i + 2),
    })),
  );
  // Cautions are read before the first step.
  const cautions = cautionsFor(knot.entry.useGrade, knot.entry.cautions).flatMap((c) =>
    inLines(`• ${c}`, CAUTION_LINE),
  );
  const warned = cautions.map(
    (line, n) => `<text x="30" y="${84 + LINE_HEIGHT * n}" font-size="17" fill="#7c2752">${escapeXml(line)}</text>`,
  );
  let y = 80 + LINE_HEIGHT * cautions.length + 14;
  const drawn = rows.map(({ title, cells }) => {
    const heading =
      title === undefined
        ? ''
        : `<text x="30" y="${(y + 24).toFixed(1)}" font-size="24" font-weight="700" fill="${PAPER_LOOK.ink}">${escapeXml(title)}</text>`;
    const top = title === undefined ? y : y + HEADING;
    y = top + picture + 46 + LINE_HEIGHT * Math.max(...cells.map((c) => c.lines.length + (c.head.length > 2 ? 1 : 0)));
    return heading + cells.map((c, i) => cellSvg(c, 30 + i * (CELL + 40), top, picture)).join('');
  });
  const [width, total] = [2 * CELL + 100, (y + 10).toFixed(1)];
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${total}" width="${width}" height="${total}" role="img" aria-labelledby="sheet-title sheet-desc" font-family="'Atkinson Hyperlegible Next', sans-serif">` +
    `<title id="sheet-title">${escapeXml(knot.name)}: how to tie it</title><desc id="sheet-desc">${escapeXml(describe(knot, words))}</desc>` +
    `<rect width="${width}" height="${total}" fill="#ffffff"/><text x="30" y="50" font-size="32" font-weight="700" fill="${PAPER_LOOK.ink}">${escapeXml(knot.name)}</text><g id="cautions">${warned.join('')}</g>${drawn.join('')}</svg>`
  );
}

function cellSvg(
  { id, drawing, box, formed, head, lines: text, marks }: Cell,
  x: number,
  y: number,
  picture: number,
): string {
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  const scale = Math.min(CELL / w, picture / h);
  const view = `x="${x}" y="${y.toFixed(1)}" width="${CELL}" height="${picture.toFixed(1)}" viewBox="${box[0]} ${box[1]} ${w} ${h}"`;
  const size = 12 / scale;
  const number = markSize(box);
  const spots = marks.map(({ point: [px, py], label, at }) =>
    label === undefined
      ? `<circle cx="${px}" cy="${py}" r="${ringSize(box).toFixed(3)}" fill="none" stroke="#7c2752" stroke-width="${(size / 4).toFixed(3)}"/>`
      : (at
          ? `<path d="M${px} ${py}L${at[0]} ${at[1]}" stroke="${PAPER_LOOK.ink}" stroke-width="0.2"/><circle cx="${at[0]}" cy="${at[1]}" r="0.28" fill="${PAPER_LOOK.ink}"/>`
          : '') +
        `<circle cx="${px}" cy="${py}" r="${number.toFixed(3)}" fill="#ffffff" stroke="${PAPER_LOOK.ink}" stroke-width="${(number / 6).toFixed(3)}"/>` +
        `<text x="${px}" y="${(py + number * 0.42).toFixed(3)}" font-size="${(1.25 * number).toFixed(3)}" font-weight="700" text-anchor="middle" fill="${PAPER_LOOK.ink}">${label}</text>`,
  );
  // A number stands beside its text, a word above it.
  const above = head.length > 2;
  const caption = text.map(
    (line, n) =>
      `<text x="${x + (above ? 0 : 26)}" y="${(y + picture + LINE_HEIGHT * (n + (above ? 2 : 1))).toFixed(1)}" font-size="17" fill="${PAPER_LOOK.ink}">${escapeXml(line)}</text>`,
  );
  return (
    // A picture of its own clips what lies outside its box.
    `<g id="${id}"><svg ${view}>${formed ?? svgBody(drawing, PAPER_LOOK, `${id}-`, box)}${spots.join('')}</svg>` +
    `<text x="${x}" y="${(y + picture + LINE_HEIGHT + 1).toFixed(1)}" font-size="${above ? 18 : 22}" font-weight="700" fill="${PAPER_LOOK.ink}">${head}</text>${caption.join('')}</g>`
  );
}

/** How a clip was filmed: at which pace, whether it begins with the cautions, which reel it shows, if one, and what is asked of tails. */
export interface Filming {
  readonly pace: Pace;
  readonly warned: boolean;
  readonly reel: number | undefined;
  readonly tail?: TailAsked | undefined;
}

/** A clip in time, as it was filmed. */
function clipTimeline(
  { name, entry }: KnotDocument,
  method: Method,
  words: Vocabulary,
  { pace, warned, reel, tail }: Filming,
): Timeline {
  const cautions = warned ? cautionsFor(entry.useGrade, entry.cautions) : [];
  return demonstration({ method, name, words, pace, cautions, reel, tail });
}

/** Captions that go with a clip, in lines of so many characters at most. */
export const captions = (
  knot: KnotDocument,
  method: Method,
  words: Vocabulary,
  filming: Filming,
  perLine: number,
): string => toWebVtt(clipTimeline(knot, method, words, filming), knot.name, perLine);

/** Chapters that go with a clip: its steps. */
export const chapters = (knot: KnotDocument, method: Method, words: Vocabulary, filming: Filming): string =>
  toChapters(clipTimeline(knot, method, words, filming), knot.name);

/** What a clip shows, for those who do not see it. */
export const descriptions = (knot: KnotDocument, method: Method, words: Vocabulary, filming: Filming): string =>
  toDescriptions(clipTimeline(knot, method, words, filming), knot.name, method, words);

/** Sends a picture, under a name when it is to be kept; opened by itself it may do nothing but show itself. */
export function sendSvg(res: Response, svg: string, name?: string): void {
  res.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'");
  if (name !== undefined) res.attachment(name);
  res.type('image/svg+xml').send(svg);
}
