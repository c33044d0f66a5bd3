/**
 * The shapes of a clip: for a screen, a square, and a telephone held upright.
 */
import { REEL_SHAPES, type ReelShape } from '@foxtrail/core';

export const SHAPES = {
  wide: { name: '16 : 9', width: 16, height: 9 },
  square: { name: '1 : 1', width: 1, height: 1 },
  upright: { name: '9 : 16', width: 9, height: 16 },
} as const satisfies Record<ReelShape, object>;
export type Shape = ReelShape;
export const SHAPE_NAMES = REEL_SHAPES;

/** The size of a clip in pixels; `lines` is its shorter side. */
export function sizeOf(shape: Shape, lines: number): { readonly width: number; readonly height: number } {
  const { width, height } = SHAPES[shape];
  const unit = lines / Math.min(width, height);
  return { width: Math.round(width * unit), height: Math.round(height * unit) };
}
