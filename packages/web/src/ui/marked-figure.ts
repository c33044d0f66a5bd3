/**
 * A figure with places marked on it: rings round crossings, and numbered marks.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { markSize, ringSize, type Box, type Drawing, type Point } from '@foxtrail/core';
import { FigureView } from './figure';

export interface FigureMark {
  readonly point: Point;
  /** Heat: a disc, the larger the share. Ring: look here. Holds: it agrees. Differs: it does not. Way: a strand goes this way, to its letter; the other way of two is broken. */
  readonly kind: 'ring' | 'holds' | 'differs' | 'number' | 'way' | 'other-way' | 'heat';
  readonly label?: string;
  /** Of heat, from 0 to 1. */
  readonly share?: number;
  /** What a number that stands beside it points at. */
  readonly at?: Point;
  /** Of a way, its line as path data. */
  readonly path?: string;
}

@Component({
  selector: 'ft-marked-figure',
  imports: [FigureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ft-figure [drawing]="drawing()" [box]="frame()" [label]="label()" />
    @if (marks().length > 0) {
      <svg class="marks" [attr.viewBox]="viewBox()" aria-hidden="true">
        @for (m of marks(); track $index) {
          @if (m.kind === 'number') {
            @if (m.at; as at) {
              <line [attr.x1]="m.point[0]" [attr.y1]="m.point[1]" [attr.x2]="at[0]" [attr.y2]="at[1]" />
              <circle class="dot" [attr.cx]="at[0]" [attr.cy]="at[1]" r="0.28" />
            }
            <circle class="number" [attr.cx]="m.point[0]" [attr.cy]="m.point[1]" [attr.r]="size()" />
            <text [attr.x]="m.point[0]" [attr.y]="m.point[1]" [attr.font-size]="size() * 1.35">{{ m.label }}</text>
          } @else if (m.kind === 'heat') {
            <circle
              class="heat"
              [attr.cx]="m.point[0]"
              [attr.cy]="m.point[1]"
              [attr.r]="size() * (0.6 + 0.8 * (m.share ?? 0))"
              [attr.fill-opacity]="0.35 + 0.6 * (m.share ?? 0)"
            />
            <text [attr.x]="m.point[0]" [attr.y]="m.point[1]" [attr.font-size]="size() * 0.95">{{ m.label }}</text>
          } @else if (m.path) {
            <path class="under" [attr.d]="m.path" />
            <path [class]="m.kind" [attr.d]="m.path" />
            <circle class="letter" [attr.cx]="m.point[0]" [attr.cy]="m.point[1]" r="0.62" />
            <text class="letter" [attr.x]="m.point[0]" [attr.y]="m.point[1]" font-size="0.9">{{ m.label }}</text>
          } @else {
            <circle [class]="m.kind" [attr.cx]="m.point[0]" [attr.cy]="m.point[1]" [attr.r]="ring()" />
          }
        }
      </svg>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      min-height: 0;
    }
    ft-figure {
      height: 100%;
    }
    .marks {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      pointer-events: none;
    }
    circle {
      fill: none;
      stroke-width: 2.5px;
      vector-effect: non-scaling-stroke;
    }
    .ring,
    .differs {
      stroke: var(--plum);
      stroke-width: 3px;
    }
    .holds {
      stroke: var(--moss);
      stroke-dasharray: 3 4;
    }
    .heat {
      fill: var(--plum);
      stroke: var(--card);
    }
    .number {
      fill: var(--fox-strong);
      stroke: var(--card);
    }
    line {
      stroke: var(--fox-strong);
      stroke-width: 2.5px;
      vector-effect: non-scaling-stroke;
    }
    path {
      fill: none;
      stroke-width: 4px;
      stroke-linecap: round;
      vector-effect: non-scaling-stroke;
    }
    .under {
      stroke: var(--card);
      stroke-width: 8px;
    }
    .way {
      stroke: var(--fox-strong);
    }
    .other-way {
      stroke: var(--ink);
      stroke-dasharray: 1 8;
    }
    circle.letter {
      fill: var(--card);
      stroke: var(--ink);
      stroke-width: 2px;
    }
    text.letter {
      fill: var(--ink);
    }
    .dot {
      fill: var(--fox-strong);
      stroke: var(--card);
      stroke-width: 1.5px;
    }
    text {
      fill: var(--on-fox);
      font-weight: 700;
      text-anchor: middle;
      dominant-baseline: central;
    }
  `,
})
export class MarkedFigure {
  readonly drawing = input.required<Drawing>();
  readonly label = input.required<string>();
  readonly box = input<Box>();
  readonly marks = input<readonly FigureMark[]>([]);
  protected readonly frame = computed(() => this.box() ?? this.drawing().box);
  protected readonly viewBox = computed(() => {
    const [l, t, r, b] = this.frame();
    return `${l} ${t} ${r - l} ${b - t}`;
  });
  protected readonly size = computed(() => markSize(this.frame()));
  protected readonly ring = computed(() => ringSize(this.frame()));
}
