/** The end of the rope is laid along a stroke; a click lays it to one place. */
import { distance } from '@foxtrail/core';
import type { DraftState } from '../draft-state';
import type { Laying } from '../laying';
import type { LayingTools } from '../laying-tools';
import { CLICK, type Gesture, type Touch } from './gesture';

/** So many places in a stroke are drawn, however near they lie. */
const FEW = 4;

export class LayGesture implements Gesture {
  private readonly stroke: Touch[];
  private travelled = 0;

  constructor(
    private readonly state: DraftState,
    private readonly laying: Laying,
    private readonly start: Touch,
    /** Where a move is in hand, a press lays that. */
    private readonly tools?: LayingTools,
  ) {
    tools?.moves.letGo();
    state.chosen.set(null);
    this.stroke = [start];
  }

  move(passed: readonly Touch[]): void {
    this.stroke.push(...passed);
    const before = this.travelled;
    this.travelled = Math.max(before, ...passed.map((t) => distance(t.point, this.start.point)));
    // A stroke that begins at the rope’s other end lays that; a press there is a place to lay the end to.
    if (before < CLICK && this.travelled >= CLICK) this.laying.takeEndAt(this.start.point);
    if (this.travelled < CLICK && this.stroke.length < FEW) return;
    const edit = this.laying.layEdit(this.stroke);
    if (edit) this.state.preview(edit);
  }

  end(at: Touch): void {
    this.state.endPreview();
    if (this.tools && this.travelled < CLICK) this.tools.press(at.point, at.under);
    else this.laying.lay(this.travelled < CLICK ? [at] : this.stroke);
  }

  cancel(): void {
    this.state.endPreview();
    if (this.travelled >= CLICK) this.state.message.set('The stroke was broken off: nothing was laid. Draw it again.');
  }
}
