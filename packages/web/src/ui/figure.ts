/**
 * A figure on the page: a drawing of the core's as inline SVG, with its words for screen readers.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { type Box, type Drawing } from '@foxtrail/core';
import { Theme } from '../data/theme';
import { Painter } from './painter';

@Component({
  selector: 'ft-figure',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<svg
    [class.bleed]="bleed()"
    [attr.viewBox]="viewBox()"
    role="img"
    [attr.aria-label]="label()"
    preserveAspectRatio="xMidYMid meet"
  >
    <g #body fill="none" stroke-linejoin="round"></g>
  </svg>`,
  styles: `
    :host {
      display: block;
      min-height: 0;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    svg.bleed {
      overflow: visible;
    }
  `,
})
export class FigureView {
  readonly drawing = input.required<Drawing>();
  /** What the picture shows, in words. */
  readonly label = input.required<string>();
  /** The part of the board in view; the drawing's own frame when not given. */
  readonly box = input<Box>();
  /** Let what lies beyond the box run on to the edge of what holds the figure, which cuts it off. */
  readonly bleed = input(false);

  private readonly theme = inject(Theme);
  private readonly body = viewChild.required<ElementRef<SVGGElement>>('body');
  private readonly painter = new Painter();
  protected readonly frame = computed(() => this.box() ?? this.drawing().box);
  protected readonly viewBox = computed(() => {
    const [l, t, r, b] = this.frame();
    return `${l} ${t} ${r - l} ${b - t}`;
  });

  constructor() {
    effect(() => this.painter.paint(this.body().nativeElement, this.drawing(), this.theme.look(), this.frame()));
  }
}
