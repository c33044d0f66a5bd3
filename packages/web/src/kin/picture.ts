/**
 * The small picture of a knot, of the shelf or of the pattern book.
 */
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { drawFigure, finishedFigure, heartBox } from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';
import { KinService } from '../data/kin';
import { FigureView } from '../ui/figure';
import { PatternPictures } from './pattern-pictures';

/** A picture that is farther outside of the window than this is not made yet. */
const NEAR = '300px';

@Component({
  selector: 'ft-kin-picture',
  imports: [FigureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (inHand(); as src) {
      <img [src]="src" [alt]="name()" draggable="false" />
    } @else if (pattern(); as p) {
      <ft-figure [drawing]="p.drawing" [box]="p.box" [label]="name()" />
    } @else if (address(); as src) {
      <img [src]="src" [alt]="name()" loading="lazy" draggable="false" />
    }
  `,
  styles: `
    :host {
      display: block;
      overflow: hidden;
      border-radius: 10px;
      background: var(--paper);
    }
    img,
    ft-figure {
      display: block;
      width: 100%;
      height: 100%;
      object-fit: contain;
    }
  `,
})
export class KinPicture {
  private readonly kin = inject(KinService);
  readonly of = input.required<string>();
  protected readonly name = computed(() => this.kin.nameOf(this.of()));
  private readonly pictures = inject(PatternPictures);
  private readonly near = signal(false);
  /** The pattern that is shown: pages name many more than a window shows. */
  private readonly patternId = computed(() => {
    const [sort, id = ''] = this.of().split(':');
    return sort === 'pattern' && this.near() ? id : undefined;
  });
  /** A pattern as it lies in the hand, once that is there. */
  protected readonly inHand = computed(() => {
    const id = this.patternId();
    return id === undefined ? undefined : this.pictures.of(id);
  });
  protected readonly pattern = computed(() => {
    const id = this.patternId();
    const found = id === undefined ? undefined : patternOf(id);
    if (!found) return undefined;
    const figure = finishedFigure(found.knot.method);
    return { drawing: drawFigure(figure), box: heartBox(figure) };
  });
  protected readonly address = computed(() => {
    const [sort, id = ''] = this.of().split(':');
    return sort === 'knot' ? `/api/knots/${id}/thumbnail.svg` : undefined;
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new IntersectionObserver(
      (seen) => {
        if (!seen.some((s) => s.isIntersecting)) return;
        this.near.set(true);
        watch.disconnect();
      },
      { rootMargin: NEAR },
    );
    afterNextRender(() => watch.observe(host));
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }
}
