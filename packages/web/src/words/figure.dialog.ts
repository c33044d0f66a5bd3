/**
 * Another figure for a concept: that of a knot on the shelf as it stands in one of its steps, or none.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { drawStep, pictureBox, readKnot, stepsOf, writeKnot, type Concept, type KnotDocument } from '@foxtrail/core';
import { catchError, map, of } from 'rxjs';
import { Api } from '../data/api';
import { sayTrouble, troubleOf } from '../data/problem';
import { WordsService } from '../data/words';
import { FigureView } from '../ui/figure';

@Component({
  selector: 'ft-figure-dialog',
  imports: [MatButtonModule, MatDialogModule, FigureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>A figure for “{{ words.wordFor(concept.id) }}”</h2>
    <mat-dialog-content>
      <label>
        From the knot
        <select (change)="take(knot.value)" #knot>
          <option value="">Choose a knot of the shelf</option>
          @for (k of knots(); track k.id) {
            <option [value]="k.id">{{ k.name }}</option>
          }
        </select>
      </label>
      @if (steps().length > 0) {
        <p class="soft">What the step lights and calls out is shown with it. Choose the step:</p>
        <div class="steps" role="radiogroup" aria-label="Step">
          @for (s of steps(); track s.index) {
            <button type="button" role="radio" [attr.aria-checked]="s.index === step()" (click)="step.set(s.index)">
              <ft-figure [drawing]="s.drawing" [box]="s.box" [label]="'Step ' + (s.index + 1)" />
            </button>
          }
        </div>
      } @else if (document()) {
        <p>This knot has no steps yet.</p>
      }
      @if (trouble(); as text) {
        <p class="trouble" role="alert">{{ text }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button mat-button type="button" (click)="keep(null)">No figure</button>
      <button mat-button type="button" mat-dialog-close>Cancel</button>
      <button mat-flat-button type="button" [disabled]="steps().length === 0" (click)="keepStep()">Use it</button>
    </mat-dialog-actions>
  `,
  styles: `
    label {
      display: grid;
      gap: 4px;
    }
    select {
      min-height: 42px;
      padding: 4px 10px;
      border: 1px solid var(--mat-sys-outline);
      border-radius: 10px;
      background: var(--card);
      color: inherit;
      font: inherit;
    }
    .steps {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 8px;
    }
    .steps button {
      height: 130px;
      padding: 6px;
      border: 1px solid var(--line);
      border-radius: 10px;
      background: var(--paper);
      cursor: pointer;
    }
    .steps button[aria-checked='true'] {
      border-color: var(--fox-strong);
      box-shadow: 0 0 0 2px var(--fox-strong);
    }
    .steps ft-figure {
      height: 100%;
    }
    .trouble {
      color: var(--plum);
    }
  `,
})
export class FigureDialog {
  protected readonly concept = inject<Concept>(MAT_DIALOG_DATA);
  protected readonly words = inject(WordsService);
  private readonly api = inject(Api);
  private readonly dialog = inject<MatDialogRef<FigureDialog, boolean>>(MatDialogRef);
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly knots = toSignal(
    this.api.knots('', false).pipe(
      map(({ knots }) => [...knots].sort((a, b) => a.name.localeCompare(b.name, 'en'))),
      catchError((error: unknown) => {
        this.trouble.set(sayTrouble(troubleOf(error)));
        return of([]);
      }),
    ),
    { initialValue: [] },
  );
  protected readonly document = signal<KnotDocument | undefined>(undefined);
  protected readonly step = signal(0);
  protected readonly steps = computed(() => {
    const method = this.document()?.method;
    return method
      ? stepsOf(method).map(({ index }) => ({
          index,
          drawing: drawStep(method, index),
          box: pictureBox(method, index),
        }))
      : [];
  });

  protected take(id: string): void {
    this.document.set(undefined);
    this.step.set(0);
    if (id === '') return;
    this.api.knot(id).subscribe({
      next: ({ document }) => {
        const read = readKnot(document);
        this.document.set(read.ok ? read.value : undefined);
      },
      error: (error: unknown) => this.trouble.set(sayTrouble(troubleOf(error))),
    });
  }

  /** The chosen step by itself: its layout, as far as it is laid, with what it lights. */
  protected keepStep(): void {
    const knot = this.document();
    const chosen = knot && stepsOf(knot.method)[this.step()];
    if (!chosen) return;
    const { text: _text, ...telling } = chosen.telling;
    const { figure, leaders, halts } = chosen.of;
    const method = chosen.stretch
      ? {
          figure,
          leaders,
          // The steps before it lie in the one halt that is shown.
          halts: halts.slice(0, chosen.stretch.index + 1),
        }
      : { figure, leaders: [], halts: [], finish: [{ kind: 'check' as const, ...telling }] };
    this.keep(writeKnot({ name: this.concept.id, entry: knot.entry, method, extra: {} }));
  }

  protected keep(figure: ReturnType<typeof writeKnot> | null): void {
    this.words.setFigure(this.concept.id, figure).subscribe({
      next: () => this.dialog.close(true),
      error: (error: unknown) => this.trouble.set(sayTrouble(troubleOf(error))),
    });
  }
}
