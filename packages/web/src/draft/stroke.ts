/** A stroke of the hand, made few points of a rope. */
import { fitPath, type Point } from '@foxtrail/core';

/** A place the pointer has passed while laying, and whether the end was to pass under there. */
export interface Sample {
  readonly point: Point;
  readonly under: boolean;
}

/** Few control points for a stroke, fitted separately where it passes over and under, so that each letter is exact. */
export function fitStroke(samples: readonly Sample[]): { points: Point[]; pass: string } {
  const first = samples[0];
  if (!first) return { points: [], pass: '' };
  const points: Point[] = [first.point];
  let pass = '';
  for (let i = 1; i < samples.length;) {
    const under = samples[i]?.under ?? false;
    let end = i;
    while (end < samples.length && samples[end]?.under === under) end += 1;
    const part = fitPath([points.at(-1) as Point, ...samples.slice(i, end).map((s) => s.point)]);
    points.push(...part.slice(1));
    pass += (under ? 'U' : 'O').repeat(part.length - 1);
    i = end;
  }
  return { points, pass };
}
