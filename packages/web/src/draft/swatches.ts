/** Colours that ropes are drawn in, one to be chosen. */
import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { ROPE_COLOURS } from '@foxtrail/core';

@Component({
  selector: 'ft-swatches',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (c of colours; track c.colour) {
      <button
        type="button"
        [style.background]="c.colour"
        [attr.aria-pressed]="colour() === c.colour"
        [attr.aria-label]="label() + ': ' + c.name"
        [title]="c.name"
        (click)="colour.set(c.colour)"
      ></button>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    button {
      width: 30px;
      height: 30px;
      border: 1.5px solid var(--ink);
      border-radius: 50%;
      cursor: pointer;
    }
    button[aria-pressed='true'] {
      outline: 3px solid var(--fox);
      outline-offset: 2px;
    }
  `,
})
export class Swatches {
  readonly label = input.required<string>();
  /** As `#rrggbb`; nothing chosen: empty. */
  readonly colour = model.required<string>();
  protected readonly colours = ROPE_COLOURS;
}
