/**
 * A password chosen: how long it is to be, and how one is found that is kept in mind.
 */
import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { PASSWORD_LEAST } from '@foxtrail/contract';

@Component({
  selector: 'ft-new-password',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="$event.preventDefault(); submit(field.value)">
      <ng-content />
      <label>
        <span>{{ label() }}</span>
        <input
          #field
          class="field"
          name="password"
          [type]="shown() ? 'text' : 'password'"
          autocomplete="new-password"
          maxlength="200"
          aria-describedby="password-hint"
        />
      </label>
      <label class="show"
        ><input type="checkbox" name="shown" [checked]="shown()" (change)="shown.set(!shown())" /> Show it</label
      >
      <p id="password-hint" class="soft">
        {{ least }} characters or more: three or four words that have nothing to do with each other are easily kept in
        mind.
      </p>
      <button mat-flat-button type="submit" [disabled]="busy()">{{ does() }}</button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 12px;
      justify-items: start;
    }
    label:not(.show) {
      display: grid;
      gap: 4px;
      width: 100%;
    }
    p {
      margin: 0;
    }
  `,
})
export class NewPassword {
  readonly label = input('Password');
  readonly does = input.required<string>();
  readonly busy = input(false);
  readonly chosen = output<string>();
  protected readonly least = PASSWORD_LEAST;
  protected readonly shown = signal(false);

  protected submit(password: string): void {
    if (!this.busy()) this.chosen.emit(password);
  }
}
