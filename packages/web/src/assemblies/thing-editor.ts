/** A thing of an assembly: what it is called, how thick it is, how it lies, and the gate of a carabiner. */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { GATES, type AssemblyThing } from '@foxtrail/core/assembly';
import { MeasureField } from '../ropes/measure-field';
import { Select } from '../ui/select';

/** It is turned by so many degrees at a time. */
const TURN = 15;

@Component({
  selector: 'ft-thing-editor',
  imports: [MatButtonModule, MatIconModule, MeasureField, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      class="field"
      maxlength="80"
      aria-label="Name of the thing"
      [value]="thing().name"
      [readOnly]="!mayWrite()"
      (change)="change({ name: name.value.trim() || thing().name })"
      #name
    />
    <ft-measure
      compact
      class="short"
      label="Across, where the rope goes round it"
      [value]="thing().acrossMm"
      [disabled]="!mayWrite()"
      (valueChange)="$event !== null && $event >= 2 && change({ acrossMm: $event })"
    />
    <span class="soft">across</span>
    @if (thing().kind === 'carabiner') {
      <ft-select
        label="How its gate looks"
        [from]="gates"
        [value]="thing().gate"
        [disabled]="!mayWrite()"
        (valueChange)="$event && change({ gate: $event })"
      />
    }
    @if (mayWrite()) {
      @if (turns()) {
        <button mat-button type="button" (click)="turn()">Turn it</button>
      }
      <button mat-icon-button type="button" [attr.aria-label]="'Take away ' + thing().name" (click)="removed.emit()">
        <mat-icon svgIcon="remove" />
      </button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    .field {
      width: 190px;
    }
    .short {
      width: 96px;
    }
    ft-select {
      width: 170px;
    }
  `,
})
export class ThingEditor {
  readonly thing = input.required<AssemblyThing>();
  readonly mayWrite = input.required<boolean>();
  readonly changed = output<AssemblyThing>();
  readonly removed = output();
  protected readonly gates = GATES.map((g) => ({ value: g, name: `gate ${g}` }));
  protected readonly turns = computed(() => ['spar', 'plank', 'load', 'carabiner'].includes(this.thing().kind));

  protected change(more: Partial<AssemblyThing>): void {
    this.changed.emit({ ...this.thing(), ...more });
  }
  protected turn(): void {
    this.change({ turn: (this.thing().turn + TURN) % 360 });
  }
}
