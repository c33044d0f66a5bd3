/**
 * What is painted beside a step while it is tied: the knot from its other side, and the trail of the rope with how far it is laid.
 */
import {
  bodyOf,
  curveOf,
  drawOtherSide,
  extentsAt,
  figureInView,
  heartBox,
  lengthOf,
  lengthTo,
  otherFacing,
  ropeOf,
  stepsOf,
  viewOfStep,
  type Rope,
  type Step,
} from '@foxtrail/core';
import type { Moment } from '@foxtrail/core/reel';
import { ropeWave } from '../ui/rope-wave';
import { CAPTION_FONT, lettered, paintDrawing, type Context } from './paint-drawing';
import type { Scene } from './scene';

/** A part of the picture, in pixels. */
export interface Room {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** Shares of the picture: the trail's height, and what the other side has of a wide picture's width, of an upright one's height. */
const TRAIL = 0.13;
const OTHER_SIDE = { wide: 0.36, upright: 0.36 } as const;
/** A picture this much wider than high has the other side at its right. */
const WIDE = 1.25;

/** How a picture is shared: the step itself, beside it what the reel asks for. */
export function roomsOf(
  { back, trail }: Pick<Scene, 'back' | 'trail'>,
  width: number,
  height: number,
): { readonly step: Room; readonly back: Room | undefined; readonly trail: Room | undefined } {
  const low = trail === true ? height * TRAIL : 0;
  const tall = height - low;
  const trailRoom = low > 0 ? { left: 0, top: tall, width, height: low } : undefined;
  const all: Room = { left: 0, top: 0, width, height: tall };
  if (back !== true) return { step: all, back: undefined, trail: trailRoom };
  if (width > WIDE * tall) {
    const w = width * OTHER_SIDE.wide;
    return {
      step: { ...all, width: width - w },
      back: { left: width - w, top: 0, width: w, height: Math.min(tall, w) },
      trail: trailRoom,
    };
  }
  const h = tall * OTHER_SIDE.upright;
  return {
    step: { ...all, height: tall - h },
    back: { left: 0, top: tall - h, width, height: h },
    trail: trailRoom,
  };
}

/** The knot from its other side, as far as it is laid. */
export function paintBack(ctx: Context, scene: Scene, step: Step, at: number, room: Room): void {
  const { look, method } = scene;
  const facing = otherFacing(viewOfStep(step, scene.view));
  const pad = Math.min(room.width, room.height) * 0.06;
  const [x, y, w, h] = [room.left + pad / 2, room.top + pad, room.width - 1.5 * pad, room.height - 1.5 * pad];
  const frame = new Path2D(`M${x} ${y}h${w}v${h}h${-w}Z`);
  ctx.save();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.fillStyle = look.label;
  ctx.fill(frame);
  ctx.clip(frame);
  const size = lettered(w, h) / 11;
  const box = heartBox(figureInView(step.of.figure, facing));
  const paper = { ...look, paper: look.label };
  paintDrawing(ctx, drawOtherSide(method, step.index, at, scene.view), paper, box, w, h - 1.8 * size, [
    x,
    y + 1.8 * size,
  ]);
  ctx.restore();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.textAlign = 'left';
  ctx.textBaseline = 'middle';
  ctx.font = `700 ${size}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillStyle = look.labelText;
  ctx.fillText(
    facing === 'back' || facing === 'left back' ? 'From behind' : 'From the front',
    x + size * 0.7,
    y + size,
  );
  ctx.strokeStyle = look.band;
  ctx.lineWidth = Math.max(1, h / 200);
  ctx.stroke(frame);
}

/** The pieces of a rope that are laid at a moment, in lengths along it. */
function laidPieces(step: Step, at: number, rope: Rope): readonly (readonly [number, number])[] {
  const curve = curveOf(rope);
  const whole = lengthOf(curve);
  const extent = step.stretch ? extentsAt(step.of, step.stretch.index, at).get(rope.id) : undefined;
  if (!extent) return [[0, whole]];
  const to = extent.to === Infinity ? whole : lengthTo(curve, extent.to);
  return (extent.without ?? []).reduce<(readonly [number, number])[]>(
    (pieces, gap) => {
      const [a, b] = [lengthTo(curve, Math.max(0, gap[0])), lengthTo(curve, gap[1])];
      return pieces.flatMap(([p, q]) =>
        (
          [
            [p, Math.min(q, a)],
            [Math.max(p, b), q],
          ] as const
        ).filter(([u, v]) => v - u > 1e-6),
      );
    },
    [[0, to]],
  );
}

/** The trail of every rope: a rise for each over, a dip for each under; what is laid as rope, what is to come as a line. */
export function paintTrail(ctx: Context, scene: Scene, step: Step, at: number, room: Room): void {
  const { look } = scene;
  const { figure, leaders } = step.of;
  const ropes = [...new Set(leaders.map((l) => l.rope))].flatMap((id) => ropeOf(figure, id) ?? []);
  const total = ropes.reduce((sum, r) => sum + lengthOf(curveOf(r)), 0);
  const margin = room.width * 0.035;
  const between = room.width * 0.04;
  const scale = (room.width - 2 * margin - between * Math.max(0, ropes.length - 1)) / Math.max(1, total);
  const swing = room.height * 0.24;
  const thick = room.height * 0.17;
  let left = room.left + margin;
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.lineJoin = 'round';
  for (const rope of ropes) {
    const curve = curveOf(rope);
    const run = { left, scale, base: room.top + room.height / 2, swing };
    const wave = (from: number, to: number): Path2D => new Path2D(ropeWave(figure, rope, run, from, to));
    ctx.lineCap = 'round';
    ctx.strokeStyle = look.band;
    ctx.lineWidth = thick * 0.16;
    ctx.stroke(wave(0, lengthOf(curve)));
    const body = bodyOf(look, figure.ropes.indexOf(rope), rope.cordage);
    for (const [from, to] of laidPieces(step, at, rope)) {
      ctx.strokeStyle = look.ink;
      ctx.lineWidth = thick;
      ctx.stroke(wave(from, to));
      ctx.strokeStyle = body;
      ctx.lineWidth = thick * 0.7;
      ctx.stroke(wave(from, to));
    }
    const { stretch } = step;
    if (stretch?.rope === rope.id && Math.abs(at - stretch.from) > 1e-6) {
      const [a, b] = [lengthTo(curve, stretch.from), lengthTo(curve, at)].sort((p, q) => p - q) as [number, number];
      ctx.strokeStyle = look.working;
      ctx.lineWidth = thick * 0.7;
      ctx.stroke(wave(a, b));
    }
    left += lengthOf(curve) * scale + between;
  }
  ctx.lineCap = 'butt';
}

/** The step that is laid at a moment, where one is. */
export const stepLaid = (scene: Scene, { shot, step }: Moment): Step | undefined =>
  shot.kind === 'lay' && step !== undefined ? stepsOf(scene.method)[step] : undefined;
