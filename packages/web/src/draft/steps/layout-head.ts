/** One layout of the method: its name, and what is proved or stated of it against the one before. */
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { RelayProof } from '@foxtrail/core';
import { BenchStore } from '../../knot/bench-store';
import { DraftState } from '../draft-state';
import { StepTools } from './step-tools';

export interface LayoutRow {
  readonly index: number;
  readonly name: string;
  /** Against the layout before; absent for the first, and while it is held against it. */
  readonly proof: RelayProof | undefined;
}

@Component({
  selector: 'ft-layout-head',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <input
        type="text"
        [attr.aria-label]="'Name of layout ' + (layout().index + 1)"
        [readonly]="!store.mayWrite()"
        [value]="layout().name"
        (focus)="state.takeLayout(layout().index)"
        (keydown)="$event.stopPropagation()"
        (change)="state.do({ kind: 'name-layout', name: layoutName.value }, { layout: layout().index })"
        #layoutName
      />
      @if (layout().index !== state.layout()) {
        <button mat-button type="button" (click)="state.takeLayout(layout().index)">Draw</button>
      }
      @if (layout().index > 0 && store.mayWrite()) {
        <button
          mat-icon-button
          type="button"
          [attr.aria-label]="'Remove layout ' + layout().name"
          (click)="tools.removeLayout(layout().index)"
        >
          <mat-icon svgIcon="remove" />
        </button>
      }
    </div>
    @if (layout().proof; as p) {
      <p class="proof">
        <span class="chip" [class.holds]="p.same || p.stated" [class.fails]="!p.same && !p.stated && !p.undecided">{{
          p.same
            ? p.proved
              ? 'same knot, proved'
              : 'same knot'
            : p.stated
              ? 'stated'
              : p.undecided
                ? 'not decided'
                : 'another knot'
        }}</span>
        @if (!p.same) {
          {{ p.evidence }} {{ p.differ.slice(0, 2).join(' ') }}
        } @else if (p.takenOut.length + p.putIn.length > 0) {
          Compared without what is taken out or put in: {{ p.takenOut.concat(p.putIn).join(', ') }}.
        } @else if (!p.proved) {
          {{ p.evidence }}
        }
      </p>
      @if (!p.same) {
        <input
          type="text"
          aria-label="What passes what on the way to this layout"
          placeholder="What passes what on the way?"
          [readonly]="!store.mayWrite()"
          [value]="p.stated ?? ''"
          (keydown)="$event.stopPropagation()"
          (change)="state.do({ kind: 'state-passes', passes: passes.value }, { layout: layout().index })"
          #passes
        />
      }
    } @else if (layout().index > 0) {
      <p class="proof">Held against the layout before …</p>
    }
  `,
  styleUrl: './heads.scss',
  host: { '[class.in-hand]': 'layout().index === state.layout()' },
})
export class LayoutHead {
  protected readonly store = inject(BenchStore);
  protected readonly state = inject(DraftState);
  protected readonly tools = inject(StepTools);
  readonly layout = input.required<LayoutRow>();
}
