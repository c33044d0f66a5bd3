/**
 * A step's text, with the words that say how the end passes set in heavier type.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { emphasise } from '@foxtrail/core';

@Component({
  selector: 'ft-step-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (run of runs(); track $index) {
    @if (run.strong) {
      <strong class="pass">{{ run.text }}</strong>
    } @else {
      {{ run.text }}
    }
  }`,
})
export class StepText {
  readonly text = input.required<string>();
  protected readonly runs = computed(() => emphasise(this.text()));
}
