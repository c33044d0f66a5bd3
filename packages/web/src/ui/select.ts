/**
 * One of several things to choose, in the small: for bars, rows and tables, where a whole form field would not fit.
 */
import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  forwardRef,
  input,
  model,
  signal,
} from '@angular/core';
import { NG_VALUE_ACCESSOR, type ControlValueAccessor } from '@angular/forms';
import { MatSelectModule, type MatSelect } from '@angular/material/select';

export interface Choice<T> {
  readonly value: T;
  readonly name: string;
}

@Component({
  selector: 'ft-select',
  imports: [MatSelectModule],
  providers: [{ provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => Select), multi: true }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-select
      class="field"
      panelWidth=""
      hideSingleSelectionIndicator
      [aria-label]="label()"
      [value]="value()"
      [disabled]="disabled() || off()"
      (selectionChange)="choose($event.value, select)"
      (closed)="left()"
      #select
    >
      @for (c of choices(); track c.value) {
        <mat-option [value]="c.value">{{ c.name }}</mat-option>
      }
    </mat-select>
  `,
  styles: `
    :host {
      --mat-select-trigger-text-size: 16px;
      --mat-select-trigger-text-line-height: 24px;
      --mat-select-trigger-text-tracking: normal;
      display: block;
      min-width: 0;
    }
    mat-select {
      display: flex;
      align-items: center;
    }
  `,
})
export class Select<T extends string | number> implements ControlValueAccessor {
  /** What is chosen, in words for screen readers. */
  readonly label = input.required<string>();
  /** What can be chosen: things with their names, or plain words. */
  readonly from = input.required<readonly (Choice<T> | T)[]>();
  /** How choosing none of them is called; without it, one of them is chosen always. The value is the empty word then. */
  readonly none = input<string>();
  readonly value = model<T | ''>('');
  readonly disabled = input(false);
  /** A thing that is chosen is taken at once, and the next can be chosen. */
  readonly resets = input(false, { transform: booleanAttribute });
  protected readonly off = signal(false);

  protected readonly choices = computed<readonly Choice<T | ''>[]>(() => {
    const none = this.none();
    const things = this.from().map((c): Choice<T> => (typeof c === 'object' ? c : { value: c, name: String(c) }));
    return none === undefined ? things : [{ value: '', name: none }, ...things];
  });

  private tell: (value: T | '') => void = () => undefined;
  protected left: () => void = () => undefined;

  protected choose(value: T | '', select: MatSelect): void {
    this.value.set(value);
    this.tell(value);
    if (!this.resets()) return;
    this.value.set('');
    select.writeValue('');
  }

  writeValue(value: T | ''): void {
    this.value.set(value);
  }
  registerOnChange(tell: (value: T | '') => void): void {
    this.tell = tell;
  }
  registerOnTouched(left: () => void): void {
    this.left = left;
  }
  setDisabledState(off: boolean): void {
    this.off.set(off);
  }
}
