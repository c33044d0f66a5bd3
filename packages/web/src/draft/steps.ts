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
  remarkedTexts,
  stepBox,
  stepsOf,
  TEXT_LIMIT,
  type Box,
  type Drawing,
  type Method,
  type RemarkedText,
  type Step,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { ShelfFacts } from '../knot/shelf-facts';
import { CheckedText, type Underlined } from '../ui/checked-text';
import { FigureView } from '../ui/figure';
import { Remarks } from '../ui/remarks';
import { DraftState } from './draft-state';
import { Handling } from './handling';
import { StepPanel } from './step-panel';
import { StepTools } from './step-tools';

@Component({
  selector: 'ft-steps',
  imports: [
    CheckedText,
    FigureView,
    Remarks,
    StepPanel,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    MatTooltipModule,
  ],
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
                <button mat-menu-item type="button" (click)="state.do({ kind: 'first-method' }, { method: m.index })">
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
                (change)="state.do({ kind: 'name-layout', name: layoutName.value }, { layout: layout.index })"
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
                  (change)="state.do({ kind: 'state-passes', passes: passes.value }, { layout: layout.index })"
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
              <ft-checked-text
                [text]="step.text"
                [marks]="step.marks"
                [limit]="limit"
                [label]="'Text of step ' + (step.index + 1)"
                [readonly]="!store.mayWrite()"
                (focused)="tools.show(step.index)"
                (changed)="write(step.index, $event, step.composed)"
              />
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
            @if (step.remarked > 0) {
              @if (tools.shown()?.index === step.index) {
                @for (t of step.texts; track t.place) {
                  <ft-remarks
                    [remarks]="t.remarks"
                    [mayMend]="store.mayWrite()"
                    (mend)="store.reword(t, $event)"
                    (introduce)="store.introduce($event)"
                  />
                }
              } @else {
                <button type="button" class="remarked" (click)="tools.show(step.index)">
                  {{ step.remarked === 1 ? 'A word' : step.remarked + ' words' }} to look at
                </button>
              }
            }
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
        <button mat-stroked-button type="button" class="place" (click)="handling.placeHalt()">
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
          @if (!shelf.card()?.leftHandOf) {
            <button mat-menu-item type="button" (click)="tools.openLeftHanded()">
              {{ shelf.leftHanded() ? 'Its left-handed edition' : 'A left-handed edition, kept in step' }}
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
    ft-remarks,
    .remarked {
      grid-column: 1 / -1;
    }
    .remarked {
      min-height: 32px;
      padding: 2px 10px;
      border: 0;
      border-left: 4px solid var(--fox);
      background: var(--fox-wash);
      color: inherit;
      font: inherit;
      font-size: 14.5px;
      text-align: left;
      cursor: pointer;
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
  protected readonly handling = inject(Handling);
  protected readonly store = inject(BenchStore);
  private readonly insight = inject(Insight);
  protected readonly shelf = inject(ShelfFacts);
  protected readonly tools = inject(StepTools);
  protected readonly limit = TEXT_LIMIT;
  protected readonly nameLimit = NAME_LIMIT;
  protected readonly count = computed(() => this.tools.steps().length);
  /** The texts of each step of whose words something is to be said. */
  private readonly remarks = computed(() => {
    const knot = this.store.knot();
    const texts = knot ? remarkedTexts(knot, this.tools.method(), this.store.wordCheck()) : [];
    const byStep = new Map<number, RemarkedText[]>();
    for (const t of texts) {
      const step = t.at.kind === 'step' ? t.at.index : t.at.kind === 'callout' ? t.at.step : undefined;
      if (step !== undefined && t.remarks.length > 0) byStep.set(step, [...(byStep.get(step) ?? []), t]);
    }
    return byStep;
  });
  /** What is drawn and said of each step of the knot as it is: what is only shown on the board changes nothing here. */
  protected readonly layouts = computed(() => {
    const method = this.tools.method();
    const proofs = this.insight.identity()?.layouts?.relaid ?? [];
    const remarks = this.remarks();
    return layoutsOf(method).map((layout, index) => ({
      index,
      name: layout.name ?? (index === 0 ? 'Open' : `Layout ${index + 1}`),
      proof: proofs.find((p) => p.layout === index),
      steps: stepsOf(method)
        .filter((s) => s.layout === index)
        .map((s) => this.cardOf(method, s, remarks.get(s.index) ?? [])),
    }));
  });
  protected readonly methods = computed(() => {
    const proofs = this.insight.identity()?.layouts?.methods ?? [];
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

  private cardOf(method: Method, { index, telling, stretch }: Step, texts: readonly RemarkedText[]): StepCard {
    const remarks = texts.find((t) => t.at.kind === 'step')?.remarks ?? [];
    const composed = composeStep(method, index, this.store.vocabulary()).text;
    const text = telling.text ?? composed;
    return {
      index,
      lays: stretch !== undefined,
      drawing: drawStep(method, index),
      box: stepBox(method, index),
      composed,
      own: telling.text !== undefined,
      text,
      texts,
      remarked: texts.reduce((n, t) => n + t.remarks.length, 0),
      marks: [
        ...contradictionsOf(method, index, this.store.vocabulary()).map(({ from, to }) => ({ from, to, wrong: true })),
        ...remarks.map(({ from, to, kind }) => ({ from, to, wrong: kind === 'loop of the other hand' })),
      ],
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
    if (!this.state.do({ kind: 'name-method', name: field.value })) field.value = this.inHand()?.name ?? '';
  }

  protected removeMethod(index: number): void {
    if (this.state.do({ kind: 'remove-method' }, { method: index })) this.tools.takeMethod(0);
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
  readonly marks: readonly Underlined[];
  /** Its own texts of which something is to be said: what it says and what it calls out. */
  readonly texts: readonly RemarkedText[];
  readonly remarked: number;
}
