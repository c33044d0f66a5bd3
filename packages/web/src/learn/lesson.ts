/**
 * The lesson a learner gets: cautions first, then the step player (front, back, left-handed; keys), then every step at a glance.
 */
import { ChangeDetectionStrategy, Component, computed, input, signal, viewChild, type ElementRef } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import type { House } from '@foxtrail/contract';
import {
  cautionsFor,
  classLabel,
  crossingsOf,
  drawFigure,
  drawStep,
  flipped,
  heartBox,
  methodInView,
  requiredTail,
  sayLength,
  stepText,
  VIEWS,
  wholeBox,
  WORKSHOP_WORDS,
  type KnotDocument,
  type View,
} from '@foxtrail/core';
import { ViewToggle } from '../ui/view-toggle';
import { FigureView } from '../ui/figure';
import { MarkedFigure } from '../ui/marked-figure';
import { StepText } from '../ui/step-text';
import { InspectionCard } from './inspection-card';

@Component({
  selector: 'ft-lesson',
  imports: [FigureView, MarkedFigure, InspectionCard, StepText, MatButtonModule, ViewToggle, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lesson.html',
  styleUrl: './lesson.scss',
})
export class Lesson {
  readonly knot = input.required<KnotDocument>();
  readonly house = input.required<House>();
  private readonly player = viewChild<ElementRef<HTMLElement>>('player');
  protected readonly className = computed(() => classLabel(this.knot().entry.class, this.house().classSchool));
  protected readonly view = signal<View>('front');
  protected readonly step = signal(0);
  protected readonly cautions = computed(() => cautionsFor(this.knot().entry.useGrade, this.knot().entry.cautions));
  protected readonly count = computed(() => this.knot().method.halts.length);
  protected readonly at = computed(() => Math.min(this.step(), Math.max(0, this.count() - 1)));
  protected readonly box = computed(() => wholeBox(methodInView(this.knot().method, this.view()).figure));
  /** The picture's shape; the page keeps it, up to a height. */
  protected readonly shape = computed(() => {
    const [l, t, r, b] = this.box();
    return (r - l) / (b - t);
  });
  protected readonly drawing = computed(() =>
    drawStep(this.knot().method, this.at(), { view: this.view(), ghost: true }),
  );
  protected readonly text = computed(() => stepText(this.knot().method, this.at(), WORKSHOP_WORDS));
  protected readonly viewName = computed(() => VIEWS.find((v) => v.view === this.view())?.name ?? '');
  /** Texts name sides as seen from the front only rarely; the composed ones never do, so they hold in every view. */
  protected readonly all = computed(() =>
    this.knot().method.halts.map((_, index) => ({
      index,
      drawing: drawStep(this.knot().method, index, { view: this.view() }),
      text: stepText(this.knot().method, index, WORKSHOP_WORDS),
    })),
  );
  /** Wrong ways the author shows: the figure with those crossings swapped, ringed. */
  protected readonly exhibits = computed(() => {
    const { figure } = this.knot().method;
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
  protected readonly tail = computed(() => {
    const cordMm = this.knot().entry.cord.diameterMm;
    return `Leave a tail of at least ${sayLength(requiredTail(this.house().tail, cordMm), cordMm)}${this.knot().entry.cord.name === '' ? '' : ` on the ${this.knot().entry.cord.name}`}.`;
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
