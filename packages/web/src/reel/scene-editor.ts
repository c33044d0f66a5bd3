/**
 * The scene of a reel that is shown: how quickly, how long, with what words; and a scene put in after it.
 */
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { MatSliderModule } from '@angular/material/slider';
import {
  FILM_SPEEDS,
  LONGEST_HOLD,
  mended,
  REELS,
  type Contradiction,
  type Filmed,
  type ReelScene,
} from '@foxtrail/core';
import { playedOf, type Footage } from '@foxtrail/core/footage';
import { sayOutOfSight, sayTooQuick, type OutOfSight, type TooQuick } from '@foxtrail/core/reel';

/** What may be put in after a scene. */
export interface Insertion {
  readonly name: string;
  readonly scene: ReelScene;
}

type FilmScene = Extract<ReelScene, { kind: 'film' }>;

/** Fields of scenes that hold words or seconds, as they are written. */
type Words = 'title' | 'text';

/** What is said where the author says nothing else. */
const USUAL = {
  step: 'What the step says',
  wrong: 'What it becomes, and how to tell',
  look: 'Which side it is',
  tail: 'How long the house wants it',
  film: 'What is said in the film',
} as const;

const NAMES: Readonly<Record<ReelScene['kind'], string>> = {
  step: 'Step',
  look: 'A look at the knot',
  wrong: 'A wrong way',
  card: 'A card',
  tail: 'The tail measured',
  film: 'A stretch of film',
};

@Component({
  selector: 'ft-scene-editor',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    MatSlideToggleModule,
    MatSliderModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './scene-editor.html',
  styleUrl: './scene-editor.scss',
})
export class SceneEditor {
  readonly scene = input.required<ReelScene>();
  /** How the step that it shows is filmed, where the scene says nothing else. */
  readonly filmed = input<Filmed>({});
  readonly place = input.required<number>();
  readonly count = input.required<number>();
  /** How long it lasts by now, in seconds. */
  readonly lasts = input.required<number>();
  /** What the wrong ways become that learners are shown. */
  readonly wrongWays = input.required<readonly string[]>();
  /** Indices of the steps of the method. */
  readonly steps = input.required<readonly number[]>();
  /** The films of the method. */
  readonly films = input.required<readonly Footage[]>();
  readonly insertions = input.required<readonly Insertion[]>();
  /** What its words say that its picture does not show. */
  readonly untrue = input<readonly Contradiction[]>([]);
  readonly quick = input.required<readonly TooQuick[]>();
  /** The crossings of all scenes that are not seen when they matter. */
  readonly unseen = input<readonly OutOfSight[]>([]);
  /** Why it was not cut in two where it is shown, where that was asked. */
  readonly notCut = input<string>();
  readonly mayWrite = input.required<boolean>();
  readonly changed = output<ReelScene>();
  readonly lasting = output<number>();
  readonly put = output<ReelScene>();
  readonly moved = output<1 | -1>();
  readonly repeat = output();
  readonly cutHere = output();
  /** The whole figure is to be shown in its step. */
  readonly whole = output();
  /** A time of the demonstration, in seconds. */
  readonly goTo = output<number>();
  readonly remove = output();

  protected readonly speeds = FILM_SPEEDS;
  protected readonly limits = REELS;
  protected readonly usual = USUAL;
  protected readonly longest = LONGEST_HOLD;
  protected readonly heading = computed(() => {
    const scene = this.scene();
    if (scene.kind !== 'step') return NAMES[scene.kind];
    const [from, to] = scene.part ?? [0, 1];
    const part = scene.part ? `, ${Math.round(100 * from)}–${Math.round(100 * to)} %` : '';
    return `Step ${scene.step + 1}${part}`;
  });
  protected readonly sayTooQuick = sayTooQuick;
  protected readonly sayOutOfSight = sayOutOfSight;
  protected readonly hidden = computed(() => this.unseen().filter((u) => u.part === this.place()));
  protected readonly own = computed(() => this.quick().filter((q) => q.part === this.place()));

  protected change(some: Partial<ReelScene>): void {
    const all: Record<string, unknown> = { ...this.scene(), ...some };
    this.changed.emit(
      Object.fromEntries(Object.entries(all).filter(([, v]) => v !== undefined)) as unknown as ReelScene,
    );
  }

  protected filmOf(hash: string): Footage | undefined {
    return this.films().find((f) => f.film === hash);
  }

  /** A stretch has its least length; the end that is not moved stays. */
  protected stretch(scene: FilmScene, moved: { readonly from: number } | { readonly to: number }): void {
    const least = REELS.shortest;
    const tenth = (v: number): number => Math.round(v * 10) / 10;
    if ('from' in moved) this.change({ from: tenth(Math.max(0, Math.min(moved.from, scene.to - least))) });
    else this.change({ to: tenth(Math.max(moved.to, scene.from + least)) });
  }

  /** All that is played of another film. */
  protected takeFilm(hash: string): void {
    const film = this.filmOf(hash);
    if (!film) return;
    const [from, to] = playedOf(film);
    this.change({ film: hash, from, to });
  }

  protected write(field: Words, words: string): void {
    const scene = this.scene();
    const said = words.trim();
    // A card that says nothing is none; a look without words of its own has the usual ones.
    if (scene.kind === 'card' && field === 'text' && said === '') return;
    this.change({ [field]: said === '' ? undefined : said });
  }

  protected readonly putRight = mended;

  protected putIn(scene: ReelScene): void {
    const { pass } = this.scene();
    this.put.emit(pass === undefined ? scene : { ...scene, pass });
  }
}
