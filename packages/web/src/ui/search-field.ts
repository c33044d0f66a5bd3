/** Where a list is searched by name. */
import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';

@Component({
  selector: 'ft-search',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      type="search"
      class="field"
      maxlength="80"
      [attr.aria-label]="label()"
      [placeholder]="label()"
      [value]="query()"
      (input)="query.set(field.value)"
      #field
    />
  `,
  styles: `
    :host {
      display: block;
    }
    input {
      width: 100%;
    }
  `,
})
export class SearchField {
  readonly label = input.required<string>();
  readonly query = model('');
}
