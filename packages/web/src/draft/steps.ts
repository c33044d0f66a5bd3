/**
 * The step column: each step's picture and text. The text is the composed one until the author writes their own.
 */
import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  composeStep,
  contradictionsOf,
  drawStep,
  layoutsOf,
  NAME_LIMIT,
  stepBox,
  stepsOf,
  TEXT_LIMIT,
  WORKSHOP_WORDS,
  type Box,
  type Contradiction,
  type Drawing,
  type Method,
  type Step,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { FigureView } from '../ui/figure';
import { DraftState } from './draft-state';
import { StepPanel } from './step-panel';
import { StepTools } from './step-tools';

@Component({
  selector: 'ft-steps',
  imports: [FigureView, StepPanel, MatButtonModule, MatIconModule, MatMenuModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.methods().length > 1) {
      <div class="methods" role="tablist" aria-label="Ways to tie it">
        @for (m of methods(); track m.index) {
          <button
            type="button"
            role="tab"
            [attr.aria-selected]="m.index === store.inHand()"
            (click)="tools.takeMethod(m.index)"
          >
            {{ m.name }}
          </button>
        }
      </div>
      <div class="head">
        <input
          type="text"
          aria-label="Name of this method"
          [attr.maxlength]="nameLimit"
          [readonly]="!store.mayWrite()"
          [value]="inHand()?.name ?? ''"
          (keydown)="$event.stopPropagation()"
          (change)="nameMethod(name)"
          #name
        />
        @if (inHand(); as m) {
          @if (m.proof; as p) {
            <span class="chip" [class.holds]="p.same" [class.fails]="!p.same">{{
              p.same ? 'same knot' : 'not the same'
            }}</span>
          } @else if (m.index === 0) {
            <span class="chip">first</span>
          }
          @if (store.mayWrite()) {
            <button mat-icon-button type="button" [matMenuTriggerFor]="methodMenu" aria-label="This method">
              <mat-icon svgIcon="more" />
            </button>
            <mat-menu #methodMenu>
              @if (m.index > 0) {
                <button mat-menu-item type="button" (click)="state.doWhole({ kind: 'first-method', index: m.index })">
                  Show it to learners first
                </button>
              }
              <button mat-menu-item type="button" (click)="removeMethod(m.index)">Remove this method</button>
            </mat-menu>
          }
        }
      </div>
      @if (inHand()?.proof; as p) {
        <p class="proof">{{ p.evidence }} {{ p.differ.slice(0, 2).join(' ') }}</p>
      }
    }
    <ol>
      @for (layout of layouts(); track layout.index) {
        @if (layouts().length > 1) {
          <li class="layout" [class.in-hand]="layout.index === state.layout()">
            <div class="head">
              <input
                type="text"
                [attr.aria-label]="'Name of layout ' + (layout.index + 1)"
                [readonly]="!store.mayWrite()"
                [value]="layout.name"
                (focus)="state.takeLayout(layout.index)"
                (keydown)="$event.stopPropagation()"
                (change)="state.doWhole({ kind: 'name-layout', layout: layout.index, name: layoutName.value })"
                #layoutName
              />
              @if (layout.index !== state.layout()) {
                <button mat-button type="button" (click)="state.takeLayout(layout.index)">Draw</button>
              }
              @if (layout.index > 0 && store.mayWrite()) {
                <button
                  mat-icon-button
                  type="button"
                  [attr.aria-label]="'Remove layout ' + layout.name"
                  (click)="tools.removeLayout(layout.index)"
                >
                  <mat-icon svgIcon="remove" />
                </button>
              }
            </div>
            @if (layout.proof; as p) {
              <p class="proof">
                <span class="chip" [class.holds]="p.same || p.stated" [class.fails]="!p.same && !p.stated">{{
                  p.same ? (p.proved ? 'same knot, proved' : 'same knot') : p.stated ? 'stated' : 'another knot'
                }}</span>
                @if (!p.same) {
                  {{ p.evidence }} {{ p.differ.slice(0, 2).join(' ') }}
                } @else if (p.takenOut.length > 0) {
                  Compared without what is taken out: {{ p.takenOut.join(', ') }}.
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
                  (change)="state.doWhole({ kind: 'state-passes', layout: layout.index, passes: passes.value })"
                  #passes
                />
              }
            } @else if (layout.index > 0) {
              <p class="proof">Held against the layout before …</p>
            }
          </li>
        }
        @for (step of layout.steps; track step.index) {
          <li class="step" [class.shown]="tools.shown()?.index === step.index">
            <button
              type="button"
              class="picture"
              (click)="tools.show(step.index)"
              [attr.aria-label]="'Show step ' + (step.index + 1)"
              [attr.aria-pressed]="tools.shown()?.index === step.index"
            >
              <ft-figure
                [drawing]="step.drawing"
                [box]="step.box"
                [bleed]="true"
                [label]="'Step ' + (step.index + 1)"
              />
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
                  (focus)="tools.show(step.index)"
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
                    [attr.aria-label]="(step.lays ? 'Remove halt ' : 'Remove step ') + (step.index + 1)"
                    [matTooltip]="step.lays ? 'Remove this halt' : 'Remove this step'"
                  >
                    <mat-icon svgIcon="remove" />
                  </button>
                }
              </div>
            </div>
            @if (tools.shown()?.index === step.index && store.mayWrite()) {
              <ft-step-panel />
            }
          </li>
        }
      }
      @if (count() === 0) {
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
      <div class="foot">
        <button mat-stroked-button type="button" class="place" (click)="state.placeHalt()">
          <mat-icon svgIcon="flag" />{{
            state.chosen()?.kind === 'place' ? 'Halt at the chosen place' : 'Halt at the end'
          }}
          <span class="key">H</span>
        </button>
        <button mat-stroked-button type="button" class="more" [matMenuTriggerFor]="add">Add …</button>
        <mat-menu #add>
          <button mat-menu-item type="button" (click)="tools.finish('dress')">A step that dresses the knot</button>
          <button mat-menu-item type="button" (click)="tools.finish('set')">A step that sets it</button>
          <button mat-menu-item type="button" (click)="tools.finish('check')">A step that checks it</button>
          <button mat-menu-item type="button" (click)="tools.layAnew()">A layout: the knot laid anew, dressed</button>
          <button mat-menu-item type="button" (click)="tools.addMethod(false)">
            Another way to tie it, from blank
          </button>
          <button mat-menu-item type="button" (click)="tools.addMethod(true)">
            Another way to tie it, from this one
          </button>
          @if (!store.card()?.leftHandOf) {
            <button mat-menu-item type="button" (click)="tools.openLeftHanded()">
              {{ store.leftHanded() ? 'Its left-handed edition' : 'A left-handed edition, kept in step' }}
            </button>
          }
        </mat-menu>
      </div>
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
    .step {
      display: grid;
      grid-template-columns: 138px minmax(0, 1fr);
      gap: 10px;
      padding: 8px;
      border: 1px solid var(--line);
      border-radius: var(--radius);
      background: var(--card);
    }
    .step.shown {
      border-color: var(--fox-strong);
      box-shadow: 0 0 0 1.5px var(--fox-strong);
    }
    .none {
      padding: 16px 18px;
      border: 1px solid var(--line);
      border-radius: var(--radius);
      background: var(--card);
    }
    ft-step-panel {
      grid-column: 1 / -1;
    }
    .methods {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      margin-bottom: 6px;
    }
    .methods button {
      min-height: 38px;
      padding: 4px 12px;
      border: 1px solid var(--line);
      border-radius: 10px;
      background: var(--card);
      color: var(--ink-soft);
      font: inherit;
      font-weight: 600;
      cursor: pointer;
    }
    .methods button[aria-selected='true'] {
      border-color: var(--bar);
      background: var(--bar);
      color: var(--bar-ink);
    }
    .head {
      display: flex;
      gap: 4px;
      align-items: center;
    }
    .head input,
    .layout > input {
      flex: 1;
      width: 100%;
      min-width: 0;
      min-height: 38px;
      padding: 4px 8px;
      border: 1px solid transparent;
      border-radius: 8px;
      background: none;
      color: inherit;
      font: inherit;
    }
    .head input {
      font:
        620 18px 'Fraunces Variable',
        serif;
    }
    .layout > input,
    .head input:hover,
    .head input:focus {
      border-color: var(--line);
      background: var(--card);
    }
    .layout {
      padding-left: 4px;
      border-left: 4px solid transparent;
    }
    .layout.in-hand {
      border-left-color: var(--fox-strong);
    }
    .head .chip {
      flex: none;
      white-space: nowrap;
    }
    .proof {
      margin: 0 0 6px;
      color: var(--ink-soft);
      font-size: 14px;
      line-height: 1.35;
    }
    .none p {
      margin: 6px 0 0;
    }
    .picture {
      position: relative;
      overflow: hidden;
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
    .foot {
      display: flex;
      gap: 6px;
      margin-top: 10px;
    }
    .foot button {
      height: 44px;
      padding: 0 12px;
      background: var(--card);
    }
    .place {
      flex: 1;
    }
    .place .key {
      margin-left: 6px;
    }
  `,
})
export class Steps {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly state = inject(DraftState);
  protected readonly store = inject(BenchStore);
  protected readonly tools = inject(StepTools);
  protected readonly limit = TEXT_LIMIT;
  protected readonly nameLimit = NAME_LIMIT;
  protected readonly count = computed(() => this.tools.steps().length);
  /** What is drawn and said of each step of the knot as it is: what is only shown on the board changes nothing here. */
  protected readonly layouts = computed(() => {
    const method = this.tools.method();
    const proofs = this.store.identity()?.layouts?.relaid ?? [];
    return layoutsOf(method).map((layout, index) => ({
      index,
      name: layout.name ?? (index === 0 ? 'Open' : `Layout ${index + 1}`),
      proof: proofs.find((p) => p.layout === index),
      steps: stepsOf(method)
        .filter((s) => s.layout === index)
        .map((s) => this.cardOf(method, s)),
    }));
  });
  protected readonly methods = computed(() => {
    const proofs = this.store.identity()?.layouts?.methods ?? [];
    return this.store.methods().map(({ name }, index) => ({ index, name, proof: proofs[index - 1] }));
  });
  protected readonly inHand = computed(() => this.methods()[this.store.inHand()]);

  constructor() {
    // The step that is shown is brought into sight, whichever way it was chosen.
    effect(() => {
      const index = this.tools.shown()?.index;
      if (index === undefined) return;
      setTimeout(() => this.host.nativeElement.querySelector('.step.shown')?.scrollIntoView({ block: 'nearest' }));
    });
    // So is the head of the layout on the board, when that changes.
    effect(() => {
      const layout = this.state.layout();
      if (untracked(this.state.step) !== null) return;
      setTimeout(() =>
        this.host.nativeElement.querySelectorAll('.layout')[layout]?.scrollIntoView({ block: 'nearest' }),
      );
    });
  }

  private cardOf(method: Method, { index, telling, stretch }: Step): StepCard {
    const composed = composeStep(method, index, WORKSHOP_WORDS).text;
    const text = telling.text ?? composed;
    return {
      index,
      lays: stretch !== undefined,
      drawing: drawStep(method, index),
      box: stepBox(method, index),
      composed,
      own: telling.text !== undefined,
      text,
      runs: runsOf(`${text} `, contradictionsOf(method, index, WORKSHOP_WORDS)),
    };
  }

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

  /** Names the method in hand; a name that cannot be used leaves the old one in the field. */
  protected nameMethod(field: HTMLInputElement): void {
    if (!this.state.doWhole({ kind: 'name-method', index: this.store.inHand(), name: field.value }))
      field.value = this.inHand()?.name ?? '';
  }

  protected removeMethod(index: number): void {
    if (this.state.doWhole({ kind: 'remove-method', index })) this.tools.takeMethod(0);
  }
}

interface StepCard {
  readonly index: number;
  readonly lays: boolean;
  readonly drawing: Drawing;
  readonly box: Box;
  readonly composed: string;
  readonly own: boolean;
  readonly text: string;
  readonly runs: readonly { readonly text: string; readonly wrong: boolean }[];
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
