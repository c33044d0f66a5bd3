/** How the end passes what it meets: over, under while the key is held or latched, or by turns. */
import { computed, inject, Injectable, signal } from '@angular/core';
import { DraftState } from './draft-state';

@Injectable()
export class UnderKey {
  private readonly state = inject(DraftState);
  private readonly held = signal(false);
  private readonly latched = signal(false);
  /** It was held, and not tapped: a stroke went on while it was down, however short, or the key began to repeat. A tap leaves it latched, for one hand on the rope. */
  private wasHeld = false;
  readonly under = computed(() => this.held() || this.latched());
  /** The end goes over and under by turns. */
  readonly weaving = signal(false);

  press(): void {
    // A key that is down repeats: how long that takes the keyboard knows, and a slow machine does not.
    this.wasHeld = this.held();
    this.held.set(true);
  }

  release(): void {
    if (!this.held()) return;
    this.held.set(false);
    this.latched.update((on) => !this.wasHeld && !on);
    this.state.message.set(this.under() ? 'The end passes under.' : 'The end passes over.');
  }

  /** How what is moved now passes what it meets. */
  pass(): 'O' | 'U' {
    this.draws();
    return this.under() ? 'U' : 'O';
  }

  /** A stroke goes on. */
  draws(): void {
    this.wasHeld = true;
  }

  toggleWeaving(): void {
    this.weaving.update((on) => !on);
    this.state.message.set(
      this.weaving() ? 'The end weaves: over and under by turns.' : 'The end passes over; hold U to pass under.',
    );
  }
}
