/**
 * Paints a stretch of a film, with what its author laid over it: words and rings at their places, nearer where it is nearer, and the drawing
 * of the step beside where a hand hides the knot.
 */
import { pictureBox, drawMoment, type Point, stepsOf, filmOf } from '@foxtrail/core';
import { reachedAt } from '@foxtrail/core/reel';
import { playedOf } from '@foxtrail/core/footage';
import { calloutsAt, nearOf, passageAt, stepAt } from '@foxtrail/core/on-film';
import { type Context, CAPTION_FONT, lettered, paintDrawing } from './paint-drawing';
import type { Scene } from './scene';

const LIGHT = '#fffdf8';
const BEHIND_WORDS = '#10181e';
const MARKED = '#ff8b3d';
/** Shares of the picture's height: a ring's radius, a place's dot, letters, and how far apart lines of words are. */
const SIZES = { ring: 0.08, dot: 0.012, letters: 0.046, line: 0.085 } as const;
/** Words stand left of a place that lies farther right than this share of the width. */
const TO_THE_LEFT = 0.6;
/** The drawing beside: share of the width that it has. */
const BESIDE = 0.34;

/** Where a film's picture stands on the canvas. */
interface Stage {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Paints the frame of a time of a film, as large as it fits. */
export function paintFilm(ctx: Context, scene: Scene, hash: string, time: number, width: number, height: number): void {
  const film = filmOf(scene.method, hash);
  const shown = scene.filmed?.(hash);
  ctx.fillStyle = BEHIND_WORDS;
  ctx.fillRect(0, 0, width, height);
  if (!film || !shown) {
    const size = lettered(width, height) / 20;
    ctx.font = `600 ${size}px "${CAPTION_FONT}", sans-serif`;
    ctx.textAlign = 'center';
    ctx.textBaseline = 'middle';
    ctx.fillStyle = LIGHT;
    ctx.fillText('The film is being fetched …', width / 2, height / 2);
    return;
  }
  const scale = Math.min(width / shown.width, height / shown.height);
  const stage: Stage = {
    left: (width - scale * shown.width) / 2,
    top: (height - scale * shown.height) / 2,
    width: scale * shown.width,
    height: scale * shown.height,
  };
  const passage = passageAt(film, time);
  const { times, left, top } = passage?.near ? nearOf(passage.near) : { times: 1, left: 0, top: 0 };
  // For the left hand it is shown the other way round.
  const isTurned = (film.turned === true) !== (scene.view === 'left');
  if (isTurned) ctx.setTransform(-1, 0, 0, 1, 2 * stage.left + stage.width, 0);
  ctx.drawImage(
    shown.image,
    left * shown.width,
    top * shown.height,
    shown.width / times,
    shown.height / times,
    stage.left,
    stage.top,
    stage.width,
    stage.height,
  );
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  const lines: number[] = [];
  // Words keep clear of the drawing beside.
  const room = passage?.hidden === true ? 1 - BESIDE - 0.04 : 1;
  for (const { kind, text, place } of calloutsAt(film, time)) {
    const across = (place[0] - left) * times;
    const [x, y] = [isTurned ? 1 - across : across, (place[1] - top) * times];
    if (x < 0 || x > 1 || y < 0 || y > 1) continue;
    paintPlace(ctx, kind, [x, y], stage);
    if (text !== '') paintWords(ctx, text, [x, y - (kind === 'ring' ? SIZES.ring + 0.04 : 0.04)], lines, stage, room);
  }
  if (passage?.hidden === true) paintBeside(ctx, scene, hash, time, stage);
}

/** A ring round a place, or a dot on it. */
function paintPlace(ctx: Context, kind: 'label' | 'ring', [x, y]: Point, { left, top, width, height }: Stage): void {
  ctx.beginPath();
  ctx.arc(left + x * width, top + y * height, height * (kind === 'ring' ? SIZES.ring : SIZES.dot), 0, 2 * Math.PI);
  ctx.strokeStyle = BEHIND_WORDS;
  ctx.lineWidth = height * 0.014;
  ctx.stroke();
  ctx.strokeStyle = MARKED;
  ctx.lineWidth = height * 0.009;
  ctx.stroke();
}

/** Words beside a place, below those that stand there by now, and within so much of the width. */
function paintWords(
  ctx: Context,
  text: string,
  [x, y]: Point,
  lines: number[],
  { left, top, width, height }: Stage,
  room: number,
): void {
  const size = height * SIZES.letters;
  let line = Math.min(0.94, Math.max(0.05, y));
  while (lines.some((l) => Math.abs(l - line) < SIZES.line) && line < 0.94) line += SIZES.line / 2;
  lines.push(line);
  ctx.font = `600 ${size}px "${CAPTION_FONT}", sans-serif`;
  ctx.textBaseline = 'middle';
  ctx.textAlign = 'left';
  const long = ctx.measureText(text).width + 1.2 * size;
  const wanted = x > TO_THE_LEFT ? left + x * width - long - size : left + x * width + size;
  const from = Math.max(left, Math.min(left + room * width - long, wanted));
  const middle = top + line * height;
  ctx.fillStyle = BEHIND_WORDS;
  ctx.fillRect(from, middle - 0.8 * size, long, 1.6 * size);
  ctx.fillStyle = LIGHT;
  ctx.fillText(text, from + 0.6 * size, middle);
}

/** The drawing of the step that is tied by then, laid as far as the film has come with it. */
function paintBeside(
  ctx: Context,
  scene: Scene,
  hash: string,
  time: number,
  { left, top, width, height }: Stage,
): void {
  const film = filmOf(scene.method, hash);
  const index = stepAt(film?.steps, time);
  const step = index === undefined ? undefined : stepsOf(scene.method)[index];
  if (!film || !step) return;
  const began = film.steps?.find((s) => s.step === index)?.at ?? 0;
  const next = film.steps?.find((s) => s.at > began)?.at ?? playedOf(film)[1];
  const share = next > began ? Math.min(1, (time - began) / (next - began)) : 1;
  const [w, h] = [width * BESIDE, height * BESIDE * 1.2];
  const [x, y] = [left + width - w - width * 0.02, top + height * 0.03];
  const frame = new Path2D(`M${x} ${y}h${w}v${h}h${-w}Z`);
  ctx.save();
  ctx.fillStyle = scene.look.paper;
  ctx.fill(frame);
  ctx.clip(frame);
  const drawing = drawMoment(scene.method, step.index, reachedAt(step, share), scene.view);
  paintDrawing(ctx, drawing, scene.look, pictureBox(scene.method, step.index, scene.view), w, h, [x, y]);
  ctx.restore();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.strokeStyle = BEHIND_WORDS;
  ctx.lineWidth = height * 0.006;
  ctx.stroke(frame);
}
