/**
 * Paints a drawing of the board on a canvas. Strokes only, no blur: an export has to keep up with its encoder.
 */
import {
  type Note,
  pointerOf,
  noteLines,
  LIT_WIDTH,
  arrowPath,
  pullPath,
  type NumberedPlace,
  FINE_LINE,
  strokesOf,
  OUTLINE,
  outsideOf,
  type Box,
  type Point,
  type Drawing,
  type Look,
  type Run,
} from '@foxtrail/core';
import { fitted } from '@foxtrail/core/reel';
/** What is used of a canvas context, on the page or in a worker. */
export type Context = Pick<
  OffscreenCanvasRenderingContext2D,
  | 'setTransform'
  | 'getTransform'
  | 'arc'
  | 'beginPath'
  | 'fillStyle'
  | 'globalAlpha'
  | 'fillRect'
  | 'textBaseline'
  | 'textAlign'
  | 'font'
  | 'fillText'
  | 'drawImage'
  | 'measureText'
  | 'lineJoin'
  | 'lineCap'
  | 'save'
  | 'restore'
  | 'clip'
  | 'strokeStyle'
  | 'lineWidth'
  | 'stroke'
  | 'fill'
  | 'setLineDash'
  | 'lineDashOffset'
> & { readonly canvas: CanvasImageSource };

export const CAPTION_FONT = 'Atkinson Hyperlegible Next Variable';

/** Letters are measured by the height, or in a narrow picture by the width. */
export const lettered = (width: number, height: number): number => Math.min(height, width * 0.9);

/** Fits a box of the board into so much of the canvas, at its top left unless it begins elsewhere. */
export function fit(ctx: Context, box: Box, width: number, height: number, [left, top]: Point = [0, 0]): void {
  const { scale, move } = fitted(box, width, height);
  ctx.setTransform(scale, 0, 0, scale, left + move[0], top + move[1]);
}

/** Paints a drawing, its box fitted into so much of the canvas; what lies outside of the box is painted too. */
export function paintDrawing(
  ctx: Context,
  drawing: Drawing,
  look: Look,
  box: Box,
  width: number,
  height: number,
  begins?: Point,
): void {
  fit(ctx, box, width, height, begins);
  ctx.lineJoin = 'round';
  ctx.lineCap = 'butt';
  for (const run of drawing.runs.filter((r) => r.kind === 'host')) paintRun(ctx, run, look, box);
  paintHostMarks(ctx, drawing, look);
  ctx.lineCap = 'round';
  ctx.strokeStyle = look.lit;
  ctx.lineWidth = LIT_WIDTH;
  for (const path of drawing.lit) ctx.stroke(new Path2D(path));
  ctx.lineCap = 'butt';
  for (const run of drawing.runs.filter((r) => r.kind === 'rope')) paintRun(ctx, run, look, box);
  for (const tip of drawing.tips) {
    ctx.strokeStyle = look.band;
    ctx.lineWidth = tip.width;
    ctx.stroke(new Path2D(tip.band));
  }
  ctx.strokeStyle = look.band;
  ctx.lineWidth = FINE_LINE;
  for (const line of drawing.lines) ctx.stroke(new Path2D(line));
  if (drawing.arrow) {
    const arrow = new Path2D(arrowPath(drawing.arrow.point, drawing.arrow.direction));
    ctx.fillStyle = look.working;
    ctx.fill(arrow);
    ctx.strokeStyle = look.ink;
    ctx.lineWidth = 0.08;
    ctx.stroke(arrow);
  }
  for (const pull of drawing.pulls) {
    ctx.fillStyle = look.working;
    ctx.fill(new Path2D(pullPath(pull)));
  }
  for (const { point, at, label } of drawing.marks) paintMark(ctx, { point, at, label }, drawing.markRadius, look);
  for (const note of drawing.notes) paintNote(ctx, note, look);
}

