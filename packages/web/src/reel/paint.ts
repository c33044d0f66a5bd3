/**
 * Paints a moment of the demonstration on a canvas: the same drawing as on the board, the caption beneath. Used by the player
 * on the page and by the export in its worker. Strokes only, no blur: it has to keep up with the encoder.
 */
import {
  pictureBox,
  drawFigure,
  drawMoment,
  drawOtherSide,
  figureInView,
  finishedLayout,
  heartBox,
  otherFacing,
  stepsOf,
  viewOfStep,
  remembered,
  ringSize,
  shownExhibits,
  type Box,
  type Drawing,
  type Look,
  type Point,
  type Step,
  type TrailPosition,
} from '@foxtrail/core';
import {
  cameraAt,
  drawRelaid,
  fitted,
  momentAt,
  pointedInStep,
  reachedAt,
  trailInStep,
  trailOnForm,
  warnsAt,
  wrongCamera,
  type Moment,
  type Shot,
  shownBox,
} from '@foxtrail/core/reel';
import { type Context, CAPTION_FONT, lettered, paintDrawing, wrap } from './paint-drawing';
import { paintCard, paintCautions, type Picture } from './paint-card';
import { paintBack, paintTrail, roomsOf, stepLaid, type Room } from './paint-beside';
import { paintFilm } from './paint-film';
import { paintForm, posedAt } from './paint-form';
import { paintPointed } from './paint-pointed';
import type { Scene } from './scene';

/** Share of the height that the caption has. */
const CAPTION_SHARE = 0.17;
/** A key of what a moment shows; moments with one key look the same. */
export function momentKey(scene: Scene, time: number): string {
  if (warnsAt(scene.timeline, time)) return 'cautions';
  const moment = momentAt(scene.method, scene.timeline, time);
  if (!moment) return 'none';
  const { kind } = moment.shot;
  if (kind === 'card') return `part ${moment.part}`;
  if (kind === 'wrong') return `part ${moment.part} ${moment.share.toFixed(4)}`;
  if (kind === 'film') return `part ${moment.part} ${moment.at.toFixed(3)} ${moment.said}`;
  if (relaidShare(moment) !== undefined && !isOnForm(scene, moment))
    return `${moment.step} laid anew ${moment.share.toFixed(4)}`;
  if (kind === 'lay' || !scene.way)
    return `${moment.step} ${moment.at.toFixed(4)}${kind === 'lay' && moment.shot.again ? ' again' : ''}`;
  return `${moment.step} ${kind} ${JSON.stringify(moment.shot)} ${kind === 'hold' ? '' : moment.share.toFixed(4)}`;
}

/** Paints the moment at a time in seconds over the whole canvas. */
export function paintMoment(ctx: Context, scene: Scene, time: number, width: number, height: number): void {
  const { look } = scene;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.fillStyle = look.paper;
  ctx.fillRect(0, 0, width, height);
  if (warnsAt(scene.timeline, time)) {
    paintCautions(ctx, scene, scene.timeline.cautions?.lines ?? [], width, height);
    return;
  }
  const moment = momentAt(scene.method, scene.timeline, time);
  if (!moment) return;
  if (moment.shot.kind === 'card') {
    paintCard(ctx, look, moment, pictureOf(scene, moment.shot.pictured), width, height);
    return;
  }
  const captionTop = aboveCaption(scene, moment, height);
  paintShown(ctx, scene, moment, width, captionTop);
  if (captionTop === height) return;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.fillStyle = look.ink;
  ctx.fillRect(0, captionTop, width, height - captionTop);
  paintCaption(ctx, signOf(moment), moment.said, captionTop, width, height);
}

/** Paints what a moment shows, without its words, into so much of the canvas. */
function paintShown(ctx: Context, scene: Scene, moment: Moment, width: number, height: number): void {
  const { look } = scene;
  if (moment.shot.kind === 'wrong') {
    paintWrong(ctx, scene, moment.shot.exhibit, moment.share, width, height);
  } else if (moment.shot.kind === 'film') {
    paintFilm(ctx, scene, moment.shot, moment.at, width, height);
  } else if (isOnForm(scene, moment) && scene.way) {
    paintForm(ctx, scene, scene.way, moment, width, height);
  } else if (
    moment.step !== undefined &&
    relaidShare(moment) !== undefined &&
    paintRelaid(ctx, scene, moment, width, height)
  ) {
    return;
  } else if (moment.step !== undefined) {
    const { laid, rooms, box } = stepSeen(scene, moment, width, height);
    const drawing = stepDrawn(scene, moment);
    paintDrawing(ctx, drawing, look, box, rooms.step.width, rooms.step.height);
    const frame = shownBox(box, rooms.step.width, rooms.step.height);
    paintPointed(ctx, pointedInStep(scene.method, moment, scene.view, frame), look);
    if (laid && rooms.back) paintBack(ctx, scene, laid, moment.at, rooms.back);
    if (laid && rooms.trail) paintTrail(ctx, scene, laid, moment.at, rooms.trail);
    if (moment.shot.kind === 'lay' && moment.shot.again) paintAgain(ctx, look, width, height);
  }
}

