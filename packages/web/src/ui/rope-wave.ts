/** A rope's run laid out straight, as a path: a rise for every over, a dip for every under. Lengths in CSS pixels. */
import { curveOf, lengthTo, passagesOf, type Figure, type Rope } from '@foxtrail/core';

/** Where the run lies: its left end, pixels a diameter, the height of its middle, and how far it rises and dips. */
export interface WaveRun {
  readonly left: number;
  readonly scale: number;
  readonly base: number;
  readonly swing: number;
}

/** Most of the length of a rise. */
const LONGEST = 16;

/** The path from one length along the rope to another, in diameters. */
export function ropeWave(figure: Figure, rope: Rope, run: WaveRun, from: number, to: number): string {
  const { left, scale, base, swing } = run;
  const curve = curveOf(rope);
  const bumps = passagesOf(figure, rope.id).map((p) => ({ at: lengthTo(curve, p.at) * scale, over: p.over }));
  const reach = bumps.map((b, i) => {
    const gaps = [bumps[i - 1], bumps[i + 1]]
      .filter((n) => n !== undefined && n.over !== b.over)
      .map((n) => Math.abs((n as { at: number }).at - b.at));
    return Math.min(LONGEST, Math.max(4, 0.42 * Math.min(...gaps, 40)));
  });
  const height = (x: number): number => {
    const h = bumps.reduce(
      (sum, b, i) => sum + (b.over ? -1 : 1) * Math.exp(-(((x - b.at) / (reach[i] as number)) ** 2)),
      0,
    );
    return base + swing * Math.max(-1, Math.min(1, h));
  };
  const points: string[] = [];
  for (let x = from * scale; x < to * scale; x += 2) points.push(`${(left + x).toFixed(1)} ${height(x).toFixed(1)}`);
  points.push(`${(left + to * scale).toFixed(1)} ${height(to * scale).toFixed(1)}`);
  return `M${points.join('L')}`;
}
