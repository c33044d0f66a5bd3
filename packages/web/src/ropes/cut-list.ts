/** The cut list: which piece of the stock is cut how, as a chart and a table, and what no piece is long enough for. */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { StockCut } from '@foxtrail/core/ropes';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { lengthsSaid } from './lengths-said';

/** Height of a bar of the chart, and of what stands around them. */
const BAR = 40;
const AROUND = 60;

@Component({
  selector: 'ft-cut-list',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (cut of shown(); track $index) {
      <h3>{{ cut.stock?.name ?? 'No rope of the stock is chosen' }}</h3>
      @if (cut.stock?.unfit; as why) {
        <p class="fails">Nothing of it is cut: {{ why }}.</p>
      }
      @if (cut.list.missing.length > 0) {
        <p class="fails">
          @if (cut.stock) {
            No piece on hand is long enough for
          } @else {
            To be cut:
          }
          @for (m of cut.list.missing; track $index) {
            {{ m.label }} ({{ sayMm(m.mm) }}){{ $last ? '.' : ', ' }}
          }
        </p>
      }
      @if (cut.list.cut.length > 0) {
        <ft-chart [shows]="cut.chart" [height]="cut.height" />
        <table class="table">
          <thead>
            <tr>
              <th scope="col">Piece</th>
              <th scope="col">Cut from it</th>
              <th scope="col">Left</th>
            </tr>
          </thead>
          <tbody>
            @for (c of cut.list.cut; track $index) {
              <tr>
                <th scope="row">{{ sayMm(c.piece.mm) }}</th>
                <td>
                  @for (l of c.lengths; track $index) {
                    {{ sayMm(l.mm) }} <span class="soft">{{ l.label }}</span><br />
                  }
                </td>
                <td>
                  {{ c.leftMm > 0 ? sayMm(c.leftMm) : 'nothing' }}
                  @if (c.leftMm > 0 && c.leftMm < keepMm()) {
                    <span class="soft">waste</span>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
        <p class="soft">
          {{ cut.list.cuts }} {{ cut.list.cuts === 1 ? 'cut' : 'cuts' }}, waste {{ sayMm(cut.list.wasteMm) }}.
          {{
            cut.list.proved
              ? 'Nothing wastes less.'
              : 'The best that was found; it is not proved that nothing is better.'
          }}
        </p>
      }
    } @empty {
      <p class="soft">Nothing is to be cut yet.</p>
    }
  `,
  styleUrl: './cut-list.scss',
})
export class CutList {
  readonly cuts = input.required<readonly StockCut[]>();
  /** What is left of a piece is kept from this length on. */
  readonly keepMm = input.required<number>();
  protected readonly sayMm = lengthsSaid();
  protected readonly shown = computed(() =>
    this.cuts()
      .filter((c) => c.demands.length > 0)
      .map((cut) => ({ ...cut, chart: this.chartOf(cut), height: AROUND + BAR * cut.list.cut.length })),
  );

  private chartOf({ list }: StockCut): (colours: ChartColours) => ChartShown {
    return (colours) => {
      const most = Math.max(1, ...list.cut.map((c) => c.lengths.length));
      const names = list.cut.map((c, i) => `${i + 1}: ${this.sayMm(c.piece.mm)}`);
      const bars = Array.from({ length: most }, (_, k) => ({
        type: 'bar',
        orientation: 'h',
        y: names,
        x: list.cut.map((c) => (c.lengths[k]?.mm ?? 0) / 1000),
        text: list.cut.map((c) => (c.lengths[k] ? (c.lengths[k].mm / 1000).toFixed(2) : '')),
        customdata: list.cut.map((c) => c.lengths[k]?.label ?? ''),
        textposition: 'inside',
        insidetextanchor: 'middle',
        marker: { color: k % 2 === 0 ? colours.good : colours.soft, line: { color: colours.card, width: 2 } },
        insidetextfont: { color: colours.card },
        hovertemplate: '%{customdata}: %{x:.2f} m<extra></extra>',
      }));
      const left = {
        type: 'bar',
        orientation: 'h',
        y: names,
        x: list.cut.map((c) => c.leftMm / 1000),
        text: list.cut.map((c) => (c.leftMm > 0 ? `left ${this.sayMm(c.leftMm)}` : '')),
        textposition: 'inside',
        marker: { color: colours.line },
        insidetextfont: { color: colours.ink },
        hovertemplate: 'left: %{x:.2f} m<extra></extra>',
      };
      return {
        data: [...bars, left],
        layout: {
          barmode: 'stack',
          bargap: 0.25,
          uniformtext: { minsize: 12, mode: 'hide' },
          margin: { l: 84, r: 12, t: 4, b: 44 },
          xaxis: { title: { text: 'metres' }, fixedrange: true, color: colours.ink, gridcolor: colours.line },
          yaxis: { autorange: 'reversed', fixedrange: true, color: colours.ink },
        },
      };
    };
  }
}
