/** What went wrong, in words: a line beside what it belongs to, or a note in the place of a screen that cannot be shown. */
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';

@Component({
  selector: 'ft-trouble',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (text()) {
      <p role="alert">{{ text() }} <ng-content /></p>
    }
  `,
  styles: `
    p {
      margin: 8px 0;
      color: var(--plum);
    }
  `,
})
export class TroubleLine {
  readonly text = input.required<string | undefined>();
}

@Component({
  selector: 'ft-trouble-note',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="note card" role="alert">
      <h2>{{ title() }}</h2>
      <p>{{ text() }}</p>
      <button mat-stroked-button type="button" (click)="again.emit()">Try again</button>
      <ng-content />
    </div>
  `,
})
export class TroubleNote {
  /** What cannot be shown. */
  readonly title = input.required<string>();
  readonly text = input.required<string>();
  readonly again = output();
}
