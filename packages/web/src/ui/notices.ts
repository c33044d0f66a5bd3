/** Short notices at the edge of the screen: what was done, with a way back where there is one, and what went wrong. */
import { inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { inWords } from '../data/problem';

/** How long a notice stays, in milliseconds: long enough to read it with a rope in hand. */
const STAYS = 8000;

@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly snack = inject(MatSnackBar);

  say(text: string): void {
    this.snack.open(text, 'OK', { duration: STAYS });
  }

  trouble = (error: unknown): void => this.say(inWords(error));

  /** Says what was done, and offers to do something more, or to undo it. */
  offer(text: string, action: string, does: () => void): void {
    this.snack.open(text, action, { duration: STAYS }).onAction().subscribe(does);
  }

  done(text: string, undo: () => void): void {
    this.offer(text, 'Undo', undo);
  }
}
