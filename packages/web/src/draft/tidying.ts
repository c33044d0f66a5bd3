/** Tidying and tightening the figure, shown on its way; one undo takes it back. */
import { computed, inject, Injectable } from '@angular/core';
import { blankKnot, methodFor, sayRefusal, writeKnot } from '@foxtrail/core';
import { PlacingService } from '../data/placing';
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

  /** Draws the figure evenly, or tight as it is dressed; what comes of it is said. */
  start(tight: boolean): void {
    void this.tidy(tight).then((said) => this.state.message.set(said));
  }

  private async tidy(tight: boolean): Promise<string> {
    const [knot, method] = [this.store.knot(), this.state.laid()];
    if (!knot || !method || method.figure.ropes.length === 0) return 'There is nothing to tidy yet.';
    this.tools.put();
    this.state.clear();
    this.state.message.set(`${tight ? 'Drawing tight' : 'Tidying'}: nothing passes through anything. Esc stops it.`);
    const done = await this.layout.tidy(
      writeKnot({ ...blankKnot(knot.name), method: methodFor(method.figure) }),
      // Who wants less motion sees what comes of it, not the way there.
      (figure) => (LESS_MOTION.matches ? undefined : this.state.showFigure(figure)),
      tight,
    );
    this.state.endPreview();
    if (!done) return 'Tidying was stopped; the drawing is as it was.';
    if (!done.ok) return sayRefusal(done);
    if (this.store.knot() !== knot) return 'The drawing changed meanwhile, so it was not tidied.';
    return this.state.do({ kind: 'redraw', ...done.value })
      ? `${tight ? 'Drawn tight' : 'Tidied'}: every crossing is what it was. Z undoes it.`
      : this.state.message();
  }
}

const LESS_MOTION = matchMedia('(prefers-reduced-motion: reduce)');
