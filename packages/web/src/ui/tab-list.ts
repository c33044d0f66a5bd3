/**
 * Tabs that show one thing of several in the same place: one stop of the Tab key, arrow keys go from tab to tab, and each tab and the
 * panel it shows name one another.
 */
import { FocusKeyManager, type FocusableOption } from '@angular/cdk/a11y';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  viewChildren,
  Directive,
} from '@angular/core';

@Directive({ selector: '[ftTab]' })
class Tab implements FocusableOption {
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  focus(): void {
    this.element.nativeElement.focus();
  }
}

@Component({
  selector: 'ft-tab-list',
  imports: [Tab],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="tablist" [attr.aria-label]="label()">
      @for (name of names(); track $index) {
        <button
          ftTab
          type="button"
          role="tab"
          class="tab"
          [id]="tabId(panel(), $index)"
          [attr.aria-controls]="panel()"
          [attr.aria-selected]="$index === chosen()"
          [class.here]="$index === chosen()"
          [tabindex]="$index === chosen() ? 0 : -1"
          (click)="choose.emit($index)"
          (keydown)="keys?.onKeydown($event)"
          (focus)="keys?.updateActiveItem($index)"
        >
          {{ name }}
        </button>
      }
    </div>
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    .tab {
      border: 1px solid var(--line);
    }
  `,
})
export class TabList {
  readonly label = input.required<string>();
  readonly names = input.required<readonly string[]>();
  readonly chosen = input.required<number>();
  /** Id of the panel, which bears `role="tabpanel"` and is labelled by the chosen tab's id. */
  readonly panel = input.required<string>();
  readonly choose = output<number>();
  protected readonly tabId = tabId;
  private readonly tabs = viewChildren(Tab);
  protected keys: FocusKeyManager<Tab> | undefined;

  constructor() {
    const [injector, destroy] = [inject(Injector), inject(DestroyRef)];
    afterNextRender(() => {
      this.keys = new FocusKeyManager(this.tabs, injector).withHorizontalOrientation('ltr').withWrap().withHomeAndEnd();
      // A tab that is gone to is shown: what it shows costs nothing to show.
      this.keys.change.subscribe((index) => {
        if (index !== this.chosen()) this.choose.emit(index);
      });
    });
    destroy.onDestroy(() => this.keys?.destroy());
  }
}

/** Id of a tab, for the panel that it labels. */
export const tabId = (panel: string, index: number): string => `${panel}-tab-${index}`;
