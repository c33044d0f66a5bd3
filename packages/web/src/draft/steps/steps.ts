/**
 * The step column: each step's picture and text. The text is the composed one until the author writes their own.
 */
import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import {
  composeStep,
  drawStep,
  howToSet,
  sameSetting,
  layoutsOf,
  remarkedTexts,
  stepBox,
  stepsOf,
  type Method,
  type RemarkedText,
  type Step,
} from '@foxtrail/core';
import { saidWrongly } from '@foxtrail/core/told';
import { FormingService } from '../../data/forming';
import { HandPictures } from '../../data/hand-pictures';
import { Theme } from '../../data/theme';
import { BenchStore } from '../../knot/bench-store';
import { Insight } from '../../knot/insight';
import { ShelfFacts } from '../../knot/shelf-facts';
import { tabId } from '../../ui/tab-list';
import { DraftState } from '../draft-state';
import { Handling } from '../handling';
import { LayoutHead } from './layout-head';
import { MethodHead } from './method-head';
import { StepCard, type StepShown } from './step-card';
import { StepTools } from './step-tools';

/** Pause in drawing after which the knot is set for the steps that finish it, in milliseconds. */
const SETTING_PAUSE = 1500;

@Component({
  selector: 'ft-steps',
  imports: [LayoutHead, MethodHead, StepCard, MatButtonModule, MatIconModule, MatMenuModule],
  providers: [FormingService, HandPictures],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.methods().length > 1) {
      <ft-method-head panel="method-in-hand" />
    }
    <div
      id="method-in-hand"
      [attr.role]="store.methods().length > 1 ? 'tabpanel' : null"
      [attr.aria-labelledby]="store.methods().length > 1 ? tabId('method-in-hand', store.inHand()) : null"
    >
      <ol>
        @for (layout of layouts(); track layout.index) {
          @if (layouts().length > 1) {
            <li class="layout"><ft-layout-head [layout]="layout" /></li>
          }
          @for (step of layout.steps; track step.index) {
            <li><ft-step-card [step]="step" /></li>
          }
        }
        @if (count() === 0) {
          <li class="none">
            <h2>No steps yet</h2>
            <p>
              Lay the rope as far as the first move goes, then press <span class="key">H</span>: a halt is placed, and a
              step with its picture and text comes out.
            </p>
            @if (store.mayWrite() && tools.hasLaid()) {
              <button mat-stroked-button type="button" class="propose" (click)="tools.proposeHalts()">
                <mat-icon svgIcon="flag" />A step for each move
              </button>
            }
          </li>
        }
      </ol>
    </div>
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
          <button mat-menu-item type="button" (click)="tools.proposeHalts()">A step for each move not told yet</button>
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
    .none {
      padding: 16px 18px;
      border: 1px solid var(--line);
      border-radius: var(--radius);
      background: var(--card);
    }
    .none p {
      margin: 6px 0 0;
    }
    .none .propose {
      margin-top: 12px;
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
  protected readonly tabId = tabId;
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
  private readonly hand = inject(HandPictures);
  private readonly theme = inject(Theme);
  /** What is set for the steps that finish the knot. */
  private readonly toSet = computed(
    () => {
      const method = this.tools.method();
      return stepsOf(method).some((s) => s.does !== 'lay') ? howToSet(method) : undefined;
    },
    { equal: sameSetting },
  );

  constructor() {
    this.hand.follow(
      this.toSet,
      () => ({ name: this.store.knot()?.name ?? '', look: this.theme.look(), background: false }),
      SETTING_PAUSE,
    );
    // The step that is shown is brought into sight, whichever way it was chosen.
    effect(() => {
      const index = this.tools.shown()?.index;
      if (index === undefined) return;
      setTimeout(() => this.intoSight(this.host.nativeElement.querySelector('ft-step-card.shown')));
    });
    // So is the head of the layout on the board, when that changes.
    effect(() => {
      const layout = this.state.layout();
      if (untracked(this.state.step) !== null) return;
      setTimeout(() => this.intoSight(this.host.nativeElement.querySelectorAll('.layout')[layout]));
    });
  }

  /** Within the column where it scrolls by itself; where the whole page does, the board stays before the eye. */
  private intoSight(element: Element | null | undefined): void {
    const column = this.host.nativeElement.parentElement;
    if (column && getComputedStyle(column).overflowY !== 'visible') element?.scrollIntoView({ block: 'nearest' });
  }

  private cardOf(method: Method, { index, telling, stretch, does }: Step, texts: readonly RemarkedText[]): StepShown {
    const remarks = texts.find((t) => t.at.kind === 'step')?.remarks ?? [];
    const composed = composeStep(method, index, this.store.vocabulary()).text;
    const text = telling.text ?? composed;
    return {
      index,
      lays: stretch !== undefined,
      // Too small for words: they stand beside it.
      drawing: drawStep(method, index, { noteSize: 0 }),
      box: stepBox(method, index),
      formed: does === 'lay' ? undefined : this.hand.pictures()?.[does],
      composed,
      own: telling.text !== undefined,
      text,
      texts,
      remarked: texts.reduce((n, t) => n + t.remarks.length, 0),
      marks: [
        ...saidWrongly(method, index, this.store.vocabulary()).map(({ from, to }) => ({ from, to, wrong: true })),
        ...remarks.map(({ from, to, kind }) => ({ from, to, wrong: kind === 'loop of the other hand' })),
      ],
    };
  }
}
