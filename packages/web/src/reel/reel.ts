/**
 * Reel: the demonstration, played from the steps or by a reel of it, composed, and exported with its captions.
 */
import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatSliderModule } from '@angular/material/slider';
import { RouterLink } from '@angular/router';
import { PACES, REELS, type Pace, type Point } from '@foxtrail/core';
import { REEL_KINDS, REEL_NAMES, type ReelKind } from '@foxtrail/core/reel';
import { FormingService } from '../data/forming';
import { BenchStore } from '../knot/bench-store';
import { ReelKinds } from '../ui/reel-kinds';
import { StepText } from '../ui/step-text';
import { ViewToggle } from '../ui/view-toggle';
import { FilmStep } from './film-step';
import { PaceMeter } from './pace-meter';
import { momentKey, paintMoment, trailSeen } from './paint';
import { ReelDesk } from './reel-desk';
import { ReelExport } from './reel-export';
import { ReelFilms } from './reel-films';
import { SceneCallouts } from './scene-callouts';
import { SceneEditor } from './scene-editor';
import { SceneVoice } from './scene-voice';
import { ReelTracks } from './tracks';

@Component({
  selector: 'ft-reel',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    FilmStep,
    PaceMeter,
    ReelExport,
    ReelKinds,
    ReelTracks,
    SceneCallouts,
    SceneEditor,
    SceneVoice,
    ViewToggle,
    MatIconModule,
    MatMenuModule,
    MatSliderModule,
    RouterLink,
    StepText,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [FormingService, ReelDesk, ReelFilms],
  templateUrl: './reel.html',
  styleUrl: './reel.scss',
  host: { '(document:keydown)': 'key($event)' },
})
export class ReelPage {
  protected readonly store = inject(BenchStore);
  readonly desk = inject(ReelDesk);
  private readonly films = inject(ReelFilms);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly paces = Object.keys(PACES) as Pace[];
  protected readonly reelKinds = REEL_KINDS;
  protected readonly mostReels = REELS.most;
  protected readonly longestName = REELS.name;
  protected readonly reelName = (kind: ReelKind): string => REEL_NAMES[kind];
  /** What the picture shows: while the rope rests it is not painted again. */
  private readonly shown = computed(() => momentKey(this.desk.scene(), this.desk.time()));
  private readonly fonts = signal(false);
  private frame = 0;

  constructor() {
    const { desk } = this;
    // After the page: a canvas that is given another size is empty.
    afterRenderEffect(() => {
      desk.size();
      this.fonts();
      this.shown();
      this.films.came();
      const element = this.canvas()?.nativeElement;
      const context = element?.getContext('2d');
      if (element && context) paintMoment(context, desk.scene(), untracked(desk.time), element.width, element.height);
    });
    // The caption font may come after the first frame.
    void document.fonts.ready.then(() => this.fonts.set(true));
    inject(DestroyRef).onDestroy(() => cancelAnimationFrame(this.frame));
  }

  protected toggle(): void {
    if (this.desk.playing()) {
      this.desk.playing.set(false);
      return;
    }
    if (this.desk.time() >= this.desk.timeline().duration - 0.05) this.desk.time.set(0);
    this.play();
  }

  private play(): void {
    cancelAnimationFrame(this.frame);
    this.desk.playing.set(true);
    let last = performance.now();
    const run = (now: number): void => {
      if (!this.desk.playing()) return;
      const time = this.desk.time() + (now - last) / 1000;
      last = now;
      if (time >= this.desk.until()) {
        this.desk.time.set(this.desk.until());
        this.desk.playing.set(false);
        return;
      }
      this.desk.time.set(time);
      this.frame = requestAnimationFrame(run);
    };
    this.frame = requestAnimationFrame(run);
  }

  /** A press in the picture puts what is being placed there. */
  protected press({ offsetX, offsetY, target }: MouseEvent): void {
    if (this.desk.placing() === undefined || !(target instanceof HTMLCanvasElement)) return;
    // The picture is as large as it fits into its element.
    const { width, height, clientWidth, clientHeight } = target;
    const scale = Math.min(clientWidth / width, clientHeight / height);
    const [left, top] = [(clientWidth - scale * width) / 2, (clientHeight - scale * height) / 2];
    const place: Point = [(offsetX - left) / scale, (offsetY - top) / scale];
    this.desk.placeAt(trailSeen(this.desk.scene(), this.desk.time(), place, { width, height }));
  }

  /** Somebody speaks over the scene that is shown: it is played to its end. */
  protected speak(begins: boolean): void {
    this.desk.speak(begins);
    if (begins) this.play();
    else this.desk.playing.set(false);
  }

  protected jump(by: 1 | -1): void {
    const chapters = this.desk.chapters();
    const at = this.desk.moment()?.part ?? 0;
    // Before the first step are the cautions.
    const first = chapters[0]?.start ?? 0;
    if (this.desk.time() < first || (by === -1 && at === 0 && this.desk.time() <= first + 0.7)) {
      this.desk.time.set(by === 1 ? first : 0);
      return;
    }
    // Going back within a step first returns to its beginning.
    const here = chapters[at];
    const next =
      by === -1 && here && this.desk.time() > here.start + 0.7
        ? here
        : chapters[Math.min(chapters.length - 1, Math.max(0, at + by))];
    if (next) this.desk.time.set(by === 1 && at === chapters.length - 1 ? this.desk.timeline().duration : next.start);
  }

  protected key(event: KeyboardEvent): void {
    const target = event.target instanceof Element ? event.target : undefined;
    const key = event.key.toLowerCase();
    // Where words are written, what is written is taken back.
    const writes = target?.matches('textarea, input:not([type=range], [type=checkbox])') === true;
    if ((event.ctrlKey || event.metaKey) && (key === 'z' || key === 'y') && !writes) {
      if (this.store.mayWrite()) this.desk.undo(key === 'z' && !event.shiftKey);
      event.preventDefault();
      return;
    }
    if (target?.matches('input, textarea, button, a') === true) return;
    if (event.key === ' ') this.toggle();
    else if (event.key === ',') this.jump(-1);
    else if (event.key === '.') this.jump(1);
    else return;
    event.preventDefault();
  }

  protected clock(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
  }
}
