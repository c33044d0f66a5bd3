/**
 * Paints a stretch of a film, with what its author laid over it: words and rings at their places, nearer where it is nearer, and the drawing
 * of the step beside where a hand hides the knot.
 */
import { pictureBox, drawMoment, type Point, stepsOf, filmOf } from '@foxtrail/core';
import { reachedAt, type Shot } from '@foxtrail/core/reel';
import { playedOf, type Footage } from '@foxtrail/core/footage';
import {
  calloutsAt,
  nearAt,
  nearOf,
  passageAt,
  steadied,
  steadyAt,
  stepAt,
  WORDS_ABOVE,
  RULER_PARTS,
  type FilmCallout,
} from '@foxtrail/core/on-film';
import { type Context, CAPTION_FONT, lettered, paintDrawing } from './paint-drawing';
import { roomsOf, type Room } from './paint-beside';
import type { Scene } from './scene';

const LIGHT = '#fffdf8';
const BEHIND_WORDS = '#10181e';
const MARKED = '#ff8b3d';
/** Shares of the picture's height: a ring's radius, a place's dot, letters, and how far apart lines of words are. */
const SIZES = { ring: 0.08, dot: 0.012, blur: 0.1, letters: 0.046, line: 0.085 } as const;
/** So many spots across are left of what is blurred. */
const SPOTS = 5;
/** Words stand left of a place that lies farther right than this share of the width. */
const TO_THE_LEFT = 0.6;
/** The drawing beside: share of the width that it has. */
const BESIDE = 0.34;

type FilmShot = Extract<Shot, { kind: 'film' }>;

/** Paints the frame of a time of a film, as large as it fits. */
export function paintFilm(
  ctx: Context,
  scene: Scene,
  { film: hash, beside = false }: FilmShot,
  time: number,
  whole: number,
  tall: number,
): void {
  const film = filmOf(scene.method, hash);
  const shown = scene.filmed?.(hash);
  const rooms = roomsOf({ back: beside }, whole, tall);
  const { width, height } = rooms.step;
  ctx.fillStyle = BEHIND_WORDS;
  ctx.fillRect(0, 0, whole, tall);
  if (!film || !shown || shown === 'lost') {
    const size = lettered(width, height) / 20;
    ctx.font = `600 ${size}px "${CAPTION_FONT}", sans-serif`;
    ctx.textAlign = 'center';
    ctx.textBaseline = 'middle';
    ctx.fillStyle = LIGHT;
    const says = film && shown !== 'lost' ? 'The film is being fetched …' : 'This film cannot be shown.';
    ctx.fillText(says, width / 2, height / 2);
    return;
  }
  const scale = Math.min(width / shown.width, height / shown.height);
  const stage: Room = {
    left: (width - scale * shown.width) / 2,
    top: (height - scale * shown.height) / 2,
    width: scale * shown.width,
    height: scale * shown.height,
  };
  const passage = passageAt(film, time);
  const near = passage && nearAt(passage, time);
  const { times, left, top } = near ? nearOf(near) : { times: 1, left: 0, top: 0 };
  // For the left hand it is shown the other way round.
  const isTurned = (film.turned === true) !== (scene.view === 'left');
  const shape = shown.width / shown.height;
  const still = steadyAt(film, time, shape);
  // From the picture, counted in its heights, to the canvas.
  const seen = new DOMMatrix([stage.height, 0, 0, stage.height, stage.left, stage.top]);
  if (isTurned) seen.translateSelf(shape, 0).scaleSelf(-1, 1);
  seen.scaleSelf(times, times).translateSelf(-left * shape, -top);
  if (still) seen.multiplySelf(new DOMMatrix([still.cos, still.sin, -still.sin, still.cos, still.dx, still.dy]));
  const edge = new Path2D(`M${stage.left} ${stage.top}h${stage.width}v${stage.height}h${-stage.width}Z`);
  ctx.save();
  ctx.clip(edge);
  ctx.setTransform(seen);
  ctx.drawImage(shown.image, 0, 0, shape, 1);
  ctx.restore();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  const lines: number[] = [];
  // Words keep clear of the drawing beside.
  const room = passage?.hidden === true && !beside ? 1 - BESIDE - 0.04 : 1;
  const onStage = (place: Point): Point => {
    const [u, v] = steadied(place, still, shape);
    const across = (u - left) * times;
    return [isTurned ? 1 - across : across, (v - top) * times];
  };
  for (const { kind, text, place, end } of calloutsAt(film, time)) {
    const [begin, other] = [onStage(place), onStage(end ?? place)];
    if (begin[0] < 0 || begin[0] > 1 || begin[1] < 0 || begin[1] > 1) continue;
    if (kind === 'ruler') paintRuler(ctx, begin, other, stage);
    else paintPlace(ctx, kind, begin, stage);
    // Words of a ruler stand beyond that end of it which has room beside it.
    const [first, last] = begin[0] < other[0] ? [begin, other] : [other, begin];
    const isLeft = last[0] > TO_THE_LEFT;
    const [x, y] = kind === 'ruler' ? (isLeft ? first : last) : begin;
    if (text !== '') paintWords(ctx, text, { at: [x, y - WORDS_ABOVE[kind]], isLeft }, lines, stage, room);
  }
  if (rooms.back) paintStep(ctx, scene, film, time, padded(levelWith(stage, rooms.back)));
  else if (passage?.hidden === true) paintStep(ctx, scene, film, time, corner(stage));
}

