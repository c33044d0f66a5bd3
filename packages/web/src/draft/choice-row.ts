/** One of a few, in a row behind what it is called: over or behind, along or back. */
import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';

export interface Option<T> {
  readonly value: T;
  readonly name: string;
}

@Component({
  selector: 'ft-choice-row',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="label">{{ label() }}</span>
    <mat-button-toggle-group
      [value]="value()"
      (change)="value.set($event.value)"
      [attr.aria-label]="says()"
      hideSingleSelectionIndicator
    >
      @for (o of options(); track o.value) {
        <mat-button-toggle [value]="o.value">{{ o.name }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 6px;
      min-height: 40px;
    }

    .label {
      flex: 0 0 44px;
      color: var(--ink-soft);
      font-size: 14px;
    }

    mat-button-toggle-group,
    mat-button-toggle {
      flex: 1;
    }
  `,
})
export class ChoiceRow<T> {
  readonly label = input.required<string>();
  /** What is chosen, for who does not see the row. */
  readonly says = input.required<string>();
  readonly options = input.required<readonly Option<T>[]>();
  readonly value = model.required<T>();
}
