/**
 * Two versions of one knot: both are shown, and neither is lost.
 */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { EMPTY_METHOD, finishedFigure, drawFigure, readKnot, whatDiffers, type KnotDocument } from '@foxtrail/core';
import { FigureView } from '../ui/figure';
import { BenchStore } from './bench-store';
import { Saving } from './saving';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

@Component({
  selector: 'ft-conflict',
  imports: [MatDialogModule, MatButtonModule, FigureView, DatePipe, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Two versions of this knot</h2>
    <mat-dialog-content>
      <p>{{ reason }} Nothing is lost: what was saved stays in the knot’s revisions.</p>
      <div class="pair">
        <figure>
          <div class="paper"><ft-figure [drawing]="mine" label="Your version" /></div>
          <figcaption>Yours, not saved yet</figcaption>
        </figure>
        <figure>
          <div class="paper"><ft-figure [drawing]="theirs" label="The saved version" /></div>
          <figcaption>Saved by {{ by }} at {{ at | date: 'HH:mm' }}</figcaption>
        </figure>
      </div>
      @if (differs.length > 0) {
        <p><b>What differs:</b> {{ differs.join('; ') }}.</p>
      }
      <ft-trouble [text]="trouble()" />
    </mat-dialog-content>
    <mat-dialog-actions>
      <button mat-button type="button" (click)="settle('theirs')">Go on with theirs, let mine go</button>
      <span class="space"></span>
      <button mat-stroked-button type="button" (click)="settle('mine')">Go on with mine</button>
      <button mat-flat-button type="button" (click)="settle('both')">Keep mine as a knot of its own</button>
    </mat-dialog-actions>
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
    }
    figure {
      margin: 0;
    }
    .paper {
      height: 220px;
      padding: 8px;
    }
    ft-figure {
      height: 100%;
    }
    figcaption {
      margin-top: 6px;
    }
  `,
})
export class ConflictDialog {
  private readonly store = inject(BenchStore);
  private readonly saving = inject(Saving);
  private readonly dialog = inject(MatDialogRef);
  private readonly state = this.saving.state();
  protected readonly reason = this.state.kind === 'conflict' ? this.state.trouble.reason : '';
  protected readonly by = this.state.kind === 'conflict' ? this.state.theirs.card.updatedBy : '';
  protected readonly at = this.state.kind === 'conflict' ? this.state.theirs.card.updatedAt : '';
  private readonly saved = this.savedKnot();
  protected readonly mine = drawFigure(finishedFigure(this.store.knot()?.method ?? EMPTY_METHOD));
  protected readonly theirs = drawFigure(finishedFigure(this.saved?.method ?? EMPTY_METHOD));
  protected readonly differs = this.whatDiffers();
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;

  private savedKnot(): KnotDocument | undefined {
    const read = this.state.kind === 'conflict' ? readKnot(this.state.theirs.document) : undefined;
    return read?.ok === true ? read.value : undefined;
  }

  private whatDiffers(): readonly string[] {
    const mine = this.store.knot();
    return mine && this.saved ? whatDiffers(mine, this.saved) : [];
  }

  protected settle(choice: 'mine' | 'theirs' | 'both'): void {
    const work = {
      mine: () => this.saving.keepMine(),
      theirs: () => this.saving.takeTheirs(),
      both: () => this.saving.keepBoth(),
    }[choice];
    void this.attempt.run<unknown>(work(), (copy) => this.dialog.close(copy));
  }
}
