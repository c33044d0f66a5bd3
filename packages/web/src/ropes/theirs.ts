/** Somebody else has changed the thing meanwhile: theirs may be looked at; kept again, one's own takes its place. */
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';

@Component({
  selector: 'ft-theirs',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      “{{ name() }}” stands as somebody else has changed it. Keep puts yours in its place.
      <button mat-stroked-button type="button" (click)="take.emit()">Look at theirs</button>
    </p>
  `,
})
export class Theirs {
  readonly name = input.required<string>();
  readonly take = output();
}
