/**
 * Paints a moment of the demonstration on a canvas: the same drawing as on the board, the caption beneath. Used by the player
 * on the page and by the export in its worker. Strokes only, no blur: it has to keep up with the encoder.
 */
import {
  type Note,
  pointerOf,
  pictureBox,
  noteLines,
  LIT_WIDTH,
  arrowPath,
  pullPath,
  type NumberedPlace,
  drawFigure,
  drawMoment,
  figureInView,
  finishedLayout,
  heartBox,
  remembered,
  ringSize,
  shownExhibits,
  type Vocabulary,
  FINE_LINE,
  strokesOf,
  OUTLINE,
  outsideOf,
  type Box,
  type Point,
  type Drawing,
  type Look,
  type Method,
  type Run,
  type View,
  formStrokes,
  pullsSeen,
  stepsOf,
  viewOfStep,
} from '@foxtrail/core';
import {
  fitted,
  momentAt,
  warnsAt,
  type Timeline,
  heldFrom,
  inOtherHand,
  MARK_RADIUS,
  marksOn,
  turningOver,
  wayAt,
  type FormSide,
  type Moment,
  type Pose,
  type Tightening,
} from '@foxtrail/core/reel';

/** What is used of a canvas context, on the page or in a worker. */
type Context = Pick<
  OffscreenCanvasRenderingContext2D,
  | 'setTransform'
  | 'arc'
  | 'beginPath'
  | 'fillStyle'
  | 'fillRect'
  | 'textBaseline'
  | 'textAlign'
  | 'font'
  | 'fillText'
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
>;

export const CAPTION_FONT = 'Atkinson Hyperlegible Next Variable';

/** What is filmed. */
export interface Scene {
  readonly method: Method;
  readonly timeline: Timeline;
  readonly view: View;
  readonly look: Look;
  readonly title: string;
  /** Whether what is said stands in the picture; absent: it does. */
  readonly captioned?: boolean | undefined;
  /** The words that wrong ways are told in. */
  readonly words: Vocabulary;
  /** The knot on its way into the hand; without it the scenes that finish the knot show its drawing. */
  readonly way?: Tightening | undefined;
}

/** Share of the height that the caption has. */
const CAPTION_SHARE = 0.17;
/** Letters are measured by the height, or in a narrow picture by the width. */
const lettered = (width: number, height: number): number => Math.min(height, width * 0.9);

/** A key of what a moment shows; moments with one key look the same. */
export function momentKey(scene: Scene, time: number): string {
  if (warnsAt(scene.timeline, time)) return 'cautions';
  const moment = momentAt(scene.method, scene.timeline, time);
  if (!moment) return 'none';
  const { kind } = moment.shot;
  if (kind === 'card' || kind === 'wrong') return `part ${moment.part}`;
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
    paintCautions(ctx, scene, width, height);
    return;
  }
  const moment = momentAt(scene.method, scene.timeline, time);
  if (!moment) return;
  if (moment.shot.kind === 'card') {
    paintCard(ctx, look, moment.shot.title ?? '', moment.caption, width, height);
    return;
  }
  // What is shown without words has the whole picture.
  const isSaid = moment.caption !== '' && scene.captioned !== false;
  const captionTop = isSaid ? height * (1 - CAPTION_SHARE) : height;
  if (moment.shot.kind === 'wrong') {
    paintWrong(ctx, scene, moment.shot.exhibit, width, captionTop);
  } else if (scene.way && moment.shot.kind !== 'lay') {
    paintForm(ctx, scene, scene.way, moment, width, captionTop);
  } else if (moment.step !== undefined) {
    const box = pictureBox(scene.method, moment.step, scene.view);
    paintDrawing(ctx, drawMoment(scene.method, moment.step, moment.at, scene.view), look, box, width, captionTop);
    if (moment.shot.kind === 'lay' && moment.shot.again) paintAgain(ctx, look, width, height);
  }
  if (!isSaid) return;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.fillStyle = look.ink;
  ctx.fillRect(0, captionTop, width, height - captionTop);
  paintCaption(ctx, signOf(moment), moment.caption, captionTop, width, height);
}

/** What stands before a caption: the number of the step that is tied, or that it is no step. */
const signOf = ({ step, shot }: Moment): string =>
  shot.kind === 'wrong' ? '✕' : step === undefined || shot.kind === 'hold' ? '' : `${step + 1}`;

