/**
 * The figure beside the pattern it claims to be, is, or is most like: crossings paired, the differing ones lit, and the facts that agree
 * and differ.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import {
  figureInView,
  finishedFigure,
  crossingsOf,
  drawFigure,
  heartBox,
  readKnot,
  type Figure,
  type View,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { ViewToggle } from '../ui/view-toggle';
import { ClassName } from '../ui/class-name';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';

const TURNED = {
  'as drawn': 'Both are drawn with the same lines: every crossing is paired.',
  'seen from behind': 'The pattern is paired as seen from behind.',
  mirrored: 'The pattern is paired as its mirror image.',
} as const;

@Component({
  selector: 'ft-verdict-tab',
  imports: [MarkedFigure, MatButtonToggleModule, MatIconModule, ClassName, ViewToggle],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pair">
      <figure class="card">
        <figcaption>
          <h2>On the bench</h2>
          <ft-view-toggle [(view)]="view" />
        </figcaption>
        <div class="paper">
          <ft-marked-figure
            [drawing]="own().drawing"
            [box]="own().box"
            [marks]="own().marks"
            [label]="'The figure on the bench, ' + view() + ' view'"
          />
        </div>
      </figure>
      <figure class="card">
        <figcaption>
          <h2>{{ shown()?.name ?? (compared() ? 'No pattern is like it' : 'The pattern') }}</h2>
          @if (beside().length > 1) {
            <mat-button-toggle-group
              [value]="shown()?.id"
              (change)="choice.set($event.value)"
              hideSingleSelectionIndicator
              aria-label="Pattern"
            >
              @for (b of beside(); track b.id) {
                <mat-button-toggle [value]="b.id">{{ b.name }}</mat-button-toggle>
              }
            </mat-button-toggle-group>
          }
        </figcaption>
        @if (pattern(); as p) {
          <div class="paper">
            <ft-marked-figure [drawing]="p.drawing" [box]="p.box" [marks]="p.marks" [label]="'Pattern: ' + p.name" />
          </div>
        } @else {
          <p class="soft none">
            @if (compared()) {
              No pattern has the same ropes, loops and hosts. Choose what it is meant to be above, or keep it as a knot
              of your own.
            } @else {
              The pattern that the figure is compared with stands here.
            }
          </p>
        }
      </figure>
    </div>
    <div class="facts">
      @if (shown(); as s) {
        <p class="soft pairing">
          @if (s.pairing; as p) {
            {{ turned[p.turned] }}
            @if (differing().length > 0) {
              <b class="differs">{{
                differing().length === 1
                  ? 'Crossing ' + differing()[0] + ' is laid the other way.'
                  : 'Crossings ' + differing().join(', ') + ' are laid the other way.'
              }}</b>
            } @else {
              All agree.
            }
          } @else {
            They are drawn with other lines, so the crossings cannot be paired one by one; the comparison does not need
            it.
          }
        </p>
      }
      <ul>
        @for (m of marks(); track m.name) {
          <li [class.agrees]="m.agrees">
            <mat-icon [svgIcon]="m.agrees ? 'ok' : 'close'" [attr.aria-label]="m.agrees ? 'Agrees' : 'Differs'" />
            <span>{{ m.text }}</span>
          </li>
        }
      </ul>
      @if (kinship().length > 0) {
        <p>
          <b>Kin:</b>
          @for (k of kinship(); track k) {
            {{ k + ' ' }}
          }
        </p>
      }
      @if (classified(); as c) {
        <p>
          <b>Computed class: {{ c.class | className }}.</b> {{ c.because.join(' ') }}
          @if (c.undecided) {
            <span class="soft">{{ c.undecided }}</span>
          }
        </p>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
      padding-top: 14px;
    }
    .pair {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 14px;
    }
    figure {
      display: flex;
      flex-direction: column;
      gap: 8px;
      margin: 0;
      padding: 10px;
    }
    figcaption {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
      align-items: center;
      justify-content: space-between;
      min-height: 42px;
    }
    figcaption h2 {
      white-space: nowrap;
    }
    .paper {
      height: min(44vh, 400px);
      padding: 6px;
    }
    ft-marked-figure {
      height: 100%;
    }
    .none {
      padding: 12px;
    }
    .facts {
      display: grid;
      gap: 8px;
    }
    .facts p {
      margin: 0;
    }
    .differs {
      color: var(--plum);
    }
    ul {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 4px 20px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 8px;
      align-items: flex-start;
      color: var(--plum);
      line-height: 1.4;
    }
    li mat-icon {
      flex: none;
      font-size: 20px;
      width: 20px;
      height: 20px;
      margin-top: 1px;
    }
    li.agrees {
      color: var(--ink);
    }
    li.agrees mat-icon {
      color: var(--moss);
    }
  `,
})
export class VerdictTab {
  private readonly store = inject(BenchStore);
  private readonly insight = inject(Insight);
  protected readonly turned = TURNED;
  protected readonly view = signal<View>('front');
  protected readonly choice = signal<string | undefined>(undefined);
  protected readonly beside = computed(() => this.insight.identity()?.beside ?? []);
  protected readonly shown = computed(() => this.beside().find((b) => b.id === this.choice()) ?? this.beside()[0]);
  /** True when the comparison has been made, with whatever outcome. */
  protected readonly compared = computed(() => this.insight.identity()?.verdict !== undefined);
  protected readonly kinship = computed(() => this.insight.identity()?.kinship ?? []);
  protected readonly classified = computed(() => this.insight.identity()?.classified);
  protected readonly differing = computed(() =>
    (this.shown()?.pairing?.pairs ?? []).filter((p) => !p.agrees).map((p) => p.a),
  );

  /** Rings at crossings, by what the pairing says of each. */
  private rings(figure: Figure, side: 'a' | 'b'): FigureMark[] {
    const pairs = this.shown()?.pairing?.pairs ?? [];
    return crossingsOf(figure).flatMap((c): FigureMark[] => {
      const pair = pairs.find((p) => p[side] === c.number);
      return pair && !pair.agrees ? [{ point: c.point, kind: 'differs' }] : [];
    });
  }

  protected readonly own = computed(() => {
    const method = this.store.method() ?? { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] };
    const figure = figureInView(finishedFigure(method), this.view());
    const repairs = this.insight.identity()?.repairs?.repairs[0]?.crossings ?? [];
    const paired = this.rings(figure, 'a');
    const lit = crossingsOf(figure)
      .filter((c) => repairs.includes(c.number))
      .map((c): FigureMark => ({ point: c.point, kind: 'differs' }));
    return {
      drawing: drawFigure(figure, { labels: true }),
      box: heartBox(figure),
      marks: paired.length > 0 ? paired : lit,
    };
  });
  protected readonly pattern = computed(() => {
    const shown = this.shown();
    const read = shown && readKnot(shown.document);
    if (!read?.ok) return undefined;
    const figure = finishedFigure(read.value.method);
    return {
      name: read.value.name,
      figure,
      drawing: drawFigure(figure, { labels: true }),
      box: heartBox(figure),
      marks: this.rings(figure, 'b'),
    };
  });
  protected readonly marks = computed(() => this.shown()?.marks ?? []);
}
