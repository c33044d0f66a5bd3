/** How the end passes what it meets: over, under while the key is held or latched, or by turns. */
import { computed, inject, Injectable, signal } from '@angular/core';
import { DraftState } from './draft-state';

/** A tap of the under key shorter than this, in milliseconds, leaves it latched: for one hand on the rope. */
const TAP = 250;

@Injectable()
export class UnderKey {
  private readonly state = inject(DraftState);
  private readonly held = signal(false);
  private readonly latched = signal(false);
  private pressedAt = 0;
  /** A stroke went on while it was held: it was held for that, however short. */
  private drawn = false;
  readonly under = computed(() => this.held() || this.latched());
  /** The end goes over and under by turns. */
  readonly weaving = signal(false);

  press(): void {
    if (this.held()) return;
    this.pressedAt = performance.now();
    this.drawn = false;
    this.held.set(true);
  }

  release(): void {
    if (!this.held()) return;
    this.held.set(false);
    const tapped = !this.drawn && performance.now() - this.pressedAt < TAP;
    this.latched.update((on) => tapped && !on);
    this.state.message.set(this.under() ? 'The end passes under.' : 'The end passes over.');
  }

  /** A stroke goes on. */
  draws(): void {
    this.drawn = true;
  }

  toggleWeaving(): void {
    this.weaving.update((on) => !on);
    this.state.message.set(
      this.weaving() ? 'The end weaves: over and under by turns.' : 'The end passes over; hold U to pass under.',
    );
  }
}
