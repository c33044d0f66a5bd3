/**
 * Roving focus: of many things alike only one is in the order of the Tab key, and the arrow keys go from one to the next.
 */
import { onRing } from '@foxtrail/core';
import { Directive, ElementRef, inject, input } from '@angular/core';

const WAYS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

@Directive({
  selector: '[ftRove]',
  host: { '(focusin)': 'take($event)', '(keydown)': 'go($event)' },
})
export class Rove {
  /** What is gone through, as a selector within the element. Each sets its first tabindex itself: 0 for one, −1 for the others. */
  readonly ftRove = input.required<string>();
  private readonly host = inject<ElementRef<Element>>(ElementRef);

  private all(): Element[] {
    return [...this.host.nativeElement.querySelectorAll(this.ftRove())];
  }

  protected take(event: FocusEvent): void {
    const here = (event.target as Element).closest(this.ftRove());
    if (!here) return;
    for (const other of this.all()) other.setAttribute('tabindex', other === here ? '0' : '-1');
  }

  protected go(event: KeyboardEvent): void {
    const here = (event.target as Element).closest(this.ftRove());
    if (!here || event.altKey || event.ctrlKey || event.metaKey) return;
    const all = this.all();
    const at = all.indexOf(here);
    const by = WAYS[event.key];
    const next =
      event.key === 'Home'
        ? all[0]
        : event.key === 'End'
          ? all.at(-1)
          : by === undefined
            ? undefined
            : all[onRing(at + by, all.length)];
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    (next as SVGElement).focus();
  }
}
