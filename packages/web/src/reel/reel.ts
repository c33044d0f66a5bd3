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
import { MatMenuModule } from '@angular/material/menu';
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
  REELS,
  shownExhibits,
  finishedLayout,
  writeKnot,
  type Reel,
  type ReelScene,
  type Setting,
  type Pace,
  type View,
} from '@foxtrail/core';
import {
  chaptersOf,
  composeReel,
  demonstration,
  lastingFor,
  momentAt,
  paceOf,
  REEL_KINDS,
  REEL_NAMES,
  warnsAt,
  withMoved,
  withScene,
  tooQuick,
  toSubRip,
  toWebVtt,
  type Demonstrated,
  type ReelKind,
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
import { SceneEditor, type Insertion } from './scene-editor';
import { SHAPE_NAMES, SHAPES, sizeOf, type Shape } from './shape';
import { ReelTracks, type SceneMove, type SceneTrim } from './tracks';

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
  /** Index of the method that it shows, and of its reel, if it is one. */
  readonly method: number;
  readonly reel: number | undefined;
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
    SceneEditor,
    ViewToggle,
    MatIconModule,
    MatMenuModule,
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
  private readonly ownShape = signal<Shape>('wide');
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
  protected readonly reelKinds = REEL_KINDS;
  protected readonly mostReels = REELS.most;
  protected readonly longestName = REELS.name;
  protected readonly reelName = (kind: ReelKind): string => REEL_NAMES[kind];
  protected readonly reels = computed(() => this.method().reels ?? []);
  /** Which reel is on the desk; none: the steps as they are tied. */
  protected readonly reelAt = signal<number | undefined>(undefined);
  protected readonly reel = computed(() => this.reels()[this.reelAt() ?? -1]);
  protected readonly shape = computed((): Shape => (this.reel() ? (this.reel()?.shape ?? 'wide') : this.ownShape()));
  /** For the left hand the captions are said for it too. */
  private readonly shownMethod = computed(() => (this.view() === 'left' ? leftHanded(this.method()) : this.method()));
  private readonly demonstrated = computed((): Demonstrated => {
    return {
      method: this.shownMethod(),
      name: this.store.knot()?.name ?? '',
      words: this.store.vocabulary(),
      pace: this.pace(),
      cautions: this.cautions(),
      reel: this.reel() ? this.reelAt() : undefined,
    };
  });
  readonly timeline = computed(() => demonstration(this.demonstrated()));
  /** The scene of the reel that is shown, and how long it lasts. */
  protected readonly sceneAt = computed(() => this.moment()?.part ?? 0);
  protected readonly sceneShown = computed(() => this.reel()?.scenes[this.sceneAt()]);
  protected readonly lasts = computed(() => {
    const chapter = this.chapters()[this.sceneAt()];
    return chapter ? chapter.end - chapter.start : 0;
  });
  protected readonly wrongWays = computed(() =>
    shownExhibits(finishedLayout(this.method()), this.store.knot()?.name ?? '', this.store.vocabulary()).map(
      (e) => e.becomes,
    ),
  );
  /** What may be put in after the scene that is shown. */
  protected readonly insertions = computed((): readonly Insertion[] => {
    const shown = this.sceneShown();
    return [
      ...(shown?.kind === 'step'
        ? [{ name: 'This step again, slower', scene: { ...shown, speed: Math.max(0.25, (shown.speed ?? 1) / 2) } }]
        : []),
      { name: 'The knot from the front', scene: { kind: 'look', side: 'front' } },
      { name: 'The knot from behind', scene: { kind: 'look', side: 'back' } },
      { name: 'A card', scene: { kind: 'card', text: 'What to look for' } },
      ...this.wrongWays().map((becomes, exhibit): Insertion => ({
        name: `Wrong: ${becomes}`,
        scene: { kind: 'wrong', exhibit },
      })),
      ...stepsOf(this.method()).map(({ index }): Insertion => ({
        name: `Step ${index + 1}`,
        scene: { kind: 'step', step: index },
      })),
    ];
  });
  /** The steps in time. */
  protected readonly chapters = computed(() => chaptersOf(this.timeline()));
  protected readonly perLine = computed(() => numberOf(this.store.practice(), 'caption-line'));
  protected readonly limits = computed(() => ({
    reading: numberOf(this.store.practice(), 'caption-speed'),
    crossings: numberOf(this.store.practice(), 'film-pace'),
  }));
  protected readonly quick = computed(() =>
    tooQuick(this.method(), this.timeline(), this.limits(), ({ part }) => {
      const scene = this.reel()?.scenes[part];
      return scene?.kind === 'step' && (scene.speed ?? scene.hold) !== undefined ? scene : undefined;
    }),
  );
  protected readonly paced = computed(() => paceOf(this.method(), this.timeline()));
  /** The step that is shown. */
  protected readonly step = computed(() => stepsOf(this.method())[this.moment()?.step ?? 0]);
  protected readonly forming = inject(FormingService);
  /** What is set for the scenes that finish the knot. */
  private readonly toSet = computed(
    () =>
      stepsOf(this.method()).some((s) => s.does !== 'lay') ||
      this.reel()?.scenes.some((s) => s.kind === 'look') === true
        ? howToSet(this.method())
        : undefined,
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
    words: this.store.vocabulary(),
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
    const at = this.moment()?.part ?? 0;
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
    this.staying(() => this.pace.set(pace));
  }

  /** Does something to the demonstration; what is shown stays the same share of its passage, or of the one that is named. */
  private staying(work: () => void, part = this.moment()?.part ?? 0): void {
    const before = this.chapters()[this.moment()?.part ?? 0];
    const share = before ? (this.time() - before.start) / (before.end - before.start) : 0;
    work();
    const chapter = this.chapters()[Math.min(part, this.chapters().length - 1)];
    if (chapter) this.time.set(Math.max(0, chapter.start + Math.min(0.99, share) * (chapter.end - chapter.start)));
  }

  /** Takes a reel to the desk, or the steps as they are tied. */
  protected take(reel: number | undefined): void {
    this.playing.set(false);
    this.reelAt.set(reel);
    this.time.set(0);
  }

  /** A first reel of its kind, composed from the method. */
  protected compose(kind: ReelKind): void {
    const knot = this.store.knot();
    if (!knot) return;
    const lead = this.timeline().cautions?.end ?? 0;
    const { reel: _none, ...of } = this.demonstrated();
    const made = composeReel({ ...of, method: this.method() }, kind, knot.entry.summary, lead);
    const names = new Set(this.reels().map((r) => r.name));
    let name = made.name;
    for (let n = 2; names.has(name); n += 1) name = `${made.name} ${n}`;
    const done = this.store.edit({ kind: 'set-reels', reels: [...this.reels(), { ...made, name }] });
    if (done.ok) this.take(this.reels().length - 1);
  }

  protected rename(name: string): void {
    const reel = this.reel();
    if (reel && name.trim() !== '') this.change({ ...reel, name: name.trim() });
  }

  protected dropReel(): void {
    const gone = this.reel();
    this.take(undefined);
    this.store.edit({ kind: 'set-reels', reels: this.reels().filter((r) => r !== gone) });
  }

  /** The reel on the desk otherwise; changes of a group that follow one another are undone as one. */
  private change(reel: Reel, group?: string): void {
    const before = this.reel();
    this.store.edit(
      { kind: 'set-reels', reels: this.reels().map((r) => (r === before ? reel : r)) },
      group === undefined ? {} : { group },
    );
  }

  protected changeScene(scene: ReelScene): void {
    const [reel, at] = [this.reel(), this.sceneAt()];
    if (reel) this.staying(() => this.change(withScene(reel, at, scene), `scene-${at}`));
  }

  protected lastScene({ part, seconds }: SceneTrim): void {
    const reel = this.reel();
    const scene = reel?.scenes[part];
    if (!reel || !scene) return;
    const lasting = lastingFor(this.method(), this.timeline(), part, scene, seconds);
    this.staying(() => this.change(withScene(reel, part, lasting), `scene-${part}`), part);
  }

  protected moveScene({ from, to }: SceneMove): void {
    const reel = this.reel();
    if (reel && to >= 0 && to < reel.scenes.length) this.staying(() => this.change(withMoved(reel, from, to)), to);
  }

  protected putScene(scene: ReelScene): void {
    const [reel, at] = [this.reel(), this.sceneAt()];
    const here = reel?.scenes[at];
    if (!reel || !here) return;
    this.change(withScene(reel, at, here, scene));
    const chapter = this.chapters()[at + 1];
    if (chapter) this.time.set(chapter.start);
  }

  protected repeatScene(at: number): void {
    const scene = this.reel()?.scenes[at];
    const reel = this.reel();
    if (reel && scene) this.staying(() => this.change(withScene(reel, at, scene, scene)), at + 1);
  }

  protected removeScene(at: number): void {
    const reel = this.reel();
    if (reel && reel.scenes.length > 1) this.staying(() => this.change(withScene(reel, at, undefined)), at);
  }

  protected setShape(shape: Shape): void {
    const reel = this.reel();
    if (reel) this.change({ ...reel, shape });
    else this.ownShape.set(shape);
  }

  /** Films a step otherwise; the place within it stays. */
  protected film({ step: index, filmed }: FilmChange): void {
    const step = stepsOf(this.method())[index];
    if (!step) return;
    this.staying(() =>
      this.store.edit(
        { kind: 'tell', index: step.place, telling: { filmed } },
        { layout: step.layout, group: `film-${index}` },
      ),
    );
  }

  /** Takes back the last change of the knot, or does it again; the place stays. */
  protected undo(back: boolean): void {
    this.staying(() => (back ? this.store.undo() : this.store.redo()));
  }

  protected key(event: KeyboardEvent): void {
    const target = event.target instanceof Element ? event.target : undefined;
    const key = event.key.toLowerCase();
    // Where words are written, what is written is taken back.
    const writes = target?.matches('textarea, input:not([type=range], [type=checkbox])') === true;
    if ((event.ctrlKey || event.metaKey) && (key === 'z' || key === 'y') && !writes) {
      if (this.store.mayWrite()) this.undo(key === 'z' && !event.shiftKey);
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

  protected export(): void {
    const knot = this.store.knot();
    if (!knot) return;
    this.playing.set(false);
    this.release();
    const [pace, view, method] = [this.pace(), this.view(), this.store.inHand()];
    const reel = this.reel() ? this.reelAt() : undefined;
    this.exporting.set({ kind: 'running', done: 0, total: 1 });
    this.running = this.exporter
      .run({
        document: writeKnot(knotByMethod(knot, method)),
        reel,
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
            reel,
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
    this.shelf.keepClip(clip.blob, { ...clip, reel: clip.reel ?? null }).then(
      () => this.kept.set('Kept with the sheet.'),
      (error: unknown) => this.kept.set(inWords(error)),
    );
  }
}
