/** A step in the column: its picture, its text, what is to be said of its words, and its tools while it is shown. */
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatTooltipModule } from '@angular/material/tooltip';
import { TEXT_LIMIT, type Box, type Drawing, type RemarkedText } from '@foxtrail/core';
import { BenchStore } from '../../knot/bench-store';
import { CheckedText, type Underlined } from '../../ui/checked-text';
import { FigureView } from '../../ui/figure';
import { Remarks } from '../../ui/remarks';
import { StepPanel } from './step-panel';
import { StepTools } from './step-tools';

/** What is drawn and said of a step. */
export interface StepShown {
  readonly index: number;
  /** It ends at a halt; else it finishes the knot. */
  readonly lays: boolean;
  readonly drawing: Drawing;
  readonly box: Box;
  /** In its place: the knot in the hand. */
  readonly formed?: string | undefined;
  readonly composed: string;
  readonly own: boolean;
  readonly text: string;
  readonly marks: readonly Underlined[];
  /** Its own texts of which something is to be said: what it says and what it calls out. */
  readonly texts: readonly RemarkedText[];
  readonly remarked: number;
}

@Component({
  selector: 'ft-step-card',
  imports: [CheckedText, FigureView, Remarks, StepPanel, MatButtonModule, MatIconModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      class="picture"
      (click)="tools.show(step().index)"
      [attr.aria-label]="'Show step ' + (step().index + 1)"
      [attr.aria-pressed]="shown()"
    >
      @if (step().formed; as src) {
        <img [src]="src" [alt]="'Step ' + (step().index + 1)" />
      } @else {
        <ft-figure
          [drawing]="step().drawing"
          [box]="step().box"
          [bleed]="true"
          [label]="'Step ' + (step().index + 1)"
        />
      }
      <span class="number">{{ step().index + 1 }}</span>
    </button>
    <div class="words">
      <ft-checked-text
        [text]="step().text"
        [marks]="step().marks"
        [limit]="limit"
        [label]="'Text of step ' + (step().index + 1)"
        [readonly]="!store.mayWrite()"
        (focused)="tools.show(step().index)"
        (changed)="write(step().index, $event, step().composed)"
      />
      <div class="acts">
        @if (step().own) {
          <button mat-button type="button" (click)="setBack(step().index)">
            <mat-icon svgIcon="restore" />Set back
          </button>
        } @else {
          <span class="soft">composed</span>
        }
        @if (store.mayWrite()) {
          <button
            mat-icon-button
            type="button"
            (click)="remove(step().index)"
            [attr.aria-label]="(step().lays ? 'Remove halt ' : 'Remove step ') + (step().index + 1)"
            [matTooltip]="step().lays ? 'Remove this halt' : 'Remove this step'"
          >
            <mat-icon svgIcon="remove" />
          </button>
        }
      </div>
    </div>
    @if (step().remarked > 0) {
      @if (shown()) {
        @for (t of step().texts; track t.place) {
          <ft-remarks
            [remarks]="t.remarks"
            [mayMend]="store.mayWrite()"
            (mend)="store.reword(t, $event)"
            (introduce)="store.introduce($event)"
          />
        }
      } @else {
        <button type="button" class="remarked" (click)="tools.show(step().index)">
          {{ step().remarked === 1 ? 'A word' : step().remarked + ' words' }} to look at
        </button>
      }
    }
    @if (shown() && store.mayWrite()) {
      <ft-step-panel />
    }
  `,
  styleUrl: './step-card.scss',
  host: { '[class.shown]': 'shown()' },
})
export class StepCard {
  protected readonly store = inject(BenchStore);
  protected readonly tools = inject(StepTools);
  readonly step = input.required<StepShown>();
  protected readonly shown = computed(() => this.tools.shown()?.index === this.step().index);
  protected readonly limit = TEXT_LIMIT;

  protected write(index: number, value: string, composed: string): void {
    this.setText(index, value === composed ? undefined : value, `text-${index}`);
  }

  protected setBack(index: number): void {
    this.setText(index, undefined);
  }

  private setText(index: number, text: string | undefined, group?: string): void {
    this.tools.show(index);
    this.tools.tell({ text }, group);
  }

  protected remove(index: number): void {
    this.tools.show(index);
    this.tools.remove();
  }
}
