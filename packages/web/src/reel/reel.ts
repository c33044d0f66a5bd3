/**
 * Reel: the demonstration, played from the steps at a chosen pace, and exported with its captions.
 */
import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSliderModule } from '@angular/material/slider';
import { RouterLink } from '@angular/router';
import {
  howToSet,
  sameSetting,
  knotByMethod,
  leftHanded,
  stepsOf,
  PACES,
  cautionsFor,
  numberOf,
  writeKnot,
  type Setting,
  type Pace,
  type View,
} from '@foxtrail/core';
import {
  chaptersOf,
  momentAt,
  paceOf,
  timelineOf,
  warnsAt,
  withCautions,
  tooQuick,
  toSubRip,
  toWebVtt,
  type Tightening,
} from '@foxtrail/core/reel';
import type { Subscription } from 'rxjs';
import { FormingService } from '../data/forming';
import { inWords } from '../data/problem';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { ReelKinds } from '../ui/reel-kinds';
import { ViewToggle } from '../ui/view-toggle';
import { StepText } from '../ui/step-text';
import { fileName, saveFile } from '../ui/save-file';
import { captionFontUrl, ExportService } from './export';
import { FilmStep, type FilmChange } from './film-step';
import { momentKey, paintMoment, type Scene } from './paint';
import { PaceMeter } from './pace-meter';
import { SHAPE_NAMES, SHAPES, sizeOf, type Shape } from './shape';
import { ReelTracks } from './tracks';

/** How the knot is in the scenes that finish it. */
type Hand =
  | { readonly kind: 'none' }
  | { readonly kind: 'setting' }
  | { readonly kind: 'set'; readonly way: Tightening }
  | { readonly kind: 'refused'; readonly reason: string };

const LINES = [720, 1080] as const;
const RATES = [25, 30, 60] as const;

interface Clip {
  readonly blob: Blob;
  readonly url: string;
  readonly duration: number;
  readonly frames: number;
  readonly seconds: number;
  readonly pace: Pace;
  readonly view: View;
  /** Index of the method that it shows. */
  readonly method: number;
}

type ExportState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'running'; readonly done: number; readonly total: number }
  | { readonly kind: 'failed'; readonly reason: string }
  | { readonly kind: 'cancelled' };

@Component({
  selector: 'ft-reel',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    FilmStep,
    PaceMeter,
    ReelKinds,
    ReelTracks,
    ViewToggle,
    MatIconModule,
    MatProgressBarModule,
    MatSliderModule,
    RouterLink,
    StepText,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [FormingService],
  templateUrl: './reel.html',
  styleUrl: './reel.scss',
  host: { '(document:keydown)': 'key($event)' },
})
export class ReelPage {
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  private readonly exporter = inject(ExportService);
  private readonly theme = inject(Theme);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly paces = Object.keys(PACES) as Pace[];
  protected readonly pace = signal<Pace>('normal');
  protected readonly view = signal<View>('front');
  protected readonly shapes = SHAPE_NAMES;
  protected readonly shape = signal<Shape>('wide');
  protected readonly shapeName = (shape: Shape): string => SHAPES[shape].name;
  protected readonly allLines = LINES;
  protected readonly lines = signal<(typeof LINES)[number]>(720);
  protected readonly rates = RATES;
  protected readonly rate = signal<(typeof RATES)[number]>(30);
  protected readonly size = computed(() => sizeOf(this.shape(), this.lines()));
  readonly time = signal(0);
  protected readonly playing = signal(false);
  protected readonly exporting = signal<ExportState>({ kind: 'idle' });
  protected readonly clip = signal<Clip | undefined>(undefined);
  protected readonly kept = signal<string | undefined>(undefined);
  private running: Subscription | undefined;
  private frame = 0;

