/** The weave walk: from crossing to crossing along the trail, each told to pass over or under. */
import { inject, Injectable } from '@angular/core';
import { crossingsOf } from '@foxtrail/core';
import { DraftState } from './draft-state';

@Injectable()
export class WeaveWalk {
  private readonly state = inject(DraftState);

  /** Begins the weave walk, or ends it: from waymark to waymark, each told to pass over or under. */
  toggle(): void {
    if (this.state.walking()) {
      this.end('The walk is ended.');
      return;
    }
    const first = this.order()[0];
    if (first === undefined) {
      this.state.message.set('The rope crosses nothing yet; there is nothing to weave.');
      return;
    }
    this.state.view.set('front');
    this.state.clear();
    this.state.walking.set(true);
    this.to(first);
  }

  /** Crossings in the order in which the trail first meets them. */
  private order(): number[] {
    return crossingsOf(this.state.figure()).map((c) => c.number);
  }

  private to(number: number): void {
    this.state.pointed.set(number);
    this.state.message.set(
      `Crossing ${number} of ${this.order().length}: the strand comes ${this.comesOver(number) ? 'over' : 'under'}. O over, U under, arrows go on, Esc ends.`,
    );
  }

  private end(message: string): void {
    this.state.walking.set(false);
    this.state.pointed.set(null);
    this.state.message.set(message);
  }

  /** Whether the strand that the trail meets the crossing by is over. */
  private comesOver(number: number): boolean {
    const c = crossingsOf(this.state.figure()).find((x) => x.number === number);
    return c !== undefined && c.over === c.first;
  }

  /** In the walk: lets the strand pass over or under at the crossing in hand, and goes on to the next. */
  weave(over: boolean): void {
    const number = this.state.pointed();
    if (number === null) return;
    const c = crossingsOf(this.state.figure()).find((x) => x.number === number);
    if (c && this.comesOver(number) !== over && !this.state.do({ kind: 'swap', where: c.over })) return;
    this.go(1);
  }

  /** In the walk: on to the next crossing, or back to the one before. */
  go(by: 1 | -1): void {
    const order = this.order();
    const next = order[order.indexOf(this.state.pointed() ?? -1) + by];
    if (next !== undefined) this.to(next);
    else if (by === 1) this.end(`Every crossing is walked.`);
  }
}
