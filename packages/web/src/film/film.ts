/**
 * Film: real footage of the knot being tied, held against its figure. Crossings are marked in a frame, and what the marks say is told at
 * once: seen from which side, mirrored or not, at which crossing it is another knot, and which mark would decide.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { addressOf, FILM_ROUTES } from '@foxtrail/contract';
import {
  atLength,
  crossingAt,
  crossingsOf,
  curveOf,
  drawFigure,
  drawStep,
  EMPTY_FIGURE,
  finishedLayout,
  heartBox,
  hostOf,
  layoutsOf,
  lengthTo,
  numberOf,
  wordedOf,
  nearBox,
  pathData,
  pointAt,
  ropeOf,
  stepsOf,
  stepText,
  stretch,
  toSvg,
  type Figure,
  type LessonCheck,
  type Point,
  type TrailPosition,
} from '@foxtrail/core';
import {
  FOOTAGE,
  sayFootage,
  sayFrame,
  sayNext,
  wrongIn,
  type CrossingStrand,
  type FilmCue,
  type Footage,
} from '@foxtrail/core/footage';
import { cueAt } from '@foxtrail/core/reel';
import type { LaidOver } from '@foxtrail/lesson/over-film';
import { BenchStore } from '../knot/bench-store';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';
import { WordsService } from '../data/words';
import { ReelKinds } from '../ui/reel-kinds';
import { FilmFrame, type DrawnMark, type FilmPlace } from './film-frame';
import { askedIn, back, frameAt, markOf, pressed, withFrame, type Marking } from './marking';
import { FilmCaptions } from './captions';
import { FilmParts } from './film-parts';
import { RecordFilm } from './record';
import { FilmSending, type ChosenFilm } from './sending';
import { OverFilm, placedOn, type Placing } from './over-film';
import { FilmStrip } from './strip';
import { TraceFrame } from './trace-frame';
import { FootageJudge } from './verdict';

/** How far along a strand its letter stands from the crossing, in diameters. */
const ALONG = 2.2;

/** No frame of a film that is followed is shown for longer, in seconds. */
const LONGEST_FRAME = 0.25;

const ASKS = {
  point: 'Press where this crossing is in the frame.',
  first: 'Press on strand A, a little farther on along its arrow.',
  second: 'Press on strand B, a little farther on along its arrow.',
  over: 'Which of the two strands is over in the film?',
} as const;

/** What a film is called at first: as its file, without what no name may have. */
const filmName = (file: string): string =>
  file
    .replace(/\.[^.]*$/, '')
    .replace(/[<>\p{Cc}]/gu, '')
    .trim()
    .slice(0, FOOTAGE.name) || 'Film';

