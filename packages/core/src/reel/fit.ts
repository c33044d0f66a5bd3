/**
 * Pictures of a box of the board.
 */
import type { Box, Point } from '../figure/point.js';

/** Part of a picture's height that is left free about the box. */
const ROOM = 0.04;

/** How a box is fitted into a picture: places times `scale`, then moved; in the units of the width and height given. */
export function fitted(box: Box, width: number, height: number): { readonly scale: number; readonly move: Point } {
  const [l, t, r, b] = box;
  const room = ROOM * height;
  const scale = Math.min((width - 2 * room) / (r - l), (height - 2 * room) / (b - t));
  return { scale, move: [width / 2 - (scale * (l + r)) / 2, height / 2 - (scale * (t + b)) / 2] };
}
