/**
 * A chart: what it shows is given for the colours of the page. The charts’ library is fetched when the first is drawn; where that fails `failed`
 * says so, and the table that stands beside every chart is shown in its place.
 */
import {
  ChangeDetectionStrategy,
  Component,
  CSP_NONCE,
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
import type { PlotlyCharts } from 'plotly.js-basic-dist-min';
import { Theme } from '../data/theme';

/** Colours of the page, as they come to in its theme. */
export interface ChartColours {
  readonly ink: string;
  readonly soft: string;
  readonly line: string;
  readonly good: string;
  readonly bad: string;
  readonly fox: string;
  readonly card: string;
}
export interface ChartShown {
  readonly data: readonly object[];
  readonly layout: object;
}

const VARIABLES: Readonly<Record<keyof ChartColours, string>> = {
  ink: '--ink',
  soft: '--ink-soft',
  line: '--line',
  good: '--moss',
  bad: '--plum',
  fox: '--fox',
  card: '--card',
};

/** The charts’ library writes its own rules into the style of this name; made beforehand, with the page’s nonce, it may. */
const STYLE = 'plotly.js-style-global';

@Component({
  selector: 'ft-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failed()) {
      <p role="alert">The chart could not be loaded. Its figures are these:</p>
    }
    <div #chart class="chart" aria-hidden="true" [style.height.px]="height()" [hidden]="failed()"></div>
  `,
})
export class Chart {
  readonly shows = input.required<(colours: ChartColours) => ChartShown>();
  readonly height = input(240);
  /** A chart that is folded away is not drawn. */
  readonly drawn = input(true);
  /** A bar or a point that was pressed: which one of its trace. */
  readonly pressed = output<number>();
  readonly failed = signal(false);
  private readonly chart = viewChild.required<ElementRef<HTMLElement>>('chart');
  private readonly theme = inject(Theme);
  private readonly nonce = inject(CSP_NONCE, { optional: true });
  private plotly: PlotlyCharts | undefined;

  constructor() {
    effect(() => {
      const shows = this.shows();
      this.height();
      this.theme.look();
      if (this.drawn()) untracked(() => void this.draw(shows));
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

  /**
   * The page’s colours depend on its theme: what they come to is asked of elements that have them. Of one each: where a colour that changes
   * takes its time, however little, it is still the one before.
   */
  private colours(element: HTMLElement): ChartColours {
    const colourOf = (variable: string): string => {
      const probe = document.createElement('span');
      probe.style.color = `var(${variable})`;
      element.parentElement!.append(probe);
      const { color } = getComputedStyle(probe);
      probe.remove();
      return color;
    };
    return Object.fromEntries(
      Object.entries(VARIABLES).map(([name, variable]) => [name, colourOf(variable)]),
    ) as unknown as ChartColours;
  }

  private async draw(shows: (colours: ChartColours) => ChartShown): Promise<void> {
    const element = this.chart().nativeElement;
    this.allowStyle();
    try {
      this.plotly ??= (await import('plotly.js-basic-dist-min')).default;
    } catch {
      this.failed.set(true);
      return;
    }
    const colours = this.colours(element);
    const { data, layout } = shows(colours);
    const drawn = await this.plotly.react(
      element,
      [...data],
      {
        showlegend: false,
        // The library keeps the height that it began with.
        height: this.height(),
        margin: { l: 56, r: 12, t: 12, b: 44 },
        paper_bgcolor: 'transparent',
        plot_bgcolor: 'transparent',
        font: { family: getComputedStyle(element).fontFamily, size: 14, color: colours.ink },
        ...layout,
      },
      { displayModeBar: false, responsive: true },
    );
    drawn.removeAllListeners('plotly_click');
    drawn.on('plotly_click', ({ points }) => this.pressed.emit(points[0]?.pointIndex ?? -1));
  }
}