/** A card: its title, and what it says beneath, in the middle of the picture. */
function paintCard(ctx: Context, look: Look, title: string, text: string, width: number, height: number): void {
  const unit = lettered(width, height);
  const room = width * 0.8;
  ctx.textBaseline = 'alphabetic';
  ctx.textAlign = 'left';
  ctx.fillStyle = look.labelText;
  const [big, small] = [unit / 9, unit / 17];
  ctx.font = `700 ${big}px "${CAPTION_FONT}", sans-serif`;
  const head = title === '' ? [] : wrap(ctx, title, room);
  ctx.font = `500 ${small}px "${CAPTION_FONT}", sans-serif`;
  const body = wrap(ctx, text, room);
  const tall = head.length * big * 1.15 + (head.length > 0 ? small : 0) + body.length * small * 1.4;
  let y = (height - tall) / 2;
  ctx.font = `700 ${big}px "${CAPTION_FONT}", sans-serif`;
  for (const line of head) ctx.fillText(line, width * 0.1, (y += big * 1.15) - big * 0.25);
  if (head.length > 0) {
    ctx.fillStyle = look.working;
    ctx.fillRect(width * 0.1, y + small * 0.15, unit / 7, unit / 110);
    ctx.fillStyle = look.labelText;
    y += small;
  }
  ctx.font = `500 ${small}px "${CAPTION_FONT}", sans-serif`;
  for (const line of body) ctx.fillText(line, width * 0.1, (y += small * 1.4) - small * 0.3);
}

/** The wrong ways of what is filmed, as they are seen. */
const wrongWays = remembered((scene: Scene) => {
  const { figure, ...shown } = finishedLayout(scene.method);
  return shownExhibits({ ...shown, figure: figureInView(figure, scene.view) }, scene.title, scene.words);
});

/** A wrong way: the knot so laid, its wrong crossings ringed, a cross in the corner. */
function paintWrong(ctx: Context, scene: Scene, exhibit: number, width: number, height: number): void {
  const wrong = wrongWays(scene)[exhibit];
  if (!wrong) return;
  const { look } = scene;
  const box = heartBox(wrong.figure);
  paintDrawing(ctx, drawFigure(wrong.figure), look, box, width, height);
  ctx.strokeStyle = look.working;
  ctx.lineWidth = ringSize(box) / 6;
  for (const [x, y] of wrong.points) {
    ctx.beginPath();
    ctx.arc(x, y, ringSize(box), 0, 2 * Math.PI);
    ctx.stroke();
  }
  const size = lettered(width, height) / 9;
  ctx.setTransform(1, 0, 0, 1, width * 0.04, size * 0.4);
  ctx.lineCap = 'round';
  ctx.lineWidth = size / 6;
  ctx.stroke(new Path2D(`M0 0L${size} ${size}M${size} 0L0 ${size}`));
}

/** The card before the first step: the knot's name and its cautions, as large as they fit. */
function paintCautions(ctx: Context, { timeline, title, look }: Scene, width: number, height: number): void {
  const left = width * 0.07;
  const unit = lettered(width, height);
  ctx.textBaseline = 'alphabetic';
  ctx.textAlign = 'left';
  ctx.fillStyle = look.labelText;
  ctx.font = `700 ${unit / 13}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillText(title, left, height * 0.14);
  ctx.font = `700 ${unit / 24}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillText('Before you begin', left, height * 0.23);
  let size = unit / 22;
  let lines: string[] = [];
  for (; size > unit / 50; size *= 0.9) {
    ctx.font = `500 ${size}px "${CAPTION_FONT}", sans-serif`;
    lines = (timeline.cautions?.lines ?? []).flatMap((c) => wrap(ctx, `• ${c}`, width - 2 * left));
    if (lines.length * size * 1.4 < height * 0.68) break;
  }
  lines.forEach((line, i) => ctx.fillText(line, left, height * 0.3 + i * size * 1.4));
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
  const lines = wrap(ctx, text, room);
  // A long text is set smaller rather than cut off.
  const fitted = lines.length > 3 ? size * 0.72 : size;
  if (fitted !== size) ctx.font = `500 ${fitted}px "${CAPTION_FONT}", sans-serif`;
  const final = fitted === size ? lines : wrap(ctx, text, room);
  final.forEach((line, i) => ctx.fillText(line, left, middle + (i - (final.length - 1) / 2) * fitted * 1.25));
}