/** A numbered place: its line, its disc, its number. */
export function paintMark(ctx: Context, { point: [x, y], at, label }: NumberedPlace, radius: number, look: Look): void {
  ctx.strokeStyle = look.band;
  ctx.lineWidth = 0.18;
  ctx.stroke(new Path2D(`M${x} ${y}L${at[0]} ${at[1]}`));
  ctx.beginPath();
  ctx.arc(x, y, radius, 0, 2 * Math.PI);
  ctx.fillStyle = look.label;
  ctx.fill();
  ctx.lineWidth = radius / 7;
  ctx.stroke();
  ctx.fillStyle = look.labelText;
  paintLetters(ctx, label, [x, y + 0.47 * radius], 1.3 * radius, 700);
}

/** A callout: its box, its words, and its pointer, where nothing else points. */
export function paintNote(ctx: Context, note: Note, look: Look, hasPointer = true): void {
  const [l, t, r, b] = note.box;
  ctx.strokeStyle = look.band;
  if (hasPointer) {
    const [[x1, y1], [x2, y2]] = pointerOf(note);
    ctx.lineWidth = 0.16;
    ctx.stroke(new Path2D(`M${x1} ${y1}L${x2} ${y2}`));
    ctx.fillStyle = look.band;
    ctx.beginPath();
    ctx.arc(x2, y2, 0.24, 0, 2 * Math.PI);
    ctx.fill();
  }
  const box = new Path2D(`M${l} ${t}H${r}V${b}H${l}Z`);
  ctx.fillStyle = look.label;
  ctx.fill(box);
  ctx.lineWidth = 0.09;
  ctx.stroke(box);
  ctx.fillStyle = look.labelText;
  for (const { text, at } of noteLines(note)) paintLetters(ctx, text, at, note.size, 600);
}

/**
 * Letters of the board about a place on it, lying along a direction, in diameters. They are set at the size at which they are seen: letters of
 * a pixel or two that are made larger stand unevenly.
 */
export function paintLetters(
  ctx: Context,
  text: string,
  [x, y]: Point,
  size: number,
  weight: 600 | 700,
  [across, down]: Point = [1, 0],
): void {
  // The board is made larger and moved, never turned.
  const { a: scale, e, f } = ctx.getTransform();
  ctx.setTransform(across, down, -down, across, e + scale * x, f + scale * y);
  ctx.textAlign = 'center';
  ctx.textBaseline = 'alphabetic';
  ctx.font = `${weight} ${size * scale}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillText(text, 0, 0);
  ctx.setTransform(scale, 0, 0, scale, e, f);
}

function paintRun(ctx: Context, run: Run, look: Look, box: Box): void {
  ctx.save();
  for (const clip of run.clips) ctx.clip(new Path2D(outsideOf(clip, box)), 'evenodd');
  for (const { path, colour, width, dash = [], offset = 0 } of strokesOf(look, run)) {
    ctx.strokeStyle = colour;
    ctx.lineWidth = width;
    ctx.setLineDash([...dash]);
    ctx.lineDashOffset = offset;
    ctx.stroke(new Path2D(path));
  }
  ctx.setLineDash([]);
  ctx.restore();
}

/** Posts seen from the end, and the gates of carabiners. */
function paintHostMarks(ctx: Context, drawing: Drawing, look: Look): void {
  ctx.strokeStyle = look.ink;
  for (const { path, width, ends } of drawing.gates) {
    const sleeve = new Path2D(path);
    for (const [line, colour, thick] of [
      [new Path2D(ends), look.ink, FINE_LINE],
      [sleeve, look.ink, width + OUTLINE],
      [sleeve, look.metalCore, width - OUTLINE],
    ] as const) {
      ctx.strokeStyle = colour;
      ctx.lineWidth = thick;
      ctx.stroke(line);
    }
  }
  ctx.strokeStyle = look.ink;
  for (const { point, radius } of drawing.posts) {
    ctx.fillStyle = look.host;
    for (const k of [1, 0.68, 0.36]) {
      ctx.beginPath();
      ctx.arc(point[0], point[1], radius * k, 0, 2 * Math.PI);
      if (k === 1) ctx.fill();
      ctx.lineWidth = k === 1 ? OUTLINE : 0.07;
      ctx.stroke();
    }
  }
}

export function wrap(ctx: Context, text: string, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(/\s+/)) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (line !== '' && ctx.measureText(longer).width > width) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  return line === '' ? lines : [...lines, line];
}
