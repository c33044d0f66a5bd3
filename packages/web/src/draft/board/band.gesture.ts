/** A band is drawn on the bare board: the points within it are chosen together. */
import { boxOf, type Box, type PointPlace } from '@foxtrail/core';
import type { DraftState } from '../draft-state';
import { last, type Gesture, type Touch } from './gesture';

export class BandGesture implements Gesture {
  constructor(
    private readonly state: DraftState,
    private readonly from: Touch,
  ) {}

  move(passed: readonly [Touch, ...Touch[]]): void {
    this.state.band.set(boxOf([this.from.point, last(passed).point]) ?? null);
  }

  end(): void {
    const band = this.state.band();
    this.state.band.set(null);
    if (!band) return;
    const { ropes, hosts } = this.state.figure();
    const points = [...ropes, ...hosts].flatMap((s) =>
      s.points.flatMap((p, index): PointPlace[] => (inBox(band, p) ? [{ strand: s.id, index }] : [])),
    );
    this.state.chosen.set(points.length > 0 ? { kind: 'part', points } : null);
    this.state.message.set(
      points.length > 0
        ? `${points.length} points are chosen: drag or arrows move them, < > turn, + − size, Delete removes.`
        : 'No point lies in the band.',
    );
  }

  cancel(): void {
    this.state.band.set(null);
  }
}

const inBox = ([l, t, r, b]: Box, [x, y]: readonly [number, number]): boolean => x >= l && x <= r && y >= t && y <= b;
