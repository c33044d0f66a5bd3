/**
 * Paints what a scene points out: words, a ring, an arrow, a cross, at its place of the rope.
 */
import type { Look, Point } from '@foxtrail/core';
import type { Pointed } from '@foxtrail/core/reel';
import { paintNote, type Context } from './paint-drawing';

/** Sizes in diameters: a ring's radius, a cross's arm, an arrow's shaft and head, what it keeps from its place; lines and their edge. */
const RING = 1.25;
const CROSS = 0.95;
const SHAFT = 0.22;
const HEAD = { long: 1.1, broad: 0.62 } as const;
const AWAY = 0.55;
/** Half of the strokes across a ruler. */
const RULER = { edge: 0.9, stroke: 0.28 } as const;
const LINE = 0.26;
const EDGE = 0.14;

/** An arrow to a place, from another. */
function arrowTo([x, y]: Point, [u, v]: Point): Path2D {
  const far = Math.hypot(u - x, v - y) || 1;
  const [dx, dy] = [(u - x) / far, (v - y) / far];
  const at = (along: number, aside: number): string => `${x + along * dx - aside * dy} ${y + along * dy + aside * dx}`;
  const [tip, neck, end] = [AWAY, AWAY + HEAD.long, Math.max(far, AWAY + HEAD.long + 0.6)];
  const corners = [
    at(tip, 0),
    at(neck, HEAD.broad),
    at(neck, SHAFT),
    at(end, SHAFT),
    at(end, -SHAFT),
    at(neck, -SHAFT),
    at(neck, -HEAD.broad),
  ];
  return new Path2D(`M${corners.join('L')}Z`);
}

/** A ruler from one place to another: an edge at each end, and a stroke at each diameter between. */
function ruler([x, y]: Point, [u, v]: Point): Path2D {
  const long = Math.hypot(u - x, v - y) || 1;
  const [dx, dy] = [(u - x) / long, (v - y) / long];
  const stroke = (along: number, half: number): string => {
    const [p, q] = [x + along * dx, y + along * dy];
    return `M${p - half * dy} ${q + half * dx}L${p + half * dy} ${q - half * dx}`;
  };
  const inner = Array.from({ length: Math.ceil(long) - 1 }, (_, i) => stroke(i + 1, RULER.stroke));
  return new Path2D(`M${x} ${y}L${u} ${v}${stroke(0, RULER.edge)}${stroke(long, RULER.edge)}${inner.join('')}`);
}

function outlineOf({ kind, at: [x, y], to, from }: Pointed): Path2D | undefined {
  switch (kind) {
    case 'ruler':
      return to && ruler([x, y], to);
    case 'label':
      return undefined;
    case 'ring': {
      const ring = new Path2D();
      ring.arc(x, y, RING, 0, 2 * Math.PI);
      return ring;
    }
    case 'cross':
      return new Path2D(
        `M${x - CROSS} ${y - CROSS}L${x + CROSS} ${y + CROSS}M${x + CROSS} ${y - CROSS}L${x - CROSS} ${y + CROSS}`,
      );
    case 'arrow':
      return arrowTo([x, y], from);
  }
}

export function paintPointed(ctx: Context, pointed: readonly Pointed[], look: Look): void {
  for (const one of pointed) {
    const outline = outlineOf(one);
    if (outline) {
      ctx.lineCap = 'round';
      ctx.lineJoin = 'round';
      ctx.strokeStyle = look.label;
      ctx.lineWidth = one.kind === 'arrow' ? EDGE * 2 : LINE + 2 * EDGE;
      ctx.stroke(outline);
      ctx.strokeStyle = ctx.fillStyle = look.working;
      ctx.lineWidth = LINE;
      if (one.kind === 'arrow') ctx.fill(outline);
      else ctx.stroke(outline);
      ctx.lineCap = 'butt';
    }
    if (one.note) paintNote(ctx, one.note, look, one.kind === 'label');
  }
}
