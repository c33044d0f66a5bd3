/**
 * The step column: each step's picture and text. The text is the composed one until the author writes their own.
 */
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  composeStep,
  contradictionsOf,
  type Contradiction,
  drawStep,
  TEXT_LIMIT,
  stepBox,
  WORKSHOP_WORDS,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { FigureView } from '../ui/figure';
import { DraftState } from './draft-state';

@Component({
  selector: 'ft-steps',
  imports: [FigureView, MatButtonModule, MatIconModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol>
      @for (step of steps(); track step.index) {
        <li [class.shown]="state.step() === step.index">
          <button
            type="button"
            class="picture"
            (click)="show(step.index)"
            [attr.aria-label]="'Show step ' + (step.index + 1)"
            [attr.aria-pressed]="state.step() === step.index"
          >
            <ft-figure [drawing]="step.drawing" [box]="step.box" [label]="'Step ' + (step.index + 1)" />
            <span class="number">{{ step.index + 1 }}</span>
          </button>
          <div class="words">
            <div class="grow">
              <div class="beneath" aria-hidden="true">
                @for (run of step.runs; track $index) {
                  @if (run.wrong) {
                    <mark>{{ run.text }}</mark>
                  } @else {
                    <span>{{ run.text }}</span>
                  }
                }
              </div>
              <textarea
                rows="2"
                [attr.maxlength]="limit"
                [attr.aria-label]="'Text of step ' + (step.index + 1)"
                [readonly]="!store.mayWrite()"
                [value]="step.text"
                (focus)="show(step.index)"
                (input)="write(step.index, area.value, step.composed)"
                (keydown)="$event.stopPropagation()"
                #area
              ></textarea>
            </div>
            <div class="acts">
              @if (step.own) {
                <button mat-button type="button" (click)="setBack(step.index)">
                  <mat-icon svgIcon="restore" />Set back
                </button>
              } @else {
                <span class="soft">composed</span>
              }
              @if (store.mayWrite()) {
                <button
                  mat-icon-button
                  type="button"
                  (click)="remove(step.index)"
                  [attr.aria-label]="'Remove halt ' + (step.index + 1)"
                  matTooltip="Remove this halt"
                >
                  <mat-icon svgIcon="remove" />
                </button>
              }
            </div>
          </div>
        </li>
      } @empty {
        <li class="none">
          <h2>No steps yet</h2>
          <p>
            Lay the rope as far as the first move goes, then press <span class="key">H</span>: a halt is placed, and a
            step with its picture and text comes out.
          </p>
        </li>
      }
    </ol>
    @if (store.mayWrite()) {
      <button mat-stroked-button type="button" class="place" (click)="state.placeHalt()">
        <mat-icon svgIcon="flag" />{{
          state.chosen()?.kind === 'place' ? 'Place a halt at the chosen place' : 'Place a halt at the end'
        }}
        <span class="key">H</span>
      </button>
    }
  `,
  styles: `
    ol {
      display: flex;
      flex-direction: column;
      gap: 10px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 138px minmax(0, 1fr);
      gap: 10px;
      padding: 8px;
      border: 1px solid var(--line);
      border-radius: var(--radius);
      background: var(--card);
    }
    li.shown {
      border-color: var(--fox-strong);
      box-shadow: 0 0 0 1.5px var(--fox-strong);
    }
    li.none {
      display: block;
      padding: 16px 18px;
    }
    .none p {
      margin: 6px 0 0;
    }
    .picture {
      position: relative;
      height: 104px;
      padding: 4px;
      border: 0;
      border-radius: 9px;
      background: var(--paper);
      cursor: pointer;
    }
    .picture ft-figure {
      height: 100%;
    }
    .number {
      position: absolute;
      top: 2px;
      left: 8px;
      color: var(--moss);
      font:
        650 22px 'Fraunces Variable',
        serif;
    }
    .grow {
      display: grid;
    }
    /* The same text beneath the field, unseen: it gives the field its height, and underlines what the picture contradicts. */
    .beneath {
      border: 1px solid transparent;
      color: transparent;
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
    mark {
      background: none;
      color: transparent;
      text-decoration: underline wavy var(--plum) 2px;
      text-underline-offset: 3px;
    }
    .beneath,
    textarea {
      grid-area: 1 / 1;
      min-height: 50px;
      padding: 4px 6px;
      font: inherit;
      font-size: 15px;
      line-height: 1.35;
    }
    textarea {
      overflow: hidden;
      width: 100%;
      border: 1px solid transparent;
      border-radius: 8px;
      background: transparent;
      color: inherit;
      resize: none;
    }
    textarea:hover {
      border-color: var(--line);
    }
    textarea:focus {
      border-color: var(--fox);
      background: var(--paper);
    }
    .acts {
      display: flex;
      align-items: center;
      justify-content: space-between;
      height: 36px;
      font-size: 14px;
    }
    .acts .soft {
      padding-left: 7px;
    }
    .place {
      width: 100%;
      height: 44px;
      margin-top: 10px;
      background: var(--card);
    }
    .place .key {
      margin-left: 6px;
    }
  `,
})
export class Steps {
  protected readonly state = inject(DraftState);
  protected readonly store = inject(BenchStore);
  protected readonly limit = TEXT_LIMIT;
  protected readonly steps = computed(() => {
    const method = this.state.method();
    return method.halts.map((halt, index) => {
      const composed = composeStep(method, index, WORKSHOP_WORDS).text;
      return {
        index,
        drawing: drawStep(method, index),
        box: stepBox(method, index),
        composed,
        own: halt.text !== undefined,
        text: halt.text ?? composed,
        runs: runsOf(`${halt.text ?? composed} `, contradictionsOf(method, index, WORKSHOP_WORDS)),
      };
    });
  });

  protected show(index: number): void {
    this.state.step.set(index);
    this.state.chosen.set({ kind: 'halt', index });
  }

  protected write(index: number, value: string, composed: string): void {
    this.state.do({ kind: 'set-text', index, text: value === composed ? undefined : value }, `text-${index}`);
  }

  protected setBack(index: number): void {
    this.state.do({ kind: 'set-text', index, text: undefined });
  }

  protected remove(index: number): void {
    this.state.chosen.set({ kind: 'halt', index });
    this.state.removeChosen();
  }
}

/** A text in runs, those that the picture contradicts told apart. */
function runsOf(text: string, wrong: readonly Contradiction[]): { text: string; wrong: boolean }[] {
  const runs: { text: string; wrong: boolean }[] = [];
  let at = 0;
  for (const { from, to } of wrong) {
    if (from < at) continue;
    runs.push({ text: text.slice(at, from), wrong: false }, { text: text.slice(from, to), wrong: true });
    at = to;
  }
  return [...runs, { text: text.slice(at), wrong: false }];
}
