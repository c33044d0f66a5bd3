/**
 * The pace meter: how quickly each step passes crossings and must be read, against the most that the house allows. A press on a bar goes to
 * its step.
 */
import {
  ChangeDetectionStrategy,
  Component,
  CSP_NONCE,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { capital } from '@foxtrail/core';
import { isTooQuick, type StepPace, type WatchLimits } from '@foxtrail/core/reel';
import type { PlotlyCharts } from 'plotly.js-basic-dist-min';
import { Theme } from '../data/theme';

/** The charts’ library writes its own rules into the style of this name; made beforehand, with the page’s nonce, it may. */
const STYLE = 'plotly.js-style-global';

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
      @if (failed()) {
        <p role="alert">The chart could not be loaded. Its figures are these:</p>
      }
      <div #chart class="chart" aria-hidden="true" [hidden]="failed()"></div>
      <table [class.visually-hidden]="!failed()">
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
    .chart {
      height: 240px;
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
  protected readonly failed = signal(false);
  private readonly chart = viewChild.required<ElementRef<HTMLElement>>('chart');
  private readonly theme = inject(Theme);
  private readonly nonce = inject(CSP_NONCE, { optional: true });
  private plotly: PlotlyCharts | undefined;

  protected readonly over = computed(
    () => this.paces().filter((p) => MEASURED.some((what) => isTooQuick(p[what], this.limits()[what]))).length,
  );

  constructor() {
    effect(() => {
      this.paces();
      this.limits();
      this.theme.look();
      if (this.open()) untracked(() => void this.draw());
    });
    inject(DestroyRef).onDestroy(() => this.plotly?.purge(this.chart().nativeElement));
  }

  private allowStyle(): void {
    if (document.getElementById(STYLE)) return;
    const style = document.createElement('style');
    style.id = STYLE;
    if (this.nonce !== null) style.nonce = this.nonce;
    document.head.append(style);
  }

  private async draw(): Promise<void> {
    const element = this.chart().nativeElement;
    this.allowStyle();
    try {
      this.plotly ??= (await import('plotly.js-basic-dist-min')).default;
    } catch {
      this.failed.set(true);
      return;
    }
    const [paces, limits] = [this.paces(), this.limits()];
    const measured = this.measured();
    const style = getComputedStyle(element);
    // The page’s colours depend on its theme: what they come to is asked of an element that has them.
    const probe = element.parentElement!.appendChild(document.createElement('span'));
    const colour = (name: string): string => {
      probe.style.color = `var(${name})`;
      return getComputedStyle(probe).color;
    };
    const [ink, line, good, bad] = [colour('--ink'), colour('--line'), colour('--moss'), colour('--plum')];
    probe.remove();
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
    const drawn = await this.plotly.react(
      element,
      measured.map((what, i) => bars(what, AXES[i]!)),
      {
        grid: { rows: 1, columns: measured.length, pattern: 'independent', xgap: measured.length > 2 ? 0.24 : 0.14 },
        ...axes,
        shapes: measured.map((what, i) => most(what, AXES[i]!)),
        showlegend: false,
        margin: { l: 56, r: 12, t: 12, b: 44 },
        paper_bgcolor: 'transparent',
        plot_bgcolor: 'transparent',
        font: { family: style.fontFamily, size: 14, color: ink },
      },
      { displayModeBar: false, responsive: true },
    );
    drawn.removeAllListeners('plotly_click');
    drawn.on('plotly_click', ({ points }) => {
      const pace = this.paces()[points[0]?.pointIndex ?? -1];
      if (pace) this.goTo.emit(pace.start);
    });
  }
}
