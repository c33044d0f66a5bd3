/**
 * The pace meter: how quickly each step passes crossings and must be read, against the most that the house allows. A press on a bar goes to
 * its step.
 */
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { capital } from '@foxtrail/core';
import { isTooQuick, type StepPace, type WatchLimits } from '@foxtrail/core/reel';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';

const MEASURED = ['crossings', 'reading', 'speaking'] as const;
type Measured = (typeof MEASURED)[number];
const UNITS: Readonly<Record<Measured, string>> = {
  crossings: 'crossings a second',
  reading: 'characters a second',
  speaking: 'words spoken a minute',
};
const AXES = ['', '2', '3'] as const;
type Axis = (typeof AXES)[number];

@Component({
  selector: 'ft-pace-meter',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details (toggle)="open.set($any($event.target).open)">
      <summary>
        Pace
        @if (over() > 0) {
          <span class="over"
            >{{ over() }} {{ over() === 1 ? 'step is' : 'steps are' }} quicker than the house allows</span
          >
        }
      </summary>
      <ft-chart [shows]="shows()" [drawn]="open()" (pressed)="press($event)" #chart />
      <table [class.visually-hidden]="!chart.failed()">
        <caption>
          How quickly each step goes by
        </caption>
        <tr>
          <th scope="col">Step</th>
          @for (what of measured(); track what) {
            <th scope="col">{{ named(what) }}, at most {{ limits()[what] }}</th>
          }
        </tr>
        @for (p of paces(); track p.part) {
          <tr>
            <th scope="row">{{ p.part + 1 }}</th>
            @for (what of measured(); track what) {
              <td>{{ p[what].toFixed(what === 'crossings' ? 1 : 0) }}</td>
            }
          </tr>
        }
      </table>
    </details>
  `,
  styles: `
    :host {
      display: block;
      margin-top: 6px;
    }
    summary {
      padding: 8px 4px;
      font-weight: 700;
      cursor: pointer;
    }
    .over {
      margin-left: 10px;
      padding: 2px 10px;
      border-radius: 12px;
      background: var(--plum-wash);
      font-weight: 400;
    }
    td {
      text-align: right;
    }
  `,
})
export class PaceMeter {
  readonly paces = input.required<readonly StepPace[]>();
  readonly limits = input.required<WatchLimits>();
  /** What each bar is one of. */
  readonly of = input<'Step' | 'Scene'>('Step');
  /** The beginning of a step, in seconds. */
  readonly goTo = output<number>();
  /** Speaking is measured where somebody speaks. */
  protected readonly measured = computed(() =>
    MEASURED.filter((what) => what !== 'speaking' || this.paces().some((p) => p.speaking > 0)),
  );
  protected readonly named = (what: Measured): string => capital(UNITS[what]);
  protected readonly open = signal(false);

  protected readonly over = computed(
    () => this.paces().filter((p) => MEASURED.some((what) => isTooQuick(p[what], this.limits()[what]))).length,
  );

  protected press(index: number): void {
    const pace = this.paces()[index];
    if (pace) this.goTo.emit(pace.start);
  }

  protected readonly shows = computed(() => {
    const [paces, limits, measured] = [this.paces(), this.limits(), this.measured()];
    return (colours: ChartColours) => this.chartOf(paces, limits, measured, colours);
  });

  private chartOf(
    paces: readonly StepPace[],
    limits: WatchLimits,
    measured: readonly Measured[],
    { ink, line, good, bad }: ChartColours,
  ): ChartShown {
    const bars = (what: Measured, axis: Axis) => ({
      type: 'bar',
      x: paces.map((p) => p.part + 1),
      y: paces.map((p) => p[what]),
      xaxis: `x${axis}`,
      yaxis: `y${axis}`,
      marker: { color: paces.map((p) => (isTooQuick(p[what], limits[what]) ? bad : good)) },
      hovertemplate: `${this.of()} %{x}: %{y:.1f} ${UNITS[what]}<extra></extra>`,
    });
    const most = (what: Measured, axis: Axis) => ({
      type: 'line',
      xref: `x${axis} domain`,
      yref: `y${axis}`,
      x0: 0,
      x1: 1,
      y0: limits[what],
      y1: limits[what],
      line: { color: ink, width: 2, dash: 'dash' },
    });
    const step = {
      title: { text: this.of() },
      dtick: Math.max(1, Math.ceil(paces.length / 20)),
      fixedrange: true,
      color: ink,
    };
    const rate = (what: Measured) => ({
      title: { text: capital(UNITS[what]) },
      range: [0, 1.15 * Math.max(limits[what], ...paces.map((p) => p[what]))],
      fixedrange: true,
      color: ink,
      gridcolor: line,
    });
    const axes: Record<string, object> = {};
    measured.forEach((what, i) => {
      axes[`xaxis${AXES[i]}`] = step;
      axes[`yaxis${AXES[i]}`] = rate(what);
    });
    return {
      data: measured.map((what, i) => bars(what, AXES[i]!)),
      layout: {
        grid: { rows: 1, columns: measured.length, pattern: 'independent', xgap: measured.length > 2 ? 0.24 : 0.14 },
        ...axes,
        shapes: measured.map((what, i) => most(what, AXES[i]!)),
      },
    };
  }
}
