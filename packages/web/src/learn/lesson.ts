/**
 * The lesson a learner gets, as its author sees it: the same page, with the same player.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  ViewEncapsulation,
} from '@angular/core';
import type { House, LessonTerm } from '@foxtrail/contract';
import {
  howToSet,
  mirroredSetting,
  sameSetting,
  methodsOf,
  PAPER_LOOK,
  stepsOf,
  type KnotDocument,
  type Step,
  type Vocabulary,
} from '@foxtrail/core';
import { FormingService } from '../data/forming';
import { HandPictures } from '../data/hand-pictures';
import { firstShown, lessonHtml, type LessonData, type Shown } from '@foxtrail/lesson';
import { playLesson } from '@foxtrail/lesson/player';
import { Theme } from '../data/theme';

@Component({
  selector: 'ft-lesson',
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [FormingService, HandPictures],
  encapsulation: ViewEncapsulation.None,
  template: '',
  styles: 'ft-lesson { display: block; }',
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
  private readonly theme = inject(Theme);
  private readonly page = inject<ElementRef<HTMLElement>>(ElementRef);

  private readonly data = computed<LessonData>(() => ({
    knot: this.knot(),
    house: this.house(),
    words: this.words(),
    terms: this.terms(),
    otherSchools: this.otherSchools(),
  }));
  /** What is shown; it begins anew with another hand or house. */
  private readonly shown = linkedSignal<Shown>(() => firstShown(this.data()), {
    equal: (a, b) => a.method === b.method && a.view === b.view,
  });
  /** What is set for the steps that finish the method shown; the left hand's is the mirror image. */
  private readonly toSet = computed(
    () => {
      const { method, view } = this.shown();
      const chosen = methodsOf(this.knot())[method]?.method;
      if (!chosen || stepsOf(chosen).every((s) => s.does === 'lay')) return undefined;
      const setting = howToSet(chosen);
      return view === 'left' ? mirroredSetting(setting) : setting;
    },
    { equal: sameSetting },
  );
  private readonly hand = inject(HandPictures);
  /** The step that is shown, for when the lesson is written anew. */
  private step = 0;

  constructor() {
    // Pictures lie on paper, whatever the theme.
    this.hand.follow(this.toSet, () => ({ name: this.knot().name, look: PAPER_LOOK, background: true }), 0);
    effect((clean) => {
      const [data, shown, look, inHand] = [this.data(), this.shown(), this.theme.look(), this.hand.pictures()];
      const page = this.page.nativeElement;
      const held = page.contains(document.activeElement);
      const finished = ({ does }: Step, { view }: Shown): string | undefined =>
        does === 'lay' ? undefined : inHand?.[view === 'back' && does === 'dress' ? 'back' : does];
      // Everything that the lesson puts into its markup as text is escaped by it.
      page.innerHTML = lessonHtml({ ...data, finished }, shown, look).text;
      const letGo = playLesson(page, {
        step: this.step,
        moved: (step) => (this.step = step),
        ask: (asked) => {
          if (asked.method !== shown.method) this.step = 0;
          this.shown.set(asked);
        },
      });
      if (held) page.querySelector<HTMLElement>('.player')?.focus({ preventScroll: true });
      clean(letGo);
    });
  }
}
