/**
 * The mistake atlas: what each wrong crossing makes of the knot, the worst first; any of them can be shown to learners as a wrong way.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import {
  finishedFigure,
  crossingList,
  crossingsOf,
  drawFigure,
  flipped,
  heartBox,
  sayOutcome,
  tellMistake,
  type MistakeGroup,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { MarkedFigure } from '../ui/marked-figure';

/** Most wrong ways a page shows: more are not read. */
const MOST_EXHIBITS = 8;

@Component({
  selector: 'ft-mistakes-tab',
  imports: [MarkedFigure, MatButtonModule, MatIconModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (insight.identity()?.atlasDeclined; as reason) {
      <p class="soft note">{{ reason }}</p>
    } @else if (!insight.identity()?.atlas) {
      <p class="soft note">Each crossing is being swapped in turn …</p>
    } @else if (tiles().length === 0) {
      <p class="soft note">The rope crosses nothing yet, so nothing can be laid wrong. Lay it in Draft.</p>
    } @else {
      <p class="soft note">
        One crossing laid the wrong way, and what becomes of the knot. A learner who is shown the likeliest slip looks
        for it.
        @if (leftOut().length > 0) {
          <b>Not tried, for want of time: crossings {{ leftOut().join(', ') }}.</b>
        }
      </p>
      <ul>
        @for (t of tiles(); track t.id) {
          <li class="card" [class.fails]="t.group.outcome === 'falls apart' || t.group.outcome === 'another knot'">
            <div class="paper">
              <ft-marked-figure [drawing]="t.drawing" [box]="t.box" [marks]="t.marks" [label]="t.tell" />
            </div>
            <h3>{{ t.outcome }}</h3>
            <p class="soft">{{ t.crossings }}</p>
            @if (store.mayWrite() && t.group.outcome !== 'same') {
              @if (t.exhibited) {
                <button mat-stroked-button type="button" (click)="withdraw(t.group)">
                  <mat-icon svgIcon="ok" />Shown to learners
                </button>
              } @else {
                <button
                  mat-stroked-button
                  type="button"
                  [disabled]="full()"
                  (click)="exhibit(t.group)"
                  [attr.aria-label]="'Show learners: ' + t.outcome + ', ' + t.crossings"
                >
                  Show learners
                </button>
              }
            }
          </li>
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: block;
      padding-top: 14px;
    }
    .note {
      margin: 0 0 12px;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
      gap: 14px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-direction: column;
      gap: 4px;
      padding: 10px;
      border-left: 6px solid var(--line);
    }
    li.fails {
      border-left-color: var(--plum);
    }
    .paper {
      height: 168px;
      padding: 4px;
    }
    ft-marked-figure {
      height: 100%;
    }
    h3 {
      margin-top: 4px;
      font-size: 17px;
    }
    p {
      margin: 0;
    }
    button {
      align-self: flex-start;
      margin-top: auto;
    }
  `,
})
export class MistakesTab {
  protected readonly store = inject(BenchStore);
  protected readonly insight = inject(Insight);
  protected readonly leftOut = computed(() => this.insight.identity()?.atlas?.leftOut ?? []);
  private readonly exhibits = computed(() => this.store.knot()?.entry.exhibits ?? []);
  protected readonly full = computed(() => this.exhibits().length >= MOST_EXHIBITS);
  private readonly figure = computed(() => {
    const method = this.store.method();
    return method && finishedFigure(method);
  });
  protected readonly tiles = computed(() => {
    const figure = this.figure();
    const groups = this.insight.identity()?.atlas?.groups ?? [];
    if (!figure) return [];
    const count = crossingsOf(figure).length;
    return groups
      .filter((g) => g.crossings.every((c) => c <= count))
      .map((group) => {
        const first = group.crossings[0] as number;
        const wrong = flipped(figure, [first]);
        return {
          id: `${group.key}-${first}`,
          group,
          drawing: drawFigure(wrong),
          box: heartBox(wrong),
          marks: crossingsOf(wrong)
            .filter((c) => c.number === first)
            .map((c) => ({ point: c.point, kind: 'ring' as const })),
          outcome: sayOutcome(group),
          crossings: crossingList(group.crossings).replace(/^c/, 'C'),
          tell: tellMistake(figure, first, group, this.store.vocabulary()),
          exhibited: this.exhibits().some((e) => e.crossings[0] === first),
        };
      });
  });

  protected exhibit(group: MistakeGroup): void {
    const figure = this.figure();
    const first = group.crossings[0];
    if (!figure || first === undefined) return;
    const becomes = sayOutcome(group);
    const tell = tellMistake(figure, first, group, this.store.vocabulary());
    this.setExhibits([...this.exhibits(), { crossings: [first], becomes, tell }]);
  }

  protected withdraw(group: MistakeGroup): void {
    this.setExhibits(this.exhibits().filter((e) => e.crossings[0] !== group.crossings[0]));
  }

  private setExhibits(exhibits: ReturnType<typeof this.exhibits>): void {
    const knot = this.store.knot();
    if (knot) this.store.edit({ kind: 'entry', name: knot.name, entry: { ...knot.entry, exhibits } });
  }
}
