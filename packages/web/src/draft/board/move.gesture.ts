/** A point of a rope, or a host, follows the hand; where the hand let go, it is. */
import { nearestOn, curveOf, distance, HOST_SIZE, type Edit, type Point, type PointPlace } from '@foxtrail/core';
import type { DraftState } from '../draft-state';
import { last, type Gesture, type Touch } from './gesture';

/** How far a press on a host may miss it, in diameters. */
const BESIDE = 0.2;

export class MoveGesture implements Gesture {
  private constructor(
    private readonly state: DraftState,
    /** The edit that brings the thing to where the hand is, from where it was shown last. */
    private readonly edit: (at: Touch) => Edit,
  ) {}

  move(passed: readonly [Touch, ...Touch[]]): void {
    this.state.preview(this.edit(last(passed)), true);
  }

  end(): void {
    this.state.commitPreview();
  }

  cancel(): void {
    this.state.endPreview();
    this.state.message.set('The drag was broken off: it is where it was.');
  }

  /** Takes hold of what lies within reach of a place, in diameters: a point, a new one on a rope, or a host; and chooses it. */
  static hold(state: DraftState, at: Point, reach: number): MoveGesture | undefined {
    const { ropes, hosts } = state.figure();
    const chosen = state.chosen();
    if (chosen?.kind === 'part' && isPartAt(state, chosen.points, at, reach))
      return MoveGesture.part(state, chosen.points, at);
    const point = nearest(
      ropes.flatMap((r) => r.points.map((p, index) => ({ strand: r.id, index, away: distance(p, at) }))),
      reach,
    );
    if (point) return MoveGesture.point(state, point.strand, point.index);
    const onRope = nearest(
      ropes.map((r) => ({ strand: r.id, ...nearestOn(curveOf(r), at) })),
      reach,
    );
    if (onRope)
      return state.do({ kind: 'insert-point', strand: onRope.strand, at: onRope.at })
        ? MoveGesture.point(state, onRope.strand, Math.floor(onRope.at) + 1)
        : undefined;
    const host = hosts.find((h) => nearestOn(curveOf(h), at).away <= (h.size ?? HOST_SIZE) / 2 + BESIDE);
    state.chosen.set(host ? { kind: 'host', host: host.id } : null);
    return host && MoveGesture.host(state, host.id, at);
  }

  private static point(state: DraftState, strand: string, index: number): MoveGesture {
    state.chosen.set({ kind: 'point', strand, index });
    state.setActive(strand);
    return new MoveGesture(state, ({ point, under }) => ({
      kind: 'move-point',
      strand,
      index,
      to: point,
      pass: under ? 'U' : 'O',
    }));
  }

  private static part(state: DraftState, points: 'all' | readonly PointPlace[], from: Point): MoveGesture {
    let here = from;
    return new MoveGesture(state, ({ point, under }) => {
      const move: Point = [point[0] - here[0], point[1] - here[1]];
      here = point;
      return { kind: 'transform', points, by: { move }, pass: under ? 'U' : 'O' };
    });
  }

  private static host(state: DraftState, host: string, from: Point): MoveGesture {
    let here = from;
    return new MoveGesture(state, ({ point }) => {
      const by: Point = [point[0] - here[0], point[1] - here[1]];
      here = point;
      return { kind: 'move-host', host, by };
    });
  }
}

/** Whether a press takes hold of the part that is chosen: near one of its points, or anywhere on a whole drawing. */
function isPartAt(state: DraftState, points: 'all' | readonly PointPlace[], at: Point, reach: number): boolean {
  const { ropes, hosts } = state.figure();
  if (points === 'all') return ropes.some((r) => nearestOn(curveOf(r), at).away <= reach);
  return points.some(({ strand, index }) => {
    const p = [...ropes, ...hosts].find((s) => s.id === strand)?.points[index];
    return p !== undefined && distance(p, at) <= reach;
  });
}

const nearest = <T extends { readonly away: number }>(things: readonly T[], reach: number): T | undefined =>
  things.reduce<T | undefined>(
    (best, t) => (t.away <= reach && t.away < (best?.away ?? Infinity) ? t : best),
    undefined,
  );
