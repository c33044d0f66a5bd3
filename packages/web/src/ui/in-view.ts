/** Tells when a place comes into view, or nearly. */
import { Directive, ElementRef, inject, output, type OnDestroy } from '@angular/core';

/** So far below what is seen, in pixels, that what is fetched is there when it is come to. */
const AHEAD = 600;

@Directive({ selector: '[ftInView]' })
export class InView implements OnDestroy {
  readonly inView = output();
  private readonly watch = new IntersectionObserver(
    (seen) => {
      if (seen.some((s) => s.isIntersecting)) this.inView.emit();
    },
    { rootMargin: `${AHEAD}px` },
  );

  constructor() {
    this.watch.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
  }

  ngOnDestroy(): void {
    this.watch.disconnect();
  }
}
