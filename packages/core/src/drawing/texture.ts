/**
 * Textures of rope, as fine lines along it: what it is made of is seen without its colour.
 */
import { isWebbing, type Construction } from '../figure/cordage.js';
import { atLength, directionAt, lengthTo, pointAt, type Curve } from '../figure/curve.js';
import type { Point } from '../figure/point.js';

const num = (v: number): string => String(Math.round(v * 100) / 100);

/** From one strand of a laid rope to the next, and between the ribs of a braid, in diameters of the rope. */
const PITCH: Readonly<Record<'laid' | 'braided', number>> = { laid: 0.62, braided: 0.66 };
/** How far a strand of a laid rope goes along it while it goes across, and a rib of a braid. */
const SLANT: Readonly<Record<'laid' | 'braided', number>> = { laid: 0.5, braided: 0.3 };
/** How far from the middle a line across reaches, and where the edges of webbing are stitched, in diameters of the rope. */
const ACROSS = 0.4;
const STITCHED = 0.33;
const EDGE_STEP = 0.9;

/** A place beside a curve: so far along it, and so far to the right of it. */
function beside(curve: Curve, along: number, aside: number): string {
  const at = atLength(curve, along);
  const [p, [dx, dy]]: [Point, Point] = [pointAt(curve, at), directionAt(curve, at)];
  return `${num(p[0] - dy * aside)} ${num(p[1] + dx * aside)}`;
}

/**
 * The lines of a texture between two places of a trail, as path data; nothing for a plain sheath. Laid rope is laid right-handed from
 * wherever it is seen. Lines stand at whole pitches along the rope, so that they stay where they are while its end is laid on; where so much
 * of it is still ahead, to come through as its end goes on, they go on with it.
 */
export function textureOf(
  curve: Curve,
  [from, to]: readonly [number, number],
  width: number,
  construction: Construction | undefined,
  ahead = 0,
): string | undefined {
  const [start, end] = [lengthTo(curve, from), lengthTo(curve, to)];
  if (construction === 'laid' || construction === 'braided') {
    const [pitch, slant, far] = [PITCH[construction] * width, (SLANT[construction] * width) / 2, ACROSS * width];
    const lines: string[] = [];
    for (let k = Math.ceil((start + ahead + slant) / pitch); k * pitch - ahead <= end - slant; k += 1) {
      const s = k * pitch - ahead;
      lines.push(
        construction === 'laid'
          ? `M${beside(curve, s - slant, -far)}L${beside(curve, s + slant, far)}`
          : `M${beside(curve, s - slant, -far)}L${beside(curve, s + slant, 0)}L${beside(curve, s - slant, far)}`,
      );
    }
    return lines.length > 0 ? lines.join('') : undefined;
  }
  if (!isWebbing({ construction })) return undefined;
  const steps = Math.max(1, Math.ceil((end - start) / EDGE_STEP));
  return [-STITCHED, STITCHED]
    .map((side) => {
      const points = Array.from({ length: steps + 1 }, (_, i) =>
        beside(curve, start + ((end - start) * i) / steps, side * width),
      );
      return `M${points.join('L')}`;
    })
    .join('');
}

/** The edge over which flat webbing is folded where it is turned over, as path data: slantwise from one side to the other. */
export const foldOf = (curve: Curve, at: number, width: number): string => {
  const along = lengthTo(curve, at);
  const half = (width / 2) * 0.96;
  return `M${beside(curve, along - half, -half)}L${beside(curve, along + half, half)}`;
};

/** Half the room that a break leaves, and how far it slants, in diameters of the rope. */
const BREAK_HALF = 0.3;
const BREAK_SLANT = 0.3;

/** A break: the outline of what is left out, and its two edges, as path data. */
export function breakOf(
  curve: Curve,
  at: number,
  width: number,
): { readonly gap: string; readonly edges: readonly string[] } {
  const along = lengthTo(curve, at);
  const [half, slant, far] = [BREAK_HALF * width, BREAK_SLANT * width, width / 2 + 0.3];
  const corner = (way: 1 | -1, side: 1 | -1): string => beside(curve, along + way * half + side * slant, side * far);
  const edge = (way: 1 | -1): string => `${corner(way, -1)}L${corner(way, 1)}`;
  return { gap: `M${edge(-1)}L${corner(1, 1)}L${corner(1, -1)}Z`, edges: [`M${edge(-1)}`, `M${edge(1)}`] };
}
