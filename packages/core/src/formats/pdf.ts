/**
 * A drawing as a PDF page of vectors. Kept apart from the core's front door, so that the library it needs is loaded only for it.
 */
import {
  appendBezierCurve,
  clipEvenOdd,
  closePath,
  endPath,
  LineCapStyle,
  lineTo,
  moveTo,
  PDFDocument,
  popGraphicsState,
  pushGraphicsState,
  rgb,
  setDashPattern,
  setLineCap,
  setLineWidth,
  setStrokingRgbColor,
  StandardFonts,
  stroke,
  type PDFOperator,
  type PDFPage,
} from 'pdf-lib';
import svgpath from 'svgpath';
import { noteLines, pointerOf } from '../drawing/callouts.js';
import { LIT_WIDTH, type Drawing, type Run } from '../drawing/drawing.js';
import { FINE_LINE, OUTLINE, PAPER_LOOK, strokesOf, type Look } from '../drawing/look.js';
import { outsideOf, pullPath } from '../drawing/svg.js';
import type { Box, Point } from '../figure/point.js';

export interface PdfOptions {
  readonly title: string;
  readonly look?: Look;
  readonly box?: Box;
  /** Width of the page in millimetres; the height follows. */
  readonly widthMm?: number;
}

/** Points in a millimetre: a PDF's unit is 1/72 inch. */
const POINTS = 72 / 25.4;
const ROOM_MM = 10;

const colour = (hex: string): [number, number, number] => [
  Number.parseInt(hex.slice(1, 3), 16) / 255,
  Number.parseInt(hex.slice(3, 5), 16) / 255,
  Number.parseInt(hex.slice(5, 7), 16) / 255,
];

/** Path data as PDF operators, in the page's own units. */
function operators(data: string, scale: number, left: number, bottom: number): PDFOperator[] {
  const out: PDFOperator[] = [];
  const x = (v: number): number => left + v * scale;
  const y = (v: number): number => bottom - v * scale;
  svgpath(data)
    .abs()
    .unarc()
    .unshort()
    .iterate((s, _i, px, py) => {
      if (s[0] === 'M') out.push(moveTo(x(s[1]), y(s[2])));
      else if (s[0] === 'L') out.push(lineTo(x(s[1]), y(s[2])));
      else if (s[0] === 'H') out.push(lineTo(x(s[1]), y(py)));
      else if (s[0] === 'V') out.push(lineTo(x(px), y(s[1])));
      else if (s[0] === 'C') out.push(appendBezierCurve(x(s[1]), y(s[2]), x(s[3]), y(s[4]), x(s[5]), y(s[6])));
      else if (s[0] === 'Z' || s[0] === 'z') out.push(closePath());
    });
  return out;
}

/** Writes a drawing as a PDF of one page. Strokes, gaps and numbers are vectors; nothing is a picture. */
export async function toPdf(drawing: Drawing, options: PdfOptions): Promise<Uint8Array> {
  const look = options.look ?? PAPER_LOOK;
  const box = options.box ?? drawing.box;
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  const width = (options.widthMm ?? 180) * POINTS;
  const room = ROOM_MM * POINTS;
  const scale = (width - 2 * room) / w;
  const height = h * scale + 2 * room;
  const document = await PDFDocument.create();
  document.setTitle(options.title);
  document.setProducer('Fox Trail');
  document.setCreator('Fox Trail');
  const page = document.addPage([width, height]);
  const [left, bottom] = [room - box[0] * scale, height - room + box[1] * scale];
  const path = (data: string): PDFOperator[] => operators(data, scale, left, bottom);
  const line = (data: string, hex: string, thick: number): PDFOperator[] => [
    setStrokingRgbColor(...colour(hex)),
    setLineWidth(thick * scale),
    ...path(data),
    stroke(),
  ];
  const drawRun = (run: Run): void => {
    page.pushOperators(
      pushGraphicsState(),
      ...run.clips.flatMap((clip) => [...path(outsideOf(clip, box)), clipEvenOdd(), endPath()]),
      ...strokesOf(look, run).flatMap(({ path: way, colour: hex, width: thick, dash = [], offset = 0 }) => [
        setDashPattern(
          dash.map((d) => d * scale),
          offset * scale,
        ),
        ...line(way, hex, thick),
      ]),
      popGraphicsState(),
    );
  };
  page.pushOperators(pushGraphicsState(), setLineCap(LineCapStyle.Butt));
  drawing.runs.filter((r) => r.kind === 'host').forEach(drawRun);
  for (const { path: gate, width: thick, ends } of drawing.gates)
    page.pushOperators(
      ...line(ends, look.ink, FINE_LINE),
      ...line(gate, look.ink, thick + OUTLINE),
      ...line(gate, look.metalCore, thick - OUTLINE),
    );
  for (const { point, radius } of drawing.posts)
    page.drawCircle({
      x: left + point[0] * scale,
      y: bottom - point[1] * scale,
      size: radius * scale,
      color: rgb(...colour(look.host)),
      borderColor: rgb(...colour(look.ink)),
      borderWidth: OUTLINE * scale,
    });
  page.pushOperators(setLineCap(LineCapStyle.Round));
  for (const path of drawing.lit) page.pushOperators(...line(path, look.lit, LIT_WIDTH));
  page.pushOperators(setLineCap(LineCapStyle.Butt));
  drawing.runs.filter((r) => r.kind === 'rope').forEach(drawRun);
  for (const tip of drawing.tips) page.pushOperators(...line(tip.band, look.band, tip.width));
  for (const fine of drawing.lines) page.pushOperators(...line(fine, look.band, FINE_LINE));
  page.pushOperators(popGraphicsState());
  await labelPage(page, document, drawing, { scale, left, bottom, look });
  return document.save();
}

