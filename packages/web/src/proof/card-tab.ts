/**
 * The inspection card: the author chooses from the computed marks what a learner looks for, numbered on front and back.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { finishedFigure, inspectionMarks, type InspectionMark } from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { InspectionCard } from './inspection-card';

/** Most marks on a card: a learner with rope in hand looks for no more. */
const MOST_MARKS = 12;

@Component({
  selector: 'ft-card-tab',
  imports: [MatCheckboxModule, InspectionCard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.knot(); as knot) {
      <div class="choose card">
        <h2>What to look for</h2>
        <p class="soft">
          Every mark here is computed from the figure. Choose what tells this knot from its lookalikes;
          {{ most }} at most.
        </p>
        @for (g of groups(); track g.name) {
          <h3>{{ g.name }}</h3>
          @for (m of g.marks; track m.id) {
            <mat-checkbox
              [checked]="chosen().includes(m.id)"
              [disabled]="!store.mayWrite() || (!chosen().includes(m.id) && chosen().length >= most)"
              (change)="choose(m, $event.checked)"
            >
              @if (m.crossing) {
                <b>Crossing {{ m.crossing }}.</b>
              }
              {{ m.text }}</mat-checkbox
            >
          }
        }
      </div>
      <ft-inspection-card [knot]="knot" [words]="store.vocabulary()" />
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 400px minmax(0, 1fr);
      gap: 14px;
      align-items: start;
      padding-top: 14px;
    }
    .choose {
      padding: 14px 16px;
    }
    .choose p {
      margin: 4px 0;
    }
    h3 {
      margin-top: 12px;
      font-size: 16px;
    }
    mat-checkbox {
      display: block;
    }
  `,
})
export class CardTab {
  protected readonly store = inject(BenchStore);
  protected readonly most = MOST_MARKS;
  protected readonly chosen = computed(() => this.store.knot()?.entry.inspection ?? []);
  protected readonly groups = computed(() => {
    const method = this.store.method();
    const figure = method && finishedFigure(method);
    const all = figure ? inspectionMarks(figure, this.store.vocabulary()) : [];
    const of = (test: (m: InspectionMark) => boolean): InspectionMark[] => all.filter(test);
    return [
      { name: 'Tail and turns', marks: of((m) => m.kind === 'tail' || m.kind === 'turns') },
      { name: 'Front: side by side', marks: of((m) => m.kind === 'parallel' && m.side === 'front') },
      { name: 'Front: crossings', marks: of((m) => m.kind === 'cross' && m.side === 'front') },
      { name: 'Back: side by side', marks: of((m) => m.kind === 'parallel' && m.side === 'back') },
      { name: 'Back: crossings', marks: of((m) => m.kind === 'cross' && m.side === 'back') },
    ].filter((g) => g.marks.length > 0);
  });

  protected choose(mark: InspectionMark, wanted: boolean): void {
    const knot = this.store.knot();
    if (!knot) return;
    const inspection = wanted ? [...this.chosen(), mark.id] : this.chosen().filter((id) => id !== mark.id);
    this.store.edit({ kind: 'entry', name: knot.name, entry: { ...knot.entry, inspection } });
  }
}
