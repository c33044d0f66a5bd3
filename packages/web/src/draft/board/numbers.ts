/** The numbers of the crossings on the board: where each stands, how large, and which of them are shown. */
import { computed, effect, type Signal } from '@angular/core';
import { crossingsOf, distance, isReached, labelPlaces, type Figure, type Label, type Point } from '@foxtrail/core';
import type { DraftState } from '../draft-state';
import type { Camera } from './camera';

/** Size of a number on the board, in CSS pixels a diameter, below which it cannot be read with a rope in the other hand. */
const READABLE = 19;
/** Radius of a number's disc, in diameters at its usual size. */
const DISC = 0.95;
/** Share of the distance to its neighbour that a number may fill. */
const CROWD = 0.62;

export class Numbers {
  private placedBefore: readonly Label[] = [];
  private hovered: number | undefined;

  /** Of a figure as it is seen. Must be made where effects may be. */
  constructor(
    private readonly state: DraftState,
    private readonly camera: Camera,
    private readonly figure: Signal<Figure>,
  ) {
    effect(() => {
      if (!state.dragging()) this.placedBefore = this.placed();
    });
  }

  private readonly placed = computed(() => labelPlaces(this.figure()));

  /** Those of the crossings that are there in the step shown. */
  readonly labels = computed<readonly Label[]>(() => {
    const figure = this.figure();
    const all = this.state.dragging() ? this.carried(figure) : this.placed();
    if (!this.state.method().halts[this.state.step() ?? -1]) return all;
    const extents = this.state.extents();
    const visible = new Set(
      crossingsOf(figure)
        .filter((c) => isReached(extents, c.first) && isReached(extents, c.second))
        .map((c) => c.number),
    );
    return all.filter((l) => visible.has(l.crossing));
  });

  /** Numbers and points stay readable when a large figure makes the rope thin … */
  readonly readable = computed(() => Math.max(1, READABLE / this.camera.scale()));
  /** … but numbers in a crowd grow no larger than their neighbours allow; the one pointed at always does. */
  readonly scale = computed(() => Math.min(this.readable(), Math.max(1, CROWD * this.crowding())));
  private readonly crowding = computed(() => {
    const places = this.labels().map((l) => l.point);
    return places.reduce((least, p, i) => Math.min(least, ...places.slice(i + 1).map((q) => distance(p, q))), Infinity);
  });

  /** Where the crossing pointed at is. */
  readonly pointedAt = computed<Point | undefined>(
    () => crossingsOf(this.figure()).find((c) => c.number === this.state.pointed())?.point,
  );

  /** Numbers keep their place beside their crossings while the hand moves; they are placed anew when it lets go. */
  private carried(figure: Figure): Label[] {
    const before = new Map(this.placedBefore.map((l) => [l.crossing, l]));
    return crossingsOf(figure).map((c): Label => {
      const was = before.get(c.number);
      const [dx, dy] = was ? [was.point[0] - was.at[0], was.point[1] - was.at[1]] : [1, -1];
      return { crossing: c.number, at: c.point, point: [c.point[0] + dx, c.point[1] + dy] };
    });
  }

  /** While numbers take no presses, the crossing whose number the hand is over is still the one pointed at. */
  hover(at: Point): void {
    if (this.state.tool() !== 'lay' || this.state.walking()) return;
    const over = this.labels().find((l) => distance(l.point, at) <= DISC * this.scale())?.crossing;
    if (over !== undefined) this.state.pointed.set((this.hovered = over));
    else if (this.hovered !== undefined && this.hovered === this.state.pointed()) this.state.pointed.set(null);
    if (over === undefined) this.hovered = undefined;
  }
}
