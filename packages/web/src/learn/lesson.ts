/**
 * The lesson a learner gets: cautions first, then the step player (front, back, left-handed; keys), then every step at a glance.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { House, LessonTerm } from '@foxtrail/contract';
import {
  cautionsFor,
  classLabel,
  crossingsOf,
  drawFigure,
  drawStep,
  finishedFigure,
  flipped,
  heartBox,
  leftHanded,
  methodsOf,
  pictureBox,
  behaviourOf,
  choiceOf,
  requiredTail,
  sayLength,
  tailRuleFor,
  stepsOf,
  stepText,
  viewOfStep,
  VIEWS,
  type KnotDocument,
  type NamedMethod,
  type View,
  type Vocabulary,
} from '@foxtrail/core';
import { BehaviourTable } from '../ui/behaviour-table';
import { ViewToggle } from '../ui/view-toggle';
import { FigureView } from '../ui/figure';
import { MarkedFigure } from '../ui/marked-figure';
import { StepText } from '../ui/step-text';
import { InspectionCard } from './inspection-card';
import { Terms } from './terms';

@Component({
  selector: 'ft-lesson',
  imports: [
    BehaviourTable,
    FigureView,
    MarkedFigure,
    InspectionCard,
    StepText,
    Terms,
    MatButtonModule,
    ViewToggle,
    MatIconModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lesson.html',
  styleUrl: './lesson.scss',
})
export class Lesson {
  readonly knot = input.required<KnotDocument>();
  readonly house = input.required<House>();
  /** The words it is written in. */
  readonly words = input.required<Vocabulary>();
  /** The words it explains before the first step. */
  readonly terms = input<readonly LessonTerm[]>([]);
  /** Where other schools do otherwise, in sentences. */
  readonly otherSchools = input<readonly string[]>([]);
  private readonly player = viewChild<ElementRef<HTMLElement>>('player');
  protected readonly className = computed(() => classLabel(this.knot().entry.class, this.house().classSchool));
  /** The hand that the house shows first; a drawing for the left hand is shown as it is. */
  protected readonly view = linkedSignal((): View =>
    choiceOf(this.house().practice, 'hand') === 'left' && this.knot().entry.hand !== 'left' ? 'left' : 'front',
  );
  protected readonly step = signal(0);
  protected readonly cautions = computed(() => cautionsFor(this.knot().entry.useGrade, this.knot().entry.cautions));
  /** The ways to tie it, and the one that is shown. */
  protected readonly methods = computed(() => methodsOf(this.knot()));
  protected readonly chosen = signal(0);
  protected readonly method = computed(
    () => (this.methods()[this.chosen()] ?? (this.methods()[0] as NamedMethod)).method,
  );
  private readonly steps = computed(() => stepsOf(this.method()));
  protected readonly count = computed(() => this.steps().length);
  protected readonly at = computed(() => Math.min(this.step(), Math.max(0, this.count() - 1)));
  protected readonly box = computed(() => pictureBox(this.method(), this.at(), this.view()));
  /** The shape of the tallest picture: the page keeps it from step to step, up to a height. */
  protected readonly shape = computed(() =>
    this.steps().reduce((least, s) => {
      const [l, t, r, b] = pictureBox(this.method(), s.index, this.view());
      return Math.min(least, (r - l) / (b - t));
    }, 4),
  );
  /** Height of the small pictures: a tall knot gets more of it. */
  protected readonly cell = computed(() => `${Math.round(Math.min(310, Math.max(170, 330 / this.shape())))}px`);
  /** The face that is seen, as far as it is not the one that the reader asked for. */
  protected readonly behind = computed(() => {
    const step = this.steps()[this.at()];
    return step ? ['back', 'left back'].includes(viewOfStep(step, this.view())) : this.view() === 'back';
  });
  protected readonly drawing = computed(() => drawStep(this.method(), this.at(), { view: this.view(), ghost: true }));
  protected readonly text = computed(() => this.textOf(this.at()));
  protected readonly viewName = computed(() => VIEWS.find((v) => v.view === this.view())?.name ?? '');
  protected readonly all = computed(() =>
    this.steps().map(({ index }) => ({
      index,
      drawing: drawStep(this.method(), index, { view: this.view() }),
      box: pictureBox(this.method(), index, this.view()),
      text: this.textOf(index),
    })),
  );
  /** Sides are exchanged for the left hand; from behind they are said as they are tied, from the front. */
  private textOf(index: number): string {
    return stepText(this.view() === 'left' ? leftHanded(this.method()) : this.method(), index, this.words());
  }

  protected takeMethod(index: number): void {
    this.chosen.set(index);
    this.step.set(0);
  }

  /** Wrong ways the author shows: the figure with those crossings swapped, ringed. */
  protected readonly exhibits = computed(() => {
    const figure = finishedFigure(this.knot().method);
    const count = crossingsOf(figure).length;
    return (this.knot().entry.exhibits ?? [])
      .filter((e) => e.crossings.every((c) => c <= count))
      .map((e) => {
        const wrong = flipped(figure, e.crossings);
        const marks = crossingsOf(wrong)
          .filter((c) => e.crossings.includes(c.number))
          .map((c) => ({ point: c.point, kind: 'ring' as const }));
        return { ...e, id: e.crossings.join('-'), drawing: drawFigure(wrong), box: heartBox(wrong), marks };
      });
  });
  /** What the drawing and its author say that it does; what others judged of the kind is not a lesson’s to tell. */
  protected readonly behaviour = computed(() => behaviourOf(this.knot()));
  protected readonly tail = computed(() => {
    const cordMm = this.knot().entry.cord.diameterMm;
    const { practice } = this.house();
    const rule = tailRuleFor(practice, this.knot().entry.useGrade);
    const unit = choiceOf(practice, 'units') === 'inches' ? 'inches' : 'millimetres';
    return `Leave a tail of at least ${sayLength(requiredTail(rule, cordMm), cordMm, unit)}${this.knot().entry.cord.name === '' ? '' : ` on the ${this.knot().entry.cord.name}`}.`;
  });

  protected go(by: 1 | -1): void {
    this.step.set(Math.min(this.count() - 1, Math.max(0, this.at() + by)));
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'ArrowRight' || event.key === '.') this.go(1);
    else if (event.key === 'ArrowLeft' || event.key === ',') this.go(-1);
    else if (event.key === 'Home') this.step.set(0);
    else if (event.key === 'End') this.step.set(this.count() - 1);
    else if (event.key.toLowerCase() === 'v') this.nextView();
    else return;
    event.preventDefault();
  }

  private nextView(): void {
    const i = VIEWS.findIndex((v) => v.view === this.view());
    this.view.set(VIEWS[(i + 1) % VIEWS.length]?.view ?? 'front');
  }

  protected show(index: number): void {
    this.step.set(index);
    this.player()?.nativeElement.focus();
    this.player()?.nativeElement.scrollIntoView({ block: 'nearest' });
  }
}