/** Whether a moment shows the knot as it lies in the hand. */
const isOnForm = ({ way }: Scene, { shot }: Moment): boolean =>
  way !== undefined && shot.kind !== 'lay' && shot.kind !== 'relay';

/** How far the knot is laid anew, as it is drawn; nothing where it lies as it is. Of what cannot be set, tightening is that. */
const relaidShare = ({ shot, share }: Moment): number | undefined =>
  shot.kind === 'relay' ? share : shot.kind === 'tighten' ? shot.from + share * (shot.to - shot.from) : undefined;

/** Paints a knot on its way to how it lies in a later layout; nothing where it lies so already. */
function paintRelaid(ctx: Context, scene: Scene, moment: Moment, width: number, height: number): boolean {
  const { method, view, look } = scene;
  const share = relaidShare(moment) ?? 1;
  // What is beside the step that follows is beside it already.
  const step = moment.shot.kind === 'relay' ? stepsOf(method)[moment.step ?? 0] : undefined;
  const { step: room, back, trail } = roomsOf(step ? scene : {}, width, height);
  const isOnItsWay = share < 1 || moment.shot.kind === 'relay';
  const relaid = isOnItsWay ? drawRelaid(method, moment.step ?? 0, share, view, room) : undefined;
  if (!relaid) return false;
  paintDrawing(ctx, relaid.drawing, look, relaid.box, room.width, room.height);
  if (relaid.veil > 0) {
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.globalAlpha = relaid.veil;
    ctx.fillStyle = look.paper;
    ctx.fillRect(0, 0, room.width, room.height);
    ctx.globalAlpha = 1;
  }
  if (step && back) paintBack(ctx, scene, step, moment.at, back);
  if (step && trail) paintTrail(ctx, scene, step, moment.at, trail);
  return true;
}

/** What paints the still picture of a card: the knot once a step is done, as its last moment shows it. */
function pictureOf(scene: Scene, pictured: number | undefined): Picture | undefined {
  const step = pictured === undefined ? undefined : stepsOf(scene.method)[pictured];
  if (!step) return undefined;
  const shot: Shot =
    step.does === 'lay'
      ? { kind: 'lay' }
      : step.does === 'check'
        ? { kind: 'hold', side: 'front' }
        : { kind: 'tighten', from: 1, to: 1, pulled: false };
  const still = { part: 0, step: step.index, shot, at: reachedAt(step, 1), share: 1, caption: '', said: '' };
  return (ctx, width, height) => {
    paintShown(ctx, { ...scene, back: undefined, trail: undefined }, still, width, height);
  };
}

/** Where the picture ends and its caption begins; what is shown without words has the whole picture. */
const aboveCaption = ({ captioned }: Scene, { caption }: Moment, height: number): number =>
  caption !== '' && captioned !== false ? height * (1 - CAPTION_SHARE) : height;

/** What of a picture a step has that is tied with words beneath. */
export const stepRoom = (scene: Scene, width: number, height: number): Room =>
  roomsOf(scene, width, scene.captioned === false ? height : height * (1 - CAPTION_SHARE)).step;

/** How a step is seen: what of the picture it has, and what of the board is in it. */
function stepSeen(
  scene: Scene,
  moment: Moment,
  width: number,
  height: number,
): { readonly laid: Step | undefined; readonly rooms: ReturnType<typeof roomsOf>; readonly box: Box } {
  const laid = stepLaid(scene, moment);
  const rooms = roomsOf(laid ? scene : {}, width, height);
  const step = stepsOf(scene.method)[moment.step ?? 0];
  const box = laid
    ? cameraAt(scene.method, moment, scene.view, rooms.step)
    : step && isTurnedOver(moment)
      ? heartBox(figureInView(step.of.figure, otherFacing(viewOfStep(step, scene.view))))
      : pictureBox(scene.method, moment.step ?? 0, scene.view);
  return { laid, rooms, box };
}

