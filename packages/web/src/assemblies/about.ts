/**
 * What is said of an assembly as a whole: what it is, by which school, its own cautions, how leg loops are routed, and two legs that carry one
 * load.
 */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ASSEMBLY_LIMITS, ROUND_WAYS, type Assembly } from '@foxtrail/core/assembly';
import { MeasureField } from '../ropes/measure-field';
import { Select } from '../ui/select';

/** Two legs as they are laid out first, in millimetres: they open little. */
const LEGS = { spanMm: 600, firstMm: 900, secondMm: 900 } as const;

@Component({
  selector: 'ft-assembly-about',
  imports: [MatButtonModule, MeasureField, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="named"
      ><span class="soft">What it is</span>
      <textarea
        class="field"
        rows="3"
        maxlength="400"
        [value]="assembly().summary"
        [readOnly]="!mayWrite()"
        (change)="changed.emit({ summary: summary.value.trim() })"
        #summary
      ></textarea>
    </label>
    <label class="named"
      ><span class="soft">Its school, where schools differ</span>
      <input
        class="field"
        maxlength="80"
        [value]="assembly().school"
        [readOnly]="!mayWrite()"
        (change)="changed.emit({ school: school.value.trim() })"
        #school
      />
    </label>
    <label class="named"
      ><span class="soft">Its own cautions, one a line; those of its grade stand before them</span>
      <textarea
        class="field"
        rows="4"
        [value]="assembly().cautions.join('\\n')"
        [readOnly]="!mayWrite()"
        (change)="setCautions(cautions.value)"
        #cautions
      ></textarea>
    </label>
    @if (hasLegs()) {
      <div class="named">
        <span class="soft" aria-hidden="true">Leg loops are routed</span>
        <ft-select
          label="How leg loops are routed"
          none="either way, both alike"
          [from]="ways"
          [value]="assembly().legLoops ?? ''"
          [disabled]="!mayWrite()"
          (valueChange)="changed.emit({ legLoops: $event || null })"
        />
      </div>
    }
    @if (assembly().legs; as legs) {
      <fieldset>
        <legend>Two legs to one load</legend>
        <div class="legs">
          <ft-measure
            label="From anchor to anchor"
            [value]="legs.spanMm"
            [disabled]="!mayWrite()"
            (valueChange)="setLeg('spanMm', $event)"
          />
          <ft-measure
            label="First leg"
            [value]="legs.firstMm"
            [disabled]="!mayWrite()"
            (valueChange)="setLeg('firstMm', $event)"
          />
          <ft-measure
            label="Second leg"
            [value]="legs.secondMm"
            [disabled]="!mayWrite()"
            (valueChange)="setLeg('secondMm', $event)"
          />
        </div>
        @if (mayWrite()) {
          <button mat-button type="button" (click)="changed.emit({ legs: null })">It has no such legs</button>
        }
      </fieldset>
    } @else if (mayWrite()) {
      <button mat-stroked-button type="button" (click)="changed.emit({ legs: first })">Two legs carry one load</button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
      padding: 14px 16px 4px;
    }
    .field {
      width: 100%;
    }
    textarea {
      resize: vertical;
    }
    fieldset {
      margin: 0;
      padding: 10px 14px;
      border: 1px solid var(--line);
      border-radius: 12px;
    }
    .legs {
      display: grid;
      gap: 10px;
    }
    button {
      justify-self: start;
    }
  `,
})
export class AssemblyAbout {
  readonly assembly = input.required<Assembly>();
  readonly mayWrite = input.required<boolean>();
  readonly changed = output<Partial<Assembly>>();
  protected readonly first = LEGS;
  protected readonly ways = ROUND_WAYS.map((w) => ({ value: w, name: w }));
  protected readonly hasLegs = computed(() => this.assembly().things.some((t) => t.kind === 'thigh'));

  protected setCautions(text: string): void {
    const cautions = text
      .split('\n')
      .map((c) => c.trim().slice(0, 200))
      .filter((c) => c !== '')
      .slice(0, ASSEMBLY_LIMITS.cautions);
    this.changed.emit({ cautions });
  }
  protected setLeg(which: keyof typeof LEGS, mm: number | null): void {
    const { legs } = this.assembly();
    if (legs && mm !== null && mm >= 1) this.changed.emit({ legs: { ...legs, [which]: mm } });
  }
}