/** What marks a place, by its kind: a dot, a ring, an arrow down to it, a cross; or what lies there is blurred. */
function paintPlace(ctx: Context, kind: Exclude<FilmCallout['kind'], 'ruler'>, [x, y]: Point, stage: Room): void {
  const [u, v, h] = [stage.left + x * stage.width, stage.top + y * stage.height, stage.height];
  if (kind === 'blur') {
    paintBlurred(ctx, [u, v], SIZES.blur * h);
    return;
  }
  const outline = ((): Path2D => {
    switch (kind) {
      case 'arrow': {
        const [w, t] = [0.045 * h, 0.16 * h];
        return new Path2D(
          `M${u} ${v}L${u - w} ${v - 0.38 * t}H${u - 0.36 * w}V${v - t}H${u + 0.36 * w}V${v - 0.38 * t}H${u + w}Z`,
        );
      }
      case 'cross': {
        const r = 0.06 * h;
        return new Path2D(`M${u - r} ${v - r}L${u + r} ${v + r}M${u + r} ${v - r}L${u - r} ${v + r}`);
      }
      case 'label':
      case 'ring': {
        const path = new Path2D();
        path.arc(u, v, h * SIZES[kind === 'ring' ? 'ring' : 'dot'], 0, 2 * Math.PI);
        return path;
      }
    }
  })();
  const thick = kind === 'cross' ? 2.2 : 1;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = BEHIND_WORDS;
  ctx.lineWidth = h * (0.005 + 0.009 * thick);
  ctx.stroke(outline);
  ctx.strokeStyle = MARKED;
  ctx.lineWidth = h * 0.009 * thick;
  if (kind === 'arrow') {
    ctx.fillStyle = MARKED;
    ctx.fill(outline);
  } else ctx.stroke(outline);
}

/** A ruler from one place to another: a line with an edge at each end, and strokes between. */
function paintRuler(ctx: Context, from: Point, to: Point, { left, top, width, height }: Room): void {
  const [a, b] = [from, to].map(([x, y]): Point => [left + x * width, top + y * height]) as [Point, Point];
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [dx, dy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
  const stroke = (share: number, half: number): string => {
    const [x, y] = [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])];
    return `M${x - half * dy} ${y + half * dx}L${x + half * dy} ${y - half * dx}`;
  };
  const inner = Array.from({ length: RULER_PARTS - 1 }, (_, i) => stroke((i + 1) / RULER_PARTS, 0.012 * height));
  const path = new Path2D(
    `M${a[0]} ${a[1]}L${b[0]} ${b[1]}${stroke(0, 0.035 * height)}${stroke(1, 0.035 * height)}${inner.join('')}`,
  );
  ctx.lineJoin = 'round';
  ctx.strokeStyle = BEHIND_WORDS;
  ctx.lineWidth = height * 0.016;
  ctx.stroke(path);
  ctx.strokeStyle = MARKED;
  ctx.lineWidth = height * 0.009;
  ctx.stroke(path);
}

