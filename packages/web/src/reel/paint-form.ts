/**
 * Paints the knot as it lies in the hand, in the scenes that finish it: drawn tight, held, turned over, its tails measured.
 */
import {
  pullPath,
  type Box,
  type Look,
  type LookSide,
  formStrokes,
  pullsSeen,
  remembered,
  stepsOf,
  viewOfStep,
} from '@foxtrail/core';
import {
  heldFrom,
  inOtherHand,
  MARK_RADIUS,
  marksOn,
  pointedOnForm,
  tailsMeasured,
  turningOver,
  wayAt,
  type MeasuredPose,
  type TailRuler,
  type FormSide,
  type Moment,
  type Pose,
  type Tightening,
  shownBox,
} from '@foxtrail/core/reel';
import { type Context, fit, paintLetters, paintMark } from './paint-drawing';
import { paintPointed } from './paint-pointed';
import type { Scene } from './scene';

/** From where it is seen once it is turned over. */
const TURNED = { front: 'back', back: 'front', left: 'right', right: 'left', end: 'end' } as const satisfies Record<
  LookSide,
  LookSide
>;
const isFace = (side: LookSide): side is FormSide => side === 'front' || side === 'back';

/** How the knot lies, and from where it is seen, in a scene that finishes it. */
function poseAt(scene: Scene, way: Tightening, { step, shot, share }: Moment): Pose | undefined {
  const facing = viewOfStep(stepsOf(scene.method)[step ?? -1] ?? { telling: {} }, scene.view);
  const own: FormSide = facing === 'back' || facing === 'left back' ? 'back' : 'front';
  const seen = <S extends LookSide>(side: S): S | (typeof TURNED)[S] => (own === 'back' ? TURNED[side] : side);
  const pose = ((): Pose | undefined => {
    switch (shot.kind) {
      case 'lay':
      case 'relay':
      case 'wrong':
      case 'card':
      case 'film':
        return undefined;
      case 'tail':
        return heldFrom(way, seen('front'));
      case 'tighten':
        return wayAt(way, shot.from + share * (shot.to - shot.from), own);
      case 'hold': {
        // What is seen from its left in the mirror is seen from its right.
        const isSide = shot.side === 'left' || shot.side === 'right';
        return heldFrom(way, seen(isSide && scene.view === 'left' ? TURNED[shot.side] : shot.side));
      }
      case 'turn':
        return turningOver(way, seen(shot.from), share);
    }
  })();
  return pose && (scene.view === 'left' ? inOtherHand(pose) : pose);
}

/** Room that the arrows of a pull have round a form, in diameters. */
const PULL_ROOM = 1.6;

/** How the knot lies at a moment, with its tails measured where they are, and what of it is in the picture. */
export function posedAt(
  scene: Scene,
  way: Tightening,
  moment: Moment,
): { readonly pose: Pose; readonly measured: MeasuredPose | undefined; readonly frame: Box } | undefined {
  const { shot, share } = moment;
  const held = poseAt(scene, way, moment);
  if (!held) return undefined;
  const measured = shot.kind === 'tail' ? measuredAs(scene, way, held) : undefined;
  const pose = measured ?? held;
  // The view draws back a little for the arrows.
  const room = shot.kind === 'tighten' && shot.pulled ? PULL_ROOM * Math.min(1, 4 * share) : 0;
  const [l, t, r, b] = pose.frame;
  return { pose, measured, frame: [l - room, t - room, r + room, b + room] };
}

