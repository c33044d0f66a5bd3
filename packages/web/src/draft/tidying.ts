/** Settling, tidying and tightening the figure, shown on its way; one undo takes it back. */
import { computed, inject, Injectable } from '@angular/core';
import { blankKnot, methodFor, sayRefusal, writeKnot } from '@foxtrail/core';
import { PlacingService, type LayWay } from '../data/placing';
import { BenchStore } from '../knot/bench-store';
import { DraftState } from './draft-state';
import { LayingTools } from './laying-tools';

@Injectable()
export class Tidying {
  private readonly state = inject(DraftState);
  private readonly store = inject(BenchStore);
  private readonly tools = inject(LayingTools);
  private readonly layout = inject(PlacingService);

  /** How much of it is done, from 0 to 1; undefined while nothing is tidied. */
  readonly share = this.layout.share;
  readonly busy = computed(() => this.share() !== undefined);

  stop(): void {
    this.layout.cancel();
  }

  /** Draws the figure as rope lies, evenly, or flat and close; what comes of it is said. */
  start(way: LayWay): void {
    void this.lay(way).then((said) => this.state.message.set(said));
  }

  private async lay(way: LayWay): Promise<string> {
    const [knot, method] = [this.store.knot(), this.state.laid()];
    if (!knot || !method || method.figure.ropes.length === 0) return 'There is no rope on the board yet.';
    this.tools.put();
    this.state.clear();
    this.state.message.set(`${SAYS[way].doing}: nothing passes through anything. Esc stops it.`);
    const done = await this.layout.lay(
      writeKnot({ ...blankKnot(knot.name), method: methodFor(method.figure) }),
      way,
      // Who wants less motion sees what comes of it, not the way there.
      (figure) => (LESS_MOTION.matches ? undefined : this.state.showFigure(figure)),
    );
    this.state.endPreview();
    if (!done) return `${SAYS[way].doing} was stopped; the drawing is as it was.`;
    if (!done.ok) return sayRefusal(done);
    if (this.store.knot() !== knot) return 'The drawing changed meanwhile, so it was left as it is.';
    return this.state.do({ kind: 'redraw', ...done.value })
      ? `${SAYS[way].done}: every crossing is what it was. Z undoes it.`
      : this.state.message();
  }
}

const SAYS = {
  settle: { doing: 'Settling', done: 'Settled as rope lies' },
  tidy: { doing: 'Tidying', done: 'Tidied' },
  tighten: { doing: 'Drawing tight', done: 'Drawn tight' },
} as const satisfies Record<LayWay, unknown>;

const LESS_MOTION = matchMedia('(prefers-reduced-motion: reduce)');