/** The drawing of a step; of a knot that could not be set, what is looked at is drawn from that face, from its sides as it lies. */
function stepDrawn({ method, view }: Scene, moment: Moment): Drawing {
  const { step = 0, at } = moment;
  return isTurnedOver(moment) ? drawOtherSide(method, step, at, view) : drawMoment(method, step, at, view);
}

const isTurnedOver = ({ shot }: Moment): boolean => shot.kind === 'hold' && shot.side === 'back';

/** The place of the trail that is seen at a place of the picture; nothing where no rope is. */
export function trailSeen(
  scene: Scene,
  time: number,
  [x, y]: Point,
  { width, height }: { readonly width: number; readonly height: number },
): TrailPosition | undefined {
  const moment = warnsAt(scene.timeline, time) ? undefined : momentAt(scene.method, scene.timeline, time);
  if (moment?.step === undefined) return undefined;
  const tall = aboveCaption(scene, moment, height);
  const onBoard = (box: Box, size: { readonly width: number; readonly height: number }): Point => {
    const { scale, move } = fitted(box, size.width, size.height);
    return [(x - move[0]) / scale, (y - move[1]) / scale];
  };
  if (!isOnForm(scene, moment)) {
    const { rooms, box } = stepSeen(scene, moment, width, tall);
    return trailInStep(scene.method, moment, scene.view, onBoard(box, rooms.step));
  }
  const posed = scene.way && posedAt(scene, scene.way, moment);
  return posed && trailOnForm(posed.pose, onBoard(posed.frame, { width, height: tall }));
}

/** What stands before a caption: the number of the step that is tied, or that it is no step. */
const signOf = ({ step, shot }: Moment): string =>
  shot.kind === 'wrong' ? '✕' : step === undefined || shot.kind === 'hold' || shot.kind === 'tail' ? '' : `${step + 1}`;

/** The wrong ways of what is filmed, as they are seen. */
const wrongWays = remembered((scene: Scene) => {
  const { figure, ...shown } = finishedLayout(scene.method);
  return shownExhibits({ ...shown, figure: figureInView(figure, scene.view) }, scene.title, scene.words);
});

/** A wrong way: the knot so laid, its wrong crossings ringed, a cross in the corner. */
function paintWrong(ctx: Context, scene: Scene, exhibit: number, share: number, width: number, height: number): void {
  const wrong = wrongWays(scene)[exhibit];
  if (!wrong) return;
  const { look } = scene;
  const box = wrongCamera(wrong.figure, wrong.points, share);
  const ring = ringSize(heartBox(wrong.figure));
  paintDrawing(ctx, drawFigure(wrong.figure, { runs: true }), look, box, width, height);
  ctx.strokeStyle = look.working;
  ctx.lineWidth = ring / 6;
  for (const [x, y] of wrong.points) {
    ctx.beginPath();
    ctx.arc(x, y, ring, 0, 2 * Math.PI);
    ctx.stroke();
  }
  const size = lettered(width, height) / 9;
  ctx.setTransform(1, 0, 0, 1, width * 0.04, size * 0.4);
  ctx.lineCap = 'round';
  ctx.lineWidth = size / 6;
  ctx.stroke(new Path2D(`M0 0L${size} ${size}M${size} 0L0 ${size}`));
}

/** Said in a corner while a step is shown a second time. */
function paintAgain(ctx: Context, look: Look, width: number, height: number): void {
  const size = lettered(width, height) / 26;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.textBaseline = 'alphabetic';
  ctx.textAlign = 'left';
  ctx.font = `700 ${size}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillStyle = look.labelText;
  ctx.fillText('Again, slower', width * 0.035, size * 2);
}

function paintCaption(ctx: Context, number: string, text: string, top: number, width: number, height: number): void {
  const size = lettered(width, height) / 21;
  ctx.textBaseline = 'middle';
  ctx.textAlign = 'left';
  const middle = top + (height - top) / 2;
  ctx.font = `700 ${size * 1.7}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillStyle = '#f09a58';
  ctx.fillText(number, width * 0.035, middle);
  ctx.font = `500 ${size}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillStyle = '#f6efe3';
  const left = Math.max(width * 0.1, size * 2.2);
  const room = width * 0.96 - left;
  // A long text is set smaller rather than cut off.
  let fitted = size;
  let lines = wrap(ctx, text, room);
  while (lines.length * fitted * 1.25 > (height - top) * 0.94 && fitted > size / 3) {
    fitted *= 0.92;
    ctx.font = `500 ${fitted}px "${CAPTION_FONT}", sans-serif`;
    lines = wrap(ctx, text, room);
  }
  lines.forEach((line, i) => ctx.fillText(line, left, middle + (i - (lines.length - 1) / 2) * fitted * 1.25));
}
