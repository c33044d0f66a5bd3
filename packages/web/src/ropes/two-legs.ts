/**
 * Two legs and what hangs from them, drawn to scale: the load is dragged, or moved by the arrow keys, and the legs follow.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  linkedSignal,
  output,
  viewChild,
} from '@angular/core';
import { LEG_ANGLES, legForces, sayKn, type TwoLegs, type UnitOfForce } from '@foxtrail/core/ropes';

const WIDTH = 560;
const HEIGHT = 380;
const TOP = 56;
/** How far an arrow key moves the load, as a share of the anchors’ distance. */
const KEY_STEP = 0.02;

interface DrawnLegs {
  readonly a: readonly [number, number];
  readonly b: readonly [number, number];
  readonly load: readonly [number, number];
}

@Component({
  selector: 'ft-two-legs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #svg
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      (pointermove)="drag($event)"
      (pointerup)="held = false"
      (pointerleave)="held = false"
    >
      @if (drawn(); as d) {
        <path class="beam" [attr.d]="'M16 ' + (top - 14) + 'H' + (width - 16)" />
        <path class="leg outline" [attr.d]="path(d)" />
        <path class="leg" [class.wide]="wide() === 'wide'" [class.bad]="wide() === 'whole'" [attr.d]="path(d)" />
        @for (p of [d.a, d.b]; track $index) {
          <circle class="anchor" [attr.cx]="p[0]" [attr.cy]="p[1]" r="9" />
        }
        <text [attr.x]="(d.a[0] + d.load[0]) / 2 - 26" [attr.y]="(d.a[1] + d.load[1]) / 2" text-anchor="end">
          {{ says().first }}
        </text>
        <text [attr.x]="(d.b[0] + d.load[0]) / 2 + 26" [attr.y]="(d.b[1] + d.load[1]) / 2">{{ says().second }}</text>
        <path class="pull" [attr.d]="'M' + d.load[0] + ' ' + d.load[1] + 'v64m-9 -14l9 14l9 -14'" />
        <text class="angle" [attr.x]="d.load[0] - 24" [attr.y]="d.load[1] + 56" text-anchor="end">
          {{ says().between }}
        </text>
        <text [attr.x]="d.load[0] + 18" [attr.y]="d.load[1] + 56">{{ says().load }}</text>
        <circle
          class="load"
          tabindex="0"
          role="slider"
          aria-label="Where the load hangs: arrow keys move it, the legs follow"
          aria-valuemin="0"
          aria-valuemax="180"
          [attr.aria-valuenow]="degrees()"
          [attr.aria-valuetext]="says().between + ' between the legs'"
          [attr.cx]="d.load[0]"
          [attr.cy]="d.load[1]"
          r="16"
          (pointerdown)="held = true; $event.preventDefault()"
          (keydown)="key($event)"
        />
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: auto;
      touch-action: none;
    }
    .beam {
      stroke: var(--ink-soft);
      stroke-width: 12;
      stroke-linecap: round;
    }
    .leg {
      fill: none;
      stroke: var(--moss);
      stroke-width: 8;
      stroke-linejoin: round;
    }
    .leg.outline {
      stroke: var(--ink);
      stroke-width: 12;
    }
    .leg.wide {
      stroke: var(--fox);
    }
    .leg.bad {
      stroke: var(--plum);
    }
    .anchor {
      fill: var(--card);
      stroke: var(--ink);
      stroke-width: 4;
    }
    .pull {
      fill: none;
      stroke: var(--ink);
      stroke-width: 5;
    }
    .load {
      fill: var(--fox);
      stroke: var(--ink);
      stroke-width: 3;
      cursor: grab;
    }
    .load:focus-visible {
      outline: 3px solid var(--fox-strong);
      outline-offset: 3px;
    }
    text {
      fill: var(--ink);
      font-size: 18px;
      font-weight: 700;
    }
    .angle {
      font-size: 20px;
    }
  `,
})
export class TwoLegsView {
  readonly legs = input.required<TwoLegs>();
  readonly loadKn = input.required<number>();
  readonly unit = input<UnitOfForce>('kN');
  readonly changed = output<TwoLegs>();
  /** Where the load hangs by now: keys may be pressed faster than this is drawn. */
  private readonly hung = linkedSignal(() => this.legs());
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly top = TOP;
  protected held = false;
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');

  private readonly found = computed(() => {
    const read = legForces(this.legs());
    return read.ok ? read.value : undefined;
  });
  protected readonly degrees = computed(() => Math.round(((this.found()?.between ?? 0) * 180) / Math.PI));
  protected readonly wide = computed(() => {
    const between = this.found()?.between ?? 0;
    return between >= LEG_ANGLES.whole - 1e-9 ? 'whole' : between > LEG_ANGLES.wide + 1e-9 ? 'wide' : 'well';
  });
  protected readonly says = computed(() => {
    const [found, load, unit] = [this.found(), this.loadKn(), this.unit()];
    const one = (share: number): string => (share === 0 ? 'slack' : sayKn(share * load, unit));
    return {
      first: one(found?.first ?? 0),
      second: one(found?.second ?? 0),
      between: `${this.degrees()}°`,
      load: sayKn(load, unit),
    };
  });

  /** Units a pixel, and where the first anchor stands. */
  private readonly scale = computed(() => {
    const { span, rise, first, second, legs } = this.legs();
    const below = this.found()?.at[1] ?? Math.max(first, second);
    const deep =
      Math.max(below, legs === 'fixed' ? 0 : (first + second) / 2 - Math.abs(rise) / 2, 0.1) + Math.max(0, rise);
    const s = Math.min((WIDTH - 200) / Math.max(span, 0.2), (HEIGHT - TOP - 84) / deep);
    return { s, x: (WIDTH - s * span) / 2, y: TOP + s * Math.max(0, rise) };
  });
  protected readonly drawn = computed((): DrawnLegs | undefined => {
    const [{ span, rise }, found, { s, x, y }] = [this.legs(), this.found(), this.scale()];
    return found && { a: [x, y], b: [x + s * span, y - s * rise], load: [x + s * found.at[0], y + s * found.at[1]] };
  });
  protected path = ({ a, b, load }: DrawnLegs): string => `M${a.join(' ')}L${load.join(' ')}L${b.join(' ')}`;

  protected drag(event: PointerEvent): void {
    if (!this.held) return;
    const box = this.svg().nativeElement.getBoundingClientRect();
    const { s, x, y } = this.scale();
    const [px, py] = [
      ((event.clientX - box.left) / box.width) * WIDTH,
      ((event.clientY - box.top) / box.height) * HEIGHT,
    ];
    this.hang((px - x) / s, (py - y) / s);
  }
  protected key(event: KeyboardEvent): void {
    const step = KEY_STEP * Math.max(this.legs().span, 0.5);
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    const at = legForces(this.hung());
    if (!by || !at.ok) return;
    event.preventDefault();
    this.hang(at.value.at[0] + by[0]!, at.value.at[1] + by[1]!);
  }

  /** The load hung at a place: the legs get the lengths that reach it. */
  private hang(right: number, below: number): void {
    const { span, rise, legs } = this.legs();
    const [u, v] = [Math.min(span, Math.max(0, right)), Math.max(0.05 * Math.max(span, 0.2), below, 0.02 - rise)];
    const [first, second] = [Math.hypot(u, v), Math.hypot(span - u, v + rise)];
    const half = (first + second) / 2;
    this.hung.set({ ...this.legs(), ...(legs === 'equalised' ? { first: half, second: half } : { first, second }) });
    this.changed.emit(this.hung());
  }
}