function wrap(ctx: Context, text: string, width: number): string[] {
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

/** Fits a box of the board into so much of the canvas, at its top left unless it begins elsewhere. */
function fit(ctx: Context, box: Box, width: number, height: number, [left, top]: Point = [0, 0]): void {
  const { scale, move } = fitted(box, width, height);
  ctx.setTransform(scale, 0, 0, scale, left + move[0], top + move[1]);
}

const otherSide = (side: FormSide): FormSide => (side === 'front' ? 'back' : 'front');

/** How the knot lies, and from where it is seen, in a scene that finishes it. */
function poseAt(scene: Scene, way: Tightening, { step, shot, share }: Moment): Pose | undefined {
  const facing = viewOfStep(stepsOf(scene.method)[step ?? -1] ?? { telling: {} }, scene.view);
  const own: FormSide = facing === 'back' || facing === 'left back' ? 'back' : 'front';
  const seen = (side: FormSide): FormSide => (own === 'back' ? otherSide(side) : side);
  const pose = ((): Pose | undefined => {
    switch (shot.kind) {
      case 'lay':
      case 'wrong':
      case 'card':
        return undefined;
      case 'tighten':
        return wayAt(way, shot.from + share * (shot.to - shot.from), own);
      case 'hold':
        return heldFrom(way, seen(shot.side));
      case 'turn':
        return turningOver(way, seen(shot.from), share);
    }
  })();
  return pose && (scene.view === 'left' ? inOtherHand(pose) : pose);
}

/** Room that the arrows of a pull have round a form, in diameters. */
const PULL_ROOM = 1.6;

/** Paints the knot as it lies in a scene that finishes it. */
function paintForm(ctx: Context, scene: Scene, way: Tightening, moment: Moment, width: number, height: number): void {
  const pose = poseAt(scene, way, moment);
  if (!pose) return;
  const { look } = scene;
  const { shot, share } = moment;
  const pulled = shot.kind === 'tighten' && shot.pulled;
  // The view draws back a little for the arrows.
  const room = pulled ? PULL_ROOM * Math.min(1, 4 * share) : 0;
  const [l, t, r, b] = pose.frame;
  const frame: Box = [l - room, t - room, r + room, b + room];
  fit(ctx, frame, width, height);
  ctx.lineJoin = 'round';
  for (const { path, colour, width: w, dash = [], offset = 0, butt } of formStrokes(
    way.figure,
    pose.form,
    pose.sight,
    shownBox(frame, width, height),
    look,
  )) {
    ctx.lineCap = butt ? 'butt' : 'round';
    ctx.strokeStyle = colour;
    ctx.lineWidth = w;
    ctx.setLineDash([...dash]);
    ctx.lineDashOffset = offset;
    ctx.stroke(new Path2D(path));
  }
  ctx.setLineDash([]);
  ctx.lineCap = 'butt';
  if (pulled) {
    ctx.fillStyle = look.working;
    ctx.strokeStyle = look.ink;
    ctx.lineWidth = 0.08;
    for (const pull of pullsSeen(pose.form, pose.sight, frame)) {
      const arrow = new Path2D(pullPath(pull));
      ctx.fill(arrow);
      ctx.stroke(arrow);
    }
  }
  const { of } = stepsOf(scene.method)[moment.step ?? -1] ?? {};
  if (shot.kind === 'hold' && of)
    for (const mark of marksOn(of, pose.form, pose, scene.view === 'back' ? otherSide(shot.side) : shot.side))
      paintMark(ctx, mark, MARK_RADIUS, look);
}

/** What of the board the whole canvas shows round a frame: ropes run on to its edge. */
function shownBox([l, t, r, b]: Box, width: number, height: number): Box {
  const share = width / height;
  const [w, h] = [Math.max(r - l, share * (b - t)), Math.max(b - t, (r - l) / share)];
  const [x, y] = [(l + r) / 2, (t + b) / 2];
  return [x - w / 2, y - h / 2, x + w / 2, y + h / 2];
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
function paintMark(ctx: Context, { point: [x, y], at, label }: NumberedPlace, radius: number, look: Look): void {
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
  ctx.textAlign = 'center';
  ctx.textBaseline = 'alphabetic';
  ctx.font = `700 ${1.3 * radius}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillText(label, x, y + 0.47 * radius);
}

/** A callout: its pointer, its box, its words. */
function paintNote(ctx: Context, note: Note, look: Look): void {
  const [l, t, r, b] = note.box;
  const [[x1, y1], [x2, y2]] = pointerOf(note);
  ctx.strokeStyle = look.band;
  ctx.lineWidth = 0.16;
  ctx.stroke(new Path2D(`M${x1} ${y1}L${x2} ${y2}`));
  ctx.fillStyle = look.band;
  ctx.beginPath();
  ctx.arc(x2, y2, 0.24, 0, 2 * Math.PI);
  ctx.fill();
  const box = new Path2D(`M${l} ${t}H${r}V${b}H${l}Z`);
  ctx.fillStyle = look.label;
  ctx.fill(box);
  ctx.lineWidth = 0.09;
  ctx.stroke(box);
  ctx.fillStyle = look.labelText;
  ctx.textAlign = 'center';
  ctx.textBaseline = 'alphabetic';
  ctx.font = `600 ${note.size}px "${CAPTION_FONT}", sans-serif`;
  for (const { text, at } of noteLines(note)) ctx.fillText(text, at[0], at[1]);
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
  for (const { path, width } of drawing.gates) {
    ctx.lineWidth = width;
    ctx.setLineDash([0.5, 0.35]);
    ctx.stroke(new Path2D(path));
    ctx.setLineDash([]);
  }
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