/** What lies round a place as so few spots that nothing of it can be made out. */
function paintBlurred(ctx: Context, [x, y]: Point, radius: number): void {
  const small = new OffscreenCanvas(SPOTS, SPOTS);
  const spots = small.getContext('2d');
  if (!spots) return;
  spots.drawImage(ctx.canvas, x - radius, y - radius, 2 * radius, 2 * radius, 0, 0, SPOTS, SPOTS);
  const round = new Path2D();
  round.arc(x, y, radius, 0, 2 * Math.PI);
  ctx.save();
  ctx.clip(round);
  ctx.drawImage(small, x - radius, y - radius, 2 * radius, 2 * radius);
  ctx.restore();
}

/** Words beside a place, below those that stand there by now, and within so much of the width. */
function paintWords(
  ctx: Context,
  text: string,
  { at: [x, y], isLeft }: { readonly at: Point; readonly isLeft: boolean },
  lines: number[],
  { left, top, width, height }: Room,
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
  const wanted = isLeft ? left + x * width - long - size : left + x * width + size;
  const from = Math.max(left, Math.min(left + room * width - long, wanted));
  const middle = top + line * height;
  ctx.fillStyle = BEHIND_WORDS;
  ctx.fillRect(from, middle - 0.8 * size, long, 1.6 * size);
  ctx.fillStyle = LIGHT;
  ctx.fillText(text, from + 0.6 * size, middle);
}

/** The upper right corner of a film, for the drawing of a step. */
const corner = ({ left, top, width, height }: Room): Room => {
  const [w, h] = [width * BESIDE, height * BESIDE * 1.2];
  return { left: left + width - w - width * 0.02, top: top + height * 0.03, width: w, height: h };
};

/** A room beside another, their middles at one height; one beneath it stays. */
const levelWith = (other: Room, room: Room): Room =>
  room.left > 0 ? { ...room, top: Math.max(0, other.top + (other.height - room.height) / 2) } : room;

const padded = ({ left, top, width, height }: Room): Room => {
  const pad = 0.04 * Math.min(width, height);
  return { left: left + pad, top: top + pad, width: width - 2 * pad, height: height - 2 * pad };
};

/** The drawing of the step that is tied by then, laid as far as the film has come with it. */
function paintStep(ctx: Context, scene: Scene, film: Footage, time: number, { left, top, width, height }: Room): void {
  const index = stepAt(film.steps, time) ?? 0;
  const step = stepsOf(scene.method)[index];
  if (!step) return;
  const began = film.steps?.find((s) => s.step === index)?.at ?? 0;
  const next = film.steps?.find((s) => s.at > began)?.at ?? playedOf(film)[1];
  const share = next > began ? Math.min(1, Math.max(0, (time - began) / (next - began))) : 1;
  const frame = new Path2D(`M${left} ${top}h${width}v${height}h${-width}Z`);
  ctx.save();
  ctx.fillStyle = scene.look.paper;
  ctx.fill(frame);
  ctx.clip(frame);
  const drawing = drawMoment(scene.method, step.index, reachedAt(step, share), scene.view);
  const box = pictureBox(scene.method, step.index, scene.view);
  paintDrawing(ctx, drawing, scene.look, box, width, height, [left, top]);
  ctx.restore();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.strokeStyle = BEHIND_WORDS;
  ctx.lineWidth = height * 0.006;
  ctx.stroke(frame);
}
