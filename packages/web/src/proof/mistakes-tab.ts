/**
 * The mistake atlas: what each wrong crossing makes of the knot, the worst first; any of them can be shown to learners as a wrong way.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import {
  boxAbout,
  crossingAt,
  crossingList,
  crossingsOf,
  drawFigure,
  EMPTY_METHOD,
  EXHIBIT_LIMIT,
  finishedLayout,
  flipped,
  layoutsOf,
  placeOfCrossing,
  sayOutcome,
  tellMistake,
  type Exhibit,
  type MistakeGroup,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { MarkedFigure } from '../ui/marked-figure';

@Component({
  selector: 'ft-mistakes-tab',
  imports: [MarkedFigure, MatButtonModule, MatIconModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (e of lost(); track e) {
      <p class="lost said">
        “{{ e.becomes }}” is shown to learners, but its crossing is gone from the figure.
        @if (store.mayWrite()) {
          <button mat-stroked-button type="button" (click)="withdraw([e])">Withdraw it</button>
        }
      </p>
    }
    @if (insight.identity()?.atlasDeclined; as reason) {
      <p class="soft said">{{ reason }}</p>
    } @else if (!insight.identity()?.atlas) {
      <p class="soft said">Each crossing is being swapped in turn …</p>
    } @else if (tiles().length === 0) {
      <p class="soft said">The rope crosses nothing yet, so nothing can be laid wrong. Lay it in Draft.</p>
    } @else {
      <p class="soft said">
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
                <button mat-stroked-button type="button" (click)="withdrawGroup(t.group)">
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
    .lost {
      color: var(--plum);
    }
    .said {
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
  private readonly method = computed(() => this.store.method() ?? EMPTY_METHOD);
  private readonly layout = computed(() => finishedLayout(this.method()));
  private readonly exhibits = computed(() => this.layout().exhibits ?? []);
  protected readonly full = computed(() => this.exhibits().length >= EXHIBIT_LIMIT);
  /** Wrong ways whose crossing is gone: they can only be withdrawn. */
  protected readonly lost = computed(() =>
    this.exhibits().filter((e) => this.numbersOf(e).length < e.crossings.length),
  );
  protected readonly tiles = computed(() => {
    const { figure } = this.layout();
    const groups = this.insight.identity()?.atlas?.groups ?? [];
    const count = crossingsOf(figure).length;
    return groups
      .filter((g) => g.crossings.every((c) => c <= count))
      .flatMap((group) => {
        const own = this.exhibitsOf(group);
        const [crossing] = [...own.flatMap((e) => this.numbersOf(e)), ...group.crossings];
        if (crossing === undefined) return [];
        const wrong = flipped(figure, [crossing]);
        const points = crossingsOf(wrong).flatMap((c) => (c.number === crossing ? [c.point] : []));
        return {
          id: `${group.key}-${crossing}`,
          group,
          drawing: drawFigure(wrong),
          box: boxAbout(wrong, points),
          marks: points.map((point) => ({ point, kind: 'ring' as const })),
          outcome: sayOutcome(group),
          crossings: crossingList(group.crossings).replace(/^c/, 'C'),
          tell: tellMistake(figure, [crossing], this.store.knot()?.name ?? '', this.store.vocabulary()),
          exhibited: own.length > 0,
        };
      });
  });

  private numbersOf({ crossings }: Exhibit): number[] {
    return crossings.flatMap((c) => crossingAt(this.layout().figure, c)?.number ?? []);
  }

  /** The wrong ways shown that are of a group: one of its crossings laid the other way. */
  private exhibitsOf({ crossings }: MistakeGroup): Exhibit[] {
    return this.exhibits().filter((e) => {
      const [only, ...more] = this.numbersOf(e);
      return only !== undefined && more.length === 0 && crossings.includes(only);
    });
  }

  protected exhibit(group: MistakeGroup): void {
    const crossing = crossingsOf(this.layout().figure).find((c) => c.number === group.crossings[0]);
    if (crossing)
      this.show([...this.exhibits(), { crossings: [placeOfCrossing(crossing)], becomes: sayOutcome(group) }]);
  }

  protected withdraw(gone: readonly Exhibit[]): void {
    this.show(this.exhibits().filter((e) => !gone.includes(e)));
  }

  protected withdrawGroup(group: MistakeGroup): void {
    this.withdraw(this.exhibitsOf(group));
  }

  private show(exhibits: readonly Exhibit[]): void {
    this.store.edit({ kind: 'show', shown: { exhibits } }, { layout: layoutsOf(this.method()).length - 1 });
  }
}