  private readonly method = computed(
    () => this.store.method() ?? { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
  );
  private readonly cautions = computed(() => {
    const entry = this.store.knot()?.entry;
    return entry ? cautionsFor(entry.useGrade, entry.cautions) : [];
  });
  /** What is read before the first step, while it is shown. */
  protected readonly warning = computed(() =>
    warnsAt(this.timeline(), this.time()) ? (this.timeline().cautions?.lines ?? []).join(' ') : undefined,
  );
  /** For the left hand the captions are said for it too. */
  readonly timeline = computed(() =>
    withCautions(
      timelineOf(
        this.view() === 'left' ? leftHanded(this.method()) : this.method(),
        this.pace(),
        this.store.vocabulary(),
      ),
      this.cautions(),
    ),
  );
  /** The steps in time. */
  protected readonly chapters = computed(() => chaptersOf(this.timeline()));
  protected readonly perLine = computed(() => numberOf(this.store.practice(), 'caption-line'));
  protected readonly limits = computed(() => ({
    reading: numberOf(this.store.practice(), 'caption-speed'),
    crossings: numberOf(this.store.practice(), 'film-pace'),
  }));
  protected readonly quick = computed(() => tooQuick(this.method(), this.timeline(), this.limits()));
  protected readonly paced = computed(() => paceOf(this.method(), this.timeline()));
  /** The step that is shown. */
  protected readonly step = computed(() => stepsOf(this.method())[this.moment()?.step ?? 0]);
  protected readonly forming = inject(FormingService);
  /** What is set for the scenes that finish the knot. */
  private readonly toSet = computed(
    () => (stepsOf(this.method()).some((s) => s.does !== 'lay') ? howToSet(this.method()) : undefined),
    { equal: sameSetting },
  );
  protected readonly hand = signal<Hand>({ kind: 'none' });
  protected readonly moment = computed(() => momentAt(this.method(), this.timeline(), this.time()));
  private readonly scene = computed<Scene>(() => ({
    method: this.method(),
    timeline: this.timeline(),
    view: this.view(),
    look: this.theme.look(),
    title: this.store.knot()?.name ?? '',
    way: this.way(),
  }));
  /** What the picture shows: while the rope rests it is not painted again. */
  private readonly shown = computed(() => momentKey(this.scene(), this.time()));
  private readonly fonts = signal(false);
  private readonly way = computed(() => {
    const hand = this.hand();
    return hand.kind === 'set' ? hand.way : undefined;
  });

  constructor() {
    // After the page: a canvas that is given another size is empty.
    afterRenderEffect(() => {
      this.size();
      this.fonts();
      this.shown();
      const element = this.canvas()?.nativeElement;
      const context = element?.getContext('2d');
      if (element && context) paintMoment(context, this.scene(), untracked(this.time), element.width, element.height);
    });
    effect(() => {
      const setting = this.toSet();
      untracked(() => void this.setInHand(setting));
    });
    // The caption font may come after the first frame.
    void document.fonts.ready.then(() => this.fonts.set(true));
    inject(DestroyRef).onDestroy(() => {
      cancelAnimationFrame(this.frame);
      this.running?.unsubscribe();
      this.release();
    });
  }

  private async setInHand(setting: Setting | undefined): Promise<void> {
    this.hand.set({ kind: setting ? 'setting' : 'none' });
    if (!setting) return;
    const done = await this.forming.watch(setting);
    if (!done || this.toSet() !== setting) return;
    this.hand.set(
      done.ok ? { kind: 'set', way: done.value } : { kind: 'refused', reason: `${done.reason} ${done.remedy}` },
    );
  }

  protected toggle(): void {
    if (this.playing()) {
      this.playing.set(false);
      return;
    }
    if (this.time() >= this.timeline().duration - 0.05) this.time.set(0);
    this.playing.set(true);
    let last = performance.now();
    const run = (now: number): void => {
      if (!this.playing()) return;
      const time = this.time() + (now - last) / 1000;
      last = now;
      if (time >= this.timeline().duration) {
        this.time.set(this.timeline().duration);
        this.playing.set(false);
        return;
      }
      this.time.set(time);
      this.frame = requestAnimationFrame(run);
    };
    this.frame = requestAnimationFrame(run);
  }

  protected jump(by: 1 | -1): void {
    const chapters = this.chapters();
    const step = this.moment()?.step ?? 0;
    const at = Math.max(
      0,
      chapters.findIndex((c) => c.step === step),
    );
    // Before the first step are the cautions.
    const first = chapters[0]?.start ?? 0;
    if (this.time() < first || (by === -1 && at === 0 && this.time() <= first + 0.7)) {
      this.time.set(by === 1 ? first : 0);
      return;
    }
    // Going back within a step first returns to its beginning.
    const here = chapters[at];
    const next =
      by === -1 && here && this.time() > here.start + 0.7
        ? here
        : chapters[Math.min(chapters.length - 1, Math.max(0, at + by))];
    if (next) this.time.set(by === 1 && at === chapters.length - 1 ? this.timeline().duration : next.start);
  }

  /** Changes the pace and stays at the same place within the same step. */
  setPace(pace: Pace): void {
    const place = this.shareOf(this.moment()?.step ?? 0);
    this.pace.set(pace);
    this.goBack(place);
  }

  /** A place within a step, as a share of it. */
  private shareOf(step: number): { readonly step: number; readonly share: number } {
    const chapter = this.chapters().find((c) => c.step === step);
    return { step, share: chapter ? (this.time() - chapter.start) / (chapter.end - chapter.start) : 0 };
  }

  private goBack({ step, share }: { readonly step: number; readonly share: number }): void {
    const chapter = this.chapters().find((c) => c.step === step);
    if (chapter) this.time.set(Math.max(0, chapter.start + share * (chapter.end - chapter.start)));
  }

  /** Films a step otherwise; the place within it stays. */
  protected film({ step: index, filmed }: FilmChange): void {
    const step = stepsOf(this.method())[index];
    if (!step) return;
    const share = this.shareOf(this.moment()?.step ?? 0);
    this.store.edit(
      { kind: 'tell', index: step.place, telling: { filmed } },
      { layout: step.layout, group: `film-${index}` },
    );
    this.goBack(share);
  }

  protected key(event: KeyboardEvent): void {
    if (event.target instanceof Element && event.target.matches('input, textarea, button, a')) return;
    if (event.key === ' ') this.toggle();
    else if (event.key === ',') this.jump(-1);
    else if (event.key === '.') this.jump(1);
    else return;
    event.preventDefault();
  }

  protected clock(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
  }

  protected export(): void {
    const knot = this.store.knot();
    if (!knot) return;
    this.playing.set(false);
    this.release();
    const [pace, view, method] = [this.pace(), this.view(), this.store.inHand()];
    this.exporting.set({ kind: 'running', done: 0, total: 1 });
    this.running = this.exporter
      .run({
        document: writeKnot(knotByMethod(knot, method)),
        pace,
        view,
        ...this.size(),
        rate: this.rate(),
        fontUrl: captionFontUrl(),
        words: this.store.vocabulary(),
        way: this.way(),
      })
      .subscribe((r) => {
        if (r.kind === 'progress') this.exporting.set({ kind: 'running', done: r.done, total: r.total });
        else if (r.kind === 'failed') this.exporting.set(r);
        else {
          const blob = new Blob([r.bytes], { type: 'video/webm' });
          this.clip.set({
            blob,
            url: URL.createObjectURL(blob),
            duration: r.duration,
            frames: r.frames,
            seconds: r.seconds,
            pace,
            view,
            method,
          });
          this.exporting.set({ kind: 'idle' });
        }
      });
  }

  protected cancel(): void {
    this.running?.unsubscribe();
    this.exporting.set({ kind: 'cancelled' });
  }

  private release(): void {
    const clip = this.clip();
    if (clip) URL.revokeObjectURL(clip.url);
    this.clip.set(undefined);
    this.kept.set(undefined);
  }

  protected saveClip(): void {
    const clip = this.clip();
    if (clip) saveFile(clip.blob, `${fileName(this.store.knot()?.name ?? 'knot')}.webm`);
  }

  protected saveCaptions(kind: 'vtt' | 'srt'): void {
    const name = this.store.knot()?.name ?? 'knot';
    const [text, type] =
      kind === 'vtt'
        ? [toWebVtt(this.timeline(), name, this.perLine()), 'text/vtt']
        : [toSubRip(this.timeline(), this.perLine()), 'application/x-subrip'];
    saveFile(new Blob([text], { type }), `${fileName(name)}.${kind}`);
  }

  protected keep(): void {
    const clip = this.clip();
    if (!clip) return;
    this.kept.set('Being stored …');
    this.shelf.keepClip(clip.blob, clip).then(
      () => this.kept.set('Kept with the sheet.'),
      (error: unknown) => this.kept.set(inWords(error)),
    );
  }
}
