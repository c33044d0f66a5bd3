/**
 * A step's text, with the words that say how the end passes set in heavier type.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { emphasise } from '@foxtrail/core';

@Component({
  selector: 'ft-step-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  // Bound text, so that no white space of the template's own comes between the runs.
  template: `
    @for (run of runs(); track $index) {
      @if (run.strong) {
        <strong class="pass" [textContent]="run.text"></strong>
      } @else {
        <span [textContent]="run.text"></span>
      }
    }
  `,
})
export class StepText {
  readonly text = input.required<string>();
  protected readonly runs = computed(() => emphasise(this.text()));
}
