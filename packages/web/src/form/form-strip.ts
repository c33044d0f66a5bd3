/**
 * The trail under a form: every rope laid out, its crossings numbered. What is pointed at on the strip is lit on the form, and the other
 * way round.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import {
  atLength,
  bodyOf,
  capital,
  curveOf,
  lengthOf,
  lengthTo,
  methodFor,
  nameOfPlace,
  passagesOf,
  type Figure,
  type Rope,
  type TrailPosition,
  type TrailSpan,
  type Vocabulary,
} from '@foxtrail/core';
import { Theme } from '../data/theme';
import { ropeWave, type WaveRun } from '../ui/rope-wave';
import { roundOf } from './seen-marks';

/** Lengths in CSS pixels; a key goes so many diameters along. */
const LANE = 44;
const MARGIN = 14;
const SWING = 9;
const STEP = 0.5;
const LEAST_WIDTH = 240;
/** A place nearer than this to a crossing, in pixels, points at the crossing. */
const AT_CROSSING = 9;

interface Lane {
  readonly rope: Rope;
  readonly run: WaveRun;
  readonly colour: string;
  readonly path: string;
}

@Component({
  selector: 'ft-form-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #svg
      tabindex="0"
      role="slider"
      aria-label="The rope’s trail: arrow keys point at a place, which is lit on the knot"
      [attr.aria-valuetext]="said()"
      aria-valuemin="0"
      [attr.aria-valuemax]="most()"
      [attr.aria-valuenow]="along()"
      [attr.viewBox]="'0 0 ' + width() + ' ' + height()"
      (pointermove)="point($event)"
      (pointerleave)="go(undefined)"
      (blur)="go(undefined)"
      (keydown)="press($event)"
    >
      @for (lane of lanes(); track lane.rope.id) {
        <path class="ink" [attr.d]="lane.path" />
        <path class="rope" [style.stroke]="lane.colour" [attr.d]="lane.path" />
      }
      @for (path of glow(); track $index) {
        <path class="lit" [attr.d]="path" />
      }
      @for (c of crossings(); track c.key) {
        <text [attr.x]="c.x" [attr.y]="c.y">{{ c.number }}</text>
      }
    </svg>
    <p aria-hidden="true">{{ said() }}</p>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      cursor: crosshair;
      border-radius: 8px;
    }
    path {
      fill: none;
      stroke-linejoin: round;
      stroke-linecap: round;
    }
    .ink {
      stroke: var(--ink);
      stroke-width: 8;
    }
    .rope {
      stroke: var(--rope);
      stroke-width: 5.5;
    }
    .lit {
      stroke: var(--fox);
      stroke-width: 6;
    }
    text {
      fill: var(--ink-soft);
      font-size: 12px;
      font-weight: 700;
      text-anchor: middle;
    }
    p {
      min-height: 1.4em;
      margin: 0;
      color: var(--ink-soft);
      font-size: 13px;
    }
  `,
})
export class FormStrip {
  readonly figure = input.required<Figure>();
  readonly vocabulary = input.required<Vocabulary>();
  /** What is lit. */
  readonly lit = input.required<readonly TrailSpan[]>();
  /** What is pointed at here. */
  readonly pointed = output<readonly TrailSpan[]>();

  private readonly theme = inject(Theme);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  /** As wide as the room there is, so that its numbers stay legible. */
  protected readonly width = signal(700);
  private readonly place = signal<TrailPosition | undefined>(undefined);

  protected readonly lanes = computed<Lane[]>(() => {
    const figure = this.figure();
    // Ropes that run straight and are crossed by none tell nothing.
    const ropes = figure.ropes.filter((r) => passagesOf(figure, r.id).length > 0);
    const longest = Math.max(1, ...ropes.map((r) => lengthOf(curveOf(r))));
    return ropes.map((rope, i) => {
      const scale = (this.width() - 2 * MARGIN) / longest;
      const run = { left: MARGIN, scale, base: LANE * (i + 0.5), swing: SWING };
      const colour = bodyOf(this.theme.look(), figure.ropes.indexOf(rope), rope.cordage);
      return { rope, run, colour, path: ropeWave(figure, rope, run, 0, lengthOf(curveOf(rope))) };
    });
  });
  protected readonly height = computed(() => LANE * Math.max(1, this.lanes().length));
  protected readonly crossings = computed(() =>
    this.lanes().flatMap(({ rope, run }) =>
      passagesOf(this.figure(), rope.id).map((p) => ({
        key: `${rope.id}${p.at}`,
        number: p.crossing.number,
        x: run.left + lengthTo(curveOf(rope), p.at) * run.scale,
        y: run.base + (p.over ? SWING + 7 : -SWING),
      })),
    ),
  );
  protected readonly glow = computed(() =>
    this.lit().flatMap((span) => {
      const lane = this.lanes().find((l) => l.rope.id === span.strand);
      if (!lane) return [];
      const curve = curveOf(lane.rope);
      const [from, to] = [Math.min(span.from, span.to), Math.max(span.from, span.to)];
      const last = lane.rope.points.length - (lane.rope.closed ? 0 : 1);
      const at = (v: number): number => lengthTo(curve, Math.max(0, Math.min(last, v)));
      return [ropeWave(this.figure(), lane.rope, lane.run, at(from), at(to))];
    }),
  );
  protected readonly said = computed(() => {
    const place = this.place();
    if (!place) return '';
    const number = this.crossingAt(place)?.crossing.number;
    const part = capital(nameOfPlace(methodFor(this.figure()), place, this.vocabulary()));
    return number === undefined ? part : `${part}, crossing ${number}`;
  });
  protected readonly most = computed(() => {
    const lane = this.lanes()[0];
    return lane ? Math.round(lengthOf(curveOf(lane.rope))) : 0;
  });
  protected readonly along = computed(() => {
    const place = this.place();
    const lane = this.lanes().find((l) => l.rope.id === place?.strand);
    return place && lane ? Math.round(lengthTo(curveOf(lane.rope), place.at)) : 0;
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const observer = new ResizeObserver(() => this.width.set(Math.max(LEAST_WIDTH, host.clientWidth)));
    observer.observe(host);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  private crossingAt({ strand, at }: TrailPosition): ReturnType<typeof passagesOf>[number] | undefined {
    const lane = this.lanes().find((l) => l.rope.id === strand);
    if (!lane) return undefined;
    const curve = curveOf(lane.rope);
    const away = (other: number): number => Math.abs(lengthTo(curve, other) - lengthTo(curve, at)) * lane.run.scale;
    const [nearest] = [...passagesOf(this.figure(), strand)].sort((p, q) => away(p.at) - away(q.at));
    return nearest && away(nearest.at) < AT_CROSSING ? nearest : undefined;
  }

  /** Points at a place: a crossing lights both its passages. */
  protected go(place: TrailPosition | undefined): void {
    this.place.set(place);
    const passage = place && this.crossingAt(place);
    this.pointed.emit(
      passage
        ? [roundOf({ strand: place.strand, at: passage.at }), roundOf(passage.other)]
        : place
          ? [roundOf(place)]
          : [],
    );
  }

  protected point(event: PointerEvent): void {
    const box = this.svg().nativeElement.getBoundingClientRect();
    const scale = this.width() / box.width;
    const [x, y] = [(event.clientX - box.left) * scale, (event.clientY - box.top) * scale];
    const lane = this.lanes()[Math.max(0, Math.min(this.lanes().length - 1, Math.floor(y / LANE)))];
    if (!lane) return;
    const curve = curveOf(lane.rope);
    const length = Math.max(0, Math.min(lengthOf(curve), (x - lane.run.left) / lane.run.scale));
    this.go({ strand: lane.rope.id, at: atLength(curve, length) });
  }

  protected press(event: KeyboardEvent): void {
    const by = event.key === 'ArrowRight' ? STEP : event.key === 'ArrowLeft' ? -STEP : undefined;
    const lanes = this.lanes();
    const own = Math.max(
      0,
      lanes.findIndex((l) => l.rope.id === this.place()?.strand),
    );
    const down = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const lane = lanes[Math.max(0, Math.min(lanes.length - 1, own + down))];
    if ((by === undefined && down === 0) || !lane) return;
    event.preventDefault();
    event.stopPropagation();
    const curve = curveOf(lane.rope);
    const was = this.place();
    const from = was && down === 0 ? lengthTo(curve, was.at) : 0;
    this.go({ strand: lane.rope.id, at: atLength(curve, Math.max(0, Math.min(lengthOf(curve), from + (by ?? 0)))) });
  }
}
