/**
 * Another figure for a concept: that of a knot on the shelf as it stands in one of its steps, or none.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { SHELF_MOST } from '@foxtrail/contract';
import { drawStep, pictureBox, readKnot, stepsOf, writeKnot, type Concept, type KnotDocument } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { FigureView } from '../ui/figure';
import { Select, type Choice } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';
import { Api } from '../data/api';

@Component({
  selector: 'ft-figure-dialog',
  imports: [MatButtonModule, MatDialogModule, FigureView, Select, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>A figure for “{{ words.wordFor(concept.id) }}”</h2>
    <mat-dialog-content>
      <div class="named">
        <span aria-hidden="true">From the knot</span>
        <ft-select
          label="From the knot"
          none="Choose a knot of the shelf"
          [from]="knots()"
          (valueChange)="take($event)"
        />
      </div>
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
      <ft-trouble [text]="trouble()" />
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
  `,
})
export class FigureDialog {
  protected readonly concept = inject<Concept>(MAT_DIALOG_DATA);
  protected readonly words = inject(WordsService);
  private readonly api = inject(Api);
  private readonly dialog = inject<MatDialogRef<FigureDialog, boolean>>(MatDialogRef);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly knots = signal<readonly Choice<string>[]>([]);
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

  constructor() {
    void this.attempt.run(this.api.knots({ most: SHELF_MOST }), ({ knots }) =>
      this.knots.set(
        knots.map(({ id, name }) => ({ value: id, name })).sort((a, b) => a.name.localeCompare(b.name, 'en')),
      ),
    );
  }

  protected take(id: string): void {
    this.document.set(undefined);
    this.step.set(0);
    if (id === '') return;
    void this.attempt.run(this.api.knot(id), ({ document }) => {
      const read = readKnot(document);
      this.document.set(read.ok ? read.value : undefined);
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
    void this.attempt.run(this.words.setFigure(this.concept.id, figure), () => this.dialog.close(true));
  }
}