/** Paints the knot as it lies in a scene that finishes it. */
export function paintForm(
  ctx: Context,
  scene: Scene,
  way: Tightening,
  moment: Moment,
  width: number,
  height: number,
): void {
  const { look } = scene;
  const { shot, share } = moment;
  const posed = posedAt(scene, way, moment);
  if (!posed) return;
  const { pose, measured, frame } = posed;
  const pulled = shot.kind === 'tighten' && shot.pulled;
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
  for (const ruler of measured?.rulers ?? []) paintRuler(ctx, ruler, share, look);
  const { of } = stepsOf(scene.method)[moment.step ?? -1] ?? {};
  const marks =
    shot.kind === 'hold' && isFace(shot.side) && of
      ? marksOn(of, pose.form, pose, scene.view === 'back' ? TURNED[shot.side] : shot.side)
      : [];
  for (const mark of marks) paintMark(ctx, mark, MARK_RADIUS, look);
  // What lies still is pointed out, and what has come to lie still.
  if (!moment.callouts || share < 1 || shot.kind === 'turn') return;
  const taken = marks.map(({ point: [x, y] }): Box => [
    x - MARK_RADIUS,
    y - MARK_RADIUS,
    x + MARK_RADIUS,
    y + MARK_RADIUS,
  ]);
  paintPointed(ctx, pointedOnForm(pose, moment.callouts, shownBox(frame, width, height), taken), look);
}

/** What has been measured of a knot, by the side and hand from which it is seen and by what is asked: every frame shows the same. */
const measuredOf = remembered((_way: Tightening) => new Map<string, MeasuredPose>());

function measuredAs({ view, tail }: Scene, way: Tightening, held: Pose): MeasuredPose {
  const known = measuredOf(way);
  const key = JSON.stringify([view, tail, held.sight.near]);
  const measured = known.get(key) ?? tailsMeasured(way.figure, held, tail);
  known.set(key, measured);
  return measured;
}

/** A ruler's breadth, how far from the rope it lies, its ticks, how far on its figures stand, and the size of its letters, in diameters. */
const RULER = { breadth: 0.85, apart: 0.35, tick: 0.32, long: 0.6, figures: 0.75, letters: 1.15 } as const;

/** A ruler beside a tail, laid as far along it as a share of what is asked; at its full length it says how long that is. */
function paintRuler(
  ctx: Context,
  { from, along, aside, unit, thick, wanted, label }: TailRuler,
  share: number,
  look: Look,
): void {
  const place = (a: number, s: number): string =>
    `${from[0] + a * along[0] + s * aside[0]} ${from[1] + a * along[1] + s * aside[1]}`;
  const near = thick / 2 + RULER.apart * thick;
  const far = near + RULER.breadth * thick;
  const reach = wanted * unit * share;
  const body = new Path2D(`M${place(0, near)}L${place(reach, near)}L${place(reach, far)}L${place(0, far)}Z`);
  ctx.fillStyle = look.label;
  ctx.fill(body);
  ctx.strokeStyle = look.band;
  ctx.lineWidth = 0.09;
  ctx.stroke(body);
  for (let k = 1; k * unit < reach - 1e-6; k += 1)
    ctx.stroke(
      new Path2D(
        `M${place(k * unit, near)}L${place(k * unit, near + (k % 5 === 0 ? RULER.long : RULER.tick) * thick)}`,
      ),
    );
  ctx.strokeStyle = look.working;
  ctx.lineWidth = 0.2;
  for (const a of [0, reach]) ctx.stroke(new Path2D(`M${place(a, -near)}L${place(a, far)}`));
  if (share < 1) return;
  // The words lie along the ruler, never upside down.
  const turn = along[0] < -0.01 || (Math.abs(along[0]) <= 0.01 && along[1] > 0) ? -1 : 1;
  const [c, s] = [turn * along[0], turn * along[1]];
  const size = RULER.letters * thick;
  // Letters stand on their line; their middle is a third of their size above it.
  const out = far + RULER.figures * thick;
  const [x, y] = [
    from[0] + 0.58 * reach * along[0] + out * aside[0] - s * size * 0.35,
    from[1] + 0.58 * reach * along[1] + out * aside[1] + c * size * 0.35,
  ];
  ctx.fillStyle = look.labelText;
  paintLetters(ctx, label, [x, y], size, 700, [c, s]);
}
