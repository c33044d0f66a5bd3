/**
 * The inspection card: the author chooses from the computed marks what a learner looks for, numbered on front and back.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import {
  chosenMarks,
  EMPTY_METHOD,
  finishedLayout,
  inspectionMarks,
  layoutsOf,
  MARK_LIMIT,
  placeOfMark,
  type InspectionMark,
  type MarkPlace,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { HandCard } from './hand-card';
import { InspectionCard } from './inspection-card';

@Component({
  selector: 'ft-card-tab',
  imports: [MatButtonModule, MatCheckboxModule, HandCard, InspectionCard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.method(); as method) {
      <div class="choose card">
        <h2>What to look for</h2>
        <p class="soft">
          Every mark here is computed from the figure. Choose what tells this knot from its lookalikes;
          {{ most }} at most.
        </p>
        @for (lost of gone(); track $index) {
          <p class="lost">
            The card has a mark that the figure has no more.
            @if (store.mayWrite()) {
              <button mat-button type="button" (click)="takeOff(lost)">Take it off the card</button>
            }
          </p>
        }
        @for (g of groups(); track g.name) {
          <h3>{{ g.name }}</h3>
          @for (m of g.marks; track m.id) {
            <mat-checkbox
              [checked]="chosen().has(m.id)"
              [disabled]="!store.mayWrite() || (!chosen().has(m.id) && wanted().length >= most)"
              (change)="choose(m, $event.checked)"
            >
              @if (m.crossings; as numbers) {
                <b>{{ numbers.length === 1 ? 'Crossing' : 'Crossings' }} {{ numbers.join(', ') }}.</b>
              }
              {{ m.text }}</mat-checkbox
            >
          }
        }
      </div>
      <div>
        <ft-inspection-card [method]="method" [words]="store.vocabulary()" />
        <ft-hand-card [method]="method" [name]="store.knot()?.name ?? 'Knot'" />
      </div>
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
    .lost {
      color: var(--plum);
    }
    mat-checkbox {
      display: block;
    }
  `,
})
export class CardTab {
  protected readonly store = inject(BenchStore);
  protected readonly most = MARK_LIMIT;
  private readonly method = computed(() => this.store.method() ?? EMPTY_METHOD);
  private readonly layout = computed(() => finishedLayout(this.method()));
  protected readonly wanted = computed(() => this.layout().marks ?? []);
  private readonly found = computed(() => chosenMarks(this.layout().figure, this.wanted(), this.store.vocabulary()));
  /** Ids of the marks that are on the card. */
  protected readonly chosen = computed(() => new Set(this.found().flatMap(({ mark }) => mark?.id ?? [])));
  /** Marks on the card that the figure has no more. */
  protected readonly gone = computed(() => this.found().flatMap(({ wanted, mark }) => (mark ? [] : [wanted])));
  protected readonly groups = computed(() => {
    const all = inspectionMarks(this.layout().figure, this.store.vocabulary());
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
    const others = this.found().flatMap((f) => (f.mark?.id === mark.id ? [] : [f.wanted]));
    this.show(wanted ? [...others, placeOfMark(mark)] : others);
  }

  protected takeOff(lost: MarkPlace): void {
    this.show(this.wanted().filter((m) => m !== lost));
  }

  private show(marks: readonly MarkPlace[]): void {
    this.store.edit({ kind: 'show', shown: { marks } }, { layout: layoutsOf(this.method()).length - 1 });
  }
}
