/**
 * What can be said of the step that is shown: from which face and how near it is seen, what is lit and called out, and its order.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { CALLOUT_LENGTH, type AgainWay } from '@foxtrail/core';
import { StepTools } from './step-tools';

@Component({
  selector: 'ft-step-panel',
  imports: [MatButtonModule, MatIconModule, MatMenuModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './step-panel.html',
  styleUrl: './step-panel.scss',
})
export class StepPanel {
  protected readonly tools = inject(StepTools);
  protected readonly step = this.tools.shown;
  protected readonly longest = CALLOUT_LENGTH;
  protected readonly ways: readonly AgainWay[] = ['once more', 'from the other side', 'with the other rope'];
  protected readonly repeats = computed(() => {
    const of = this.tools.again()?.of;
    return (this.tools.earlier().find((s) => s.stretch?.index === of)?.index ?? 0) + 1;
  });
}