@Component({
  selector: 'ft-film',
  imports: [
    FilmCaptions,
    FilmFrame,
    FilmParts,
    FilmStrip,
    OverFilm,
    TraceFrame,
    MarkedFigure,
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatProgressBarModule,
    RecordFilm,
    ReelKinds,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [FilmSending, FootageJudge],
  templateUrl: './film.html',
  styleUrl: './film.scss',
  host: { '(document:keydown)': 'key($event)' },
})
export class FilmPage {
  protected readonly store = inject(BenchStore);
  protected readonly sending = inject(FilmSending);
  protected readonly judge = inject(FootageJudge);
  private readonly frame = viewChild(FilmFrame);
  private readonly overFilm = viewChild(OverFilm);
  protected readonly frameElement = computed(() => this.frame()?.element());

  private readonly layout = computed(() => {
    const method = this.store.method();
    return method && finishedLayout(method);
  });
  private readonly figure = computed((): Figure => this.layout()?.figure ?? EMPTY_FIGURE);
  protected readonly crossings = computed(() => crossingsOf(this.figure()));
  protected readonly films = computed((): readonly Footage[] => this.layout()?.footage ?? []);
  private readonly chosen = signal<string | undefined>(undefined);
  protected readonly film = computed(() => this.films().find((f) => f.film === this.chosen()) ?? this.films()[0]);
  /** Files chosen in this sitting, played from where they are. */
  private readonly files = signal<ReadonlyMap<string, ChosenFilm & { readonly url: string }>>(new Map());
  /** The film has not come wholly, or cannot be played. */
  protected readonly lost = signal(false);

  protected readonly src = computed(() => {
    const film = this.film();
    if (!film) return undefined;
    return this.files().get(film.film)?.url ?? addressOf(FILM_ROUTES.read.path, { film: film.film });
  });
  /** What its pictures and its sound are read from. */
  protected readonly source = computed(() => this.files().get(this.film()?.film ?? '')?.file ?? this.src());
  /** When each frame of the film is shown, in seconds and in order; none until they have been read. */
  protected readonly frameTimes = linkedSignal<unknown, ArrayLike<number>>({
    source: this.source,
    computation: () => [],
  });
  protected readonly markedTimes = computed(() => this.film()?.frames.map((f) => f.at) ?? []);
  /** The time of the frame that is shown. */
  protected readonly time = signal(0);
  protected readonly goTo = signal<FilmPlace | undefined>(undefined);
  private readonly marking = signal<Marking | undefined>(undefined);
  /** The frame that is shown, where it has been marked. */
  protected readonly marked = computed(() => frameAt(this.film()?.frames ?? [], this.time()));
  private readonly numbers = computed(
    () => new Map(this.marked()?.marks.map((m) => [crossingAt(this.figure(), m.crossing)?.number, m]) ?? []),
  );
  protected readonly verdict = this.judge.verdict;
  protected readonly headline = computed(() => {
    const verdict = this.verdict();
    return verdict && sayFootage(verdict, this.store.knot()?.name ?? '');
  });
  protected readonly next = computed(() => {
    const verdict = this.verdict();
    return verdict && sayNext(verdict);
  });
  /** What frames say that do not agree. */
  protected readonly disagrees = computed(() =>
    (this.verdict()?.frames ?? []).filter((f) => f.state === 'differs').map(sayFrame),
  );
  protected readonly wrong = computed(() => new Set(this.verdict() ? wrongIn(this.verdict()!) : []));

  /** The crossing that is marked now: the one chosen, else the one that would decide, else the first without a mark. */
  protected readonly crossing = computed(() => this.marking()?.crossing ?? this.proposed());
  private readonly proposed = computed((): number => {
    const has = this.numbers();
    const next = this.verdict()?.next;
    if (next?.kind === 'crossing' && !has.has(next.crossing)) return next.crossing;
    return this.crossings().find((c) => !has.has(c.number))?.number ?? 1;
  });
  protected readonly inHand = computed((): Marking => this.marking() ?? { crossing: this.crossing() });
  protected readonly asked = computed(() => askedIn(this.inHand()));
  protected readonly ask = computed(() => ASKS[this.asked()]);
  /** All crossings are marked in this frame. */
  protected readonly whole = computed(() => this.numbers().size >= this.crossings().length);

  protected readonly drawn = computed((): readonly DrawnMark[] => {
    const own = [...this.numbers()].flatMap(([number, m]): DrawnMark[] =>
      number === undefined || !m.point || number === this.marking()?.crossing
        ? []
        : [
            {
              label: String(number),
              point: m.point,
              first: m.first,
              second: m.second,
              wrong: this.wrong().has(number),
            },
          ],
    );
    const { crossing, point, first, second } = this.inHand();
    return point ? [...own, { label: String(crossing), point, first, second, now: true }] : own;
  });

  /** The crossing in question is looked at near: its place is known, its strands are asked for. */
  private readonly near = computed(() => this.asked() !== 'point' && !this.whole());
  /** With the numbers of all crossings, or, near, with the letters of two strands. */
  protected readonly drawing = computed(() => drawFigure(this.figure(), { labels: !this.near() }));
  private readonly at = computed(() => this.crossings()[this.crossing() - 1]);
  protected readonly box = computed(() => {
    const at = this.at();
    return at && this.near() ? nearBox(heartBox(this.figure()), at.point) : undefined;
  });
  protected readonly signs = computed((): readonly FigureMark[] => {
    const at = this.at();
    const wrong = this.crossings().filter((c) => this.wrong().has(c.number));
    const rings = (this.whole() || !at ? wrong : [at]).map((c): FigureMark => ({ point: c.point, kind: 'ring' }));
    if (!at || !this.near()) return rings;
    return [...rings, this.wayOn('A', at.first), this.wayOn('B', at.second)];
  });

  constructor() {
    effect(() => {
      const [document, film, method] = [this.store.document(), this.film()?.film, this.store.inHand()];
      untracked(() => void this.judge.judge(document && film !== undefined ? { document, method, film } : undefined));
    });
    effect((onCleanup) => {
      const { made } = this.drawings();
      onCleanup(() => made.forEach((url) => URL.revokeObjectURL(url)));
    });
    effect(() => {
      this.src();
      untracked(() => {
        this.lost.set(false);
        this.placing.set(undefined);
      });
    });
    inject(DestroyRef).onDestroy(() => {
      for (const { url } of this.files().values()) URL.revokeObjectURL(url);
    });
  }

  /** The way on along a strand, with its letter. */
  private wayOn(label: 'A' | 'B', { strand, at }: TrailPosition): FigureMark {
    const own = ropeOf(this.figure(), strand) ?? hostOf(this.figure(), strand);
    const kind = label === 'A' ? 'way' : 'other-way';
    if (!own) return { kind, label, point: [0, 0] };
    const curve = curveOf(own);
    const end = atLength(curve, lengthTo(curve, at) + ALONG);
    return { kind, label, point: pointAt(curve, end), path: pathData(stretch(curve, at, end)) };
  }

  /** A film is being recorded here. */
  protected readonly recording = signal(false);
  /** What a film is called that is recorded now. */
  protected readonly takeName = computed(() => {
    const names = new Set(this.films().map((f) => f.name));
    let take = 1;
    while (names.has(`Take ${take}`)) take += 1;
    return `Take ${take}`;
  });

  protected recorded(file: File): void {
    this.recording.set(false);
    void this.bring(file);
  }

  protected choose(event: Event): void {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    if (file) void this.bring(file);
  }

  /** Takes a film in: it is read, kept with the knot, and sent. */
  private async bring(file: File): Promise<void> {
    const read = await this.sending.read(file);
    if (!read) return;
    const known = this.films().find((f) => f.film === read.film);
    const name = filmName(file.name);
    if (!known && !this.keep([...this.films(), { film: read.film, name, duration: read.duration, frames: [] }])) {
      this.sending.stop();
      return;
    }
    this.files.update((all) => new Map(all).set(read.film, { ...read, url: URL.createObjectURL(file) }));
    this.chosen.set(read.film);
    await this.sending.send(read);
  }

  /** Goes on with a film whose sending broke off. */
  protected again(): void {
    const film = this.film();
    const file = film && this.files().get(film.film);
    if (file) void this.sending.send(file);
  }

  protected readonly mayGoOn = computed(() => this.files().has(this.film()?.film ?? ''));

  protected take(film: string): void {
    this.chosen.set(film);
    this.marking.set(undefined);
    this.goTo.set({ time: 0 });
  }

  protected takeOff(): void {
    const film = this.film();
    if (film) this.keep(this.films().filter((f) => f !== film));
    this.sending.stop();
  }

  private keep(footage: readonly Footage[], group?: string): boolean {
    const method = this.store.method();
    if (!method) return false;
    const layout = layoutsOf(method).length - 1;
    return this.store.edit({ kind: 'show', shown: { footage } }, { layout, ...(group ? { group } : {}) }).ok;
  }

  private change(changed: (film: Footage) => Footage): void {
    const film = this.film();
    if (film) this.keep(this.films().map((f) => (f === film ? changed(f) : f)));
  }

  private readonly words = inject(WordsService);
  protected readonly captions = computed((): readonly FilmCue[] => this.film()?.captions ?? []);
  /** Where the film is: the frame that is shown at a place begins before it, and what is said there is said. */
  protected readonly place = computed(() => {
    const [asked, shown] = [this.goTo()?.time ?? 0, this.time()];
    return shown < asked && asked - shown < LONGEST_FRAME ? asked : shown;
  });
  protected readonly said = computed(() => cueAt(this.captions(), this.place())?.text ?? '');
  /** What captions are held against. */
  protected readonly check = computed((): LessonCheck | undefined => {
    const knot = this.store.knot();
    return knot && this.words.check(wordedOf(knot));
  });
  protected readonly reading = computed(() => numberOf(this.store.practice(), 'caption-speed'));
  protected readonly perLine = computed(() => numberOf(this.store.practice(), 'caption-line'));

  protected caption(captions: readonly FilmCue[]): void {
    this.change(({ captions: _before, ...f }) => (captions.length > 0 ? { ...f, captions } : f));
  }

  /** The steps of the method, as they are told. */
  protected readonly steps = computed((): readonly string[] => {
    const method = this.store.method();
    return method ? stepsOf(method).map(({ index }) => stepText(method, index, this.store.vocabulary())) : [];
  });

  protected reworked(film: Footage): void {
    this.change(() => film);
  }

  protected turn(): void {
    this.change((f) => ({ ...f, turned: f.turned !== true }));
  }

  protected mark(number: number): void {
    this.marking.set({ crossing: number });
  }

  /** What the next press in the frame is the place of, where it is no mark. */
  protected readonly placing = signal<Placing | undefined>(undefined);
  protected readonly nothing: LaidOver = {};

  /** Addresses of the drawings of the steps, made as they are asked for, and let go when the method is another one. */
  private readonly drawings = computed(() => ({ method: this.store.method(), made: new Map<number, string>() }));
  protected readonly picture = computed(() => {
    const { method, made } = this.drawings();
    return (step: number): string | undefined => {
      if (!method || !stepsOf(method)[step]) return undefined;
      const known = made.get(step);
      if (known !== undefined) return known;
      const svg = toSvg(drawStep(method, step), { title: `Step ${step + 1}`, description: '', width: 640 });
      const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
      made.set(step, address);
      return address;
    };
  });

  protected placed(at: Point): void {
    const placing = this.placing();
    if (placing) {
      if (placing.kind === 'still') {
        const { first } = placing;
        this.placing.set(first ? undefined : { kind: 'still', first: at });
        if (first) void this.overFilm()?.holdStill(first, at);
        return;
      }
      this.placing.set(undefined);
      const before = new Set(this.film()?.callouts);
      this.change((f) => placedOn(f, placing, this.time(), at));
      // Of a ruler its other end is asked for next.
      const index = this.film()?.callouts?.findIndex((c) => !before.has(c)) ?? -1;
      if (placing.kind === 'new' && placing.callout === 'ruler' && index >= 0) this.placing.set({ kind: 'end', index });
      return;
    }
    if (this.asked() !== 'over') this.marking.set(pressed(this.inHand(), at));
  }

  protected short(): void {
    if (this.inHand().point) this.marking.set({ ...this.inHand(), short: true });
  }

  protected backOne(): void {
    this.marking.set(back(this.inHand()));
  }

  protected over(strand: CrossingStrand): void {
    const at = this.at();
    if (!at || this.asked() !== 'over') return;
    const mark = markOf(this.inHand(), at, strand);
    this.marking.set(undefined);
    this.change((f) => ({
      ...f,
      frames: withFrame(f.frames, this.time(), (frame) => ({
        ...frame,
        marks: [...frame.marks.filter((m) => crossingAt(this.figure(), m.crossing)?.number !== at.number), mark],
      })),
    }));
  }

  protected unmark(number: number): void {
    this.marking.set(undefined);
    this.change((f) => ({
      ...f,
      frames: withFrame(f.frames, this.time(), (frame) => ({
        ...frame,
        marks: frame.marks.filter((m) => crossingAt(this.figure(), m.crossing)?.number !== number),
      })),
    }));
  }

  protected readonly isMarked = (number: number): boolean => this.numbers().has(number);

  protected key(event: KeyboardEvent): void {
    // The slider keeps the arrows to itself; every other key means here what it means elsewhere on the desk.
    if (event.target instanceof Element && event.target.matches('input:not([type=range]), textarea, select')) return;
    if (event.ctrlKey || event.metaKey || event.altKey || !this.film() || this.recording()) return;
    const onButton = event.target instanceof Element && event.target.matches('button, a');
    const does: Readonly<Record<string, (() => void) | undefined>> = {
      ' ': onButton ? undefined : (): void => this.frame()?.toggle(),
      ',': () => this.frame()?.step(-1),
      '.': () => this.frame()?.step(1),
      a: () => this.over('first'),
      b: () => this.over('second'),
      s: () => this.short(),
      Escape: this.placing() ? (): void => this.placing.set(undefined) : undefined,
      Backspace: () => this.backOne(),
    };
    const act = does[event.key];
    if (!act || !this.store.mayWrite()) return;
    event.preventDefault();
    act();
  }
}
