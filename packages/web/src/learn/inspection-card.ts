/**
 * The inspection card: front and back with numbered marks, and what each number asks a learner to see.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  figureInView,
  finishedFigure,
  drawFigure,
  besidePlaces,
  heartBox,
  heartWith,
  inspectionMarks,
  markPoint,
  markSize,
  type KnotDocument,
  type Vocabulary,
} from '@foxtrail/core';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';

@Component({
  selector: 'ft-inspection-card',
  imports: [MarkedFigure],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="faces">
      @for (f of faces(); track f.name) {
        <figure>
          <div class="paper">
            <ft-marked-figure [drawing]="f.drawing" [box]="f.box" [marks]="f.marks" [label]="f.label" />
          </div>
          <figcaption>{{ f.name }}</figcaption>
        </figure>
      }
    </div>
    @if (marks().length > 0) {
      <ol>
        @for (m of marks(); track m.id) {
          <li>
            <b>{{ m.side === 'front' ? 'Front' : 'Back' }}.</b> {{ m.text }}
          </li>
        }
      </ol>
    } @else {
      <p class="soft">No mark is chosen yet.</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .faces {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 14px;
    }
    figure {
      margin: 0;
    }
    .paper {
      height: min(38vh, 320px);
      padding: 6px;
    }
    ft-marked-figure {
      height: 100%;
    }
    figcaption {
      margin-top: 4px;
      font-weight: 650;
    }
    ol {
      margin: 12px 0 0;
      padding-left: 26px;
    }
    li {
      padding: 2px 0;
    }
    li::marker {
      color: var(--fox);
      font-weight: 700;
    }
    @media print {
      .paper {
        height: 52mm;
      }
    }
  `,
})
export class InspectionCard {
  readonly knot = input.required<KnotDocument>();
  readonly words = input.required<Vocabulary>();
  /** The chosen marks that the figure still has, in the author's order. */
  protected readonly marks = computed(() => {
    const all = inspectionMarks(finishedFigure(this.knot().method), this.words());
    return (this.knot().entry.inspection ?? []).flatMap((id) => all.find((m) => m.id === id) ?? []);
  });
  protected readonly faces = computed(() =>
    (['front', 'back'] as const).map((view) => {
      const figure = figureInView(finishedFigure(this.knot().method), view);
      const numbered = this.marks().map((m, i) => ({ m, label: String(i + 1) }));
      const own = numbered.flatMap(({ m, label }) => {
        const at = m.side === view ? markPoint(figure, m) : undefined;
        return at ? [{ at, label }] : [];
      });
      const radius = markSize(heartBox(figure));
      const places = besidePlaces(
        figure,
        own.map(({ at }) => at),
        radius,
      );
      const marks = places.map((p, i): FigureMark => ({ ...p, kind: 'number', label: own[i]?.label ?? '' }));
      const words = numbered.filter(({ m }) => m.side === view).map(({ m, label }) => `${label}: ${m.text}`);
      return {
        name: view === 'front' ? 'Front' : 'Back',
        drawing: drawFigure(figure),
        box: heartWith(
          figure,
          places.flatMap((p) => [p.point, p.at]),
          radius + 0.4,
        ),
        marks,
        label: `${view === 'front' ? 'Front' : 'Back'}. ${words.join(' ')}`,
      };
    }),
  );
}