async function labelPage(
  page: PDFPage,
  document: PDFDocument,
  drawing: Drawing,
  { scale, left, bottom, look }: { scale: number; left: number; bottom: number; look: Look },
): Promise<void> {
  const ink = rgb(...colour(look.ink));
  for (const pull of drawing.pulls)
    page.drawSvgPath(pullPath(pull), { x: left, y: bottom, scale, color: rgb(...colour(look.working)) });
  if (drawing.labels.length + drawing.notes.length + drawing.marks.length === 0) return;
  const font = await document.embedFont(StandardFonts.HelveticaBold);
  const place = ([x, y]: Point): { x: number; y: number } => ({ x: left + x * scale, y: bottom - y * scale });
  const disc = (point: Point, radius: number, text: string, height: number): void => {
    const { x, y } = place(point);
    page.drawCircle({
      x,
      y,
      size: radius * scale,
      color: rgb(...colour(look.label)),
      borderColor: ink,
      borderWidth: 0.13 * radius * scale,
    });
    const size = height * scale;
    page.drawText(text, { x: x - font.widthOfTextAtSize(text, size) / 2, y: y - 0.36 * size, size, font, color: ink });
  };
  for (const { crossing, point } of drawing.labels) disc(point, 0.68, String(crossing), 1);
  for (const { point, at, label } of drawing.marks) {
    page.drawLine({ start: place(point), end: place(at), thickness: 0.18 * scale, color: ink });
    page.drawCircle({ ...place(at), size: 0.3 * scale, color: ink });
    disc(point, drawing.markRadius, label, 1.3 * drawing.markRadius);
  }
  for (const note of drawing.notes) {
    const [l, t, r, b] = note.box;
    const [from, to] = pointerOf(note);
    const size = 0.95 * note.size * scale;
    const centred = (text: string, { x, y }: { x: number; y: number }): void =>
      page.drawText(text, { x: x - font.widthOfTextAtSize(text, size) / 2, y, size, font, color: ink });
    page.drawLine({ start: place(from), end: place(to), thickness: 0.16 * scale, color: ink });
    page.drawRectangle({
      ...place([l, b]),
      width: (r - l) * scale,
      height: (b - t) * scale,
      color: rgb(...colour(look.label)),
      borderColor: ink,
      borderWidth: 0.09 * scale,
    });
    for (const { text, at } of noteLines(note)) centred(pdfText(text), place(at));
  }
}

/** The characters that the standard fonts of a page can show; others are shown as a question mark. */
const pdfText = (text: string): string =>
  text
    .replace(/[\u2018\u2019]/g, "'")
    .replace(/[\u201c\u201d]/g, '"')
    .replace(/[^\u0020-\u007e\u00a1-\u00ff\u2013\u2014]/g, '?');
