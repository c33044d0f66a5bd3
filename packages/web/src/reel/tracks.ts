/**
 * The demonstration as tracks over time: what is filmed, what is read, and where it goes by too quickly. A press goes to the place. The
 * scenes of a reel are dragged into another order, and by their end made to last longer or shorter; with the keyboard, Alt and an arrow.
 * What is said in them is written where it is read: by a double press on it, or by F2 on its scene.
 */
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  input,
  output,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { REELS, type Reel, type ReelScene } from '@foxtrail/core';
import {
  chaptersOf,
  cuesOf,
  sayOutOfSight,
  sayTooQuick,
  type Chapter,
  type OutOfSight,
  type Scene,
  type Timeline,
  type TooQuick,
} from '@foxtrail/core/reel';

/** What each kind of shot is called. */
const NAMES: Readonly<Record<Scene['shot']['kind'], string>> = {
  lay: 'laid',
  relay: 'laid anew',
  tighten: 'drawn tight',
  hold: 'held',
  turn: 'turned over',
  wrong: 'a wrong way',
  card: 'a card',
  tail: 'measured',
  film: 'filmed',
};

const nameOf = ({ shot }: Scene): string =>
  shot.kind === 'lay' && shot.again ? 'again, slower' : shot.kind === 'hold' ? `${shot.side} held` : NAMES[shot.kind];

/** A shot within its passage. */
interface Piece {
  readonly width: number;
  readonly kind: string;
  /** Share of it in which something moves. */
  readonly moves: number;
}

/** A shot of a step as it is tied, or a scene of a reel. */
interface Block {
  readonly part: number;
  readonly width: number;
  readonly start: number;
  readonly text: string;
  readonly says: string;
  readonly pieces: readonly Piece[];
  readonly now: boolean;
}

interface CueBlock {
  readonly key: string;
  /** The scene in which it is said; absent: in none, it is a caution. */
  readonly part: number | undefined;
  readonly left: number;
  readonly width: number;
  readonly start: number;
  readonly text: string;
  readonly quick: boolean;
  readonly now: boolean;
}

/** What a scene that shows no step of its own is marked with. */
const SIGNS: Readonly<Record<ReelScene['kind'], string>> = {
  step: '',
  look: '◉',
  wrong: '✕',
  card: 'T',
  tail: '↔',
  film: '▶',
};

/** How many times as wide as the page the tracks are drawn. */
const ZOOMS = [1, 2, 4, 8] as const;

/** How near a dragged end comes to a stop to hold to it, in pixels. */
const SNAP = 6;

/** Room before the place that is played, and least after it, in pixels. */
const HEAD_ROOM = 40;

/** A scene moved from one place to another. */
export interface SceneMove {
  readonly from: number;
  readonly to: number;
}

/** A scene that is to last so many seconds. */
export interface SceneTrim {
  readonly part: number;
  readonly seconds: number;
}

/** What is to be said in a scene; nothing: what is usual there. */
export interface SceneWords {
  readonly part: number;
  readonly text: string;
}

@Component({
  selector: 'ft-reel-tracks',
  imports: [CdkDrag, CdkDropList, MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tracks.html',
  styleUrl: './tracks.scss',
})
export class ReelTracks {
  readonly timeline = input.required<Timeline>();
  readonly time = input.required<number>();
  readonly perLine = input.required<number>();
  readonly quick = input.required<readonly TooQuick[]>();
  /** The crossings that are not seen when they matter. */
  readonly unseen = input<readonly OutOfSight[]>([]);
  /** The reel whose scenes these are; without one they are the steps as they are tied. */
  readonly reel = input<Reel>();
  readonly mayWrite = input(false);
  /** A place in the demonstration, in seconds. */
  readonly goTo = output<number>();
  readonly move = output<SceneMove>();
  readonly trim = output<SceneTrim>();
  /** A scene left out, or shown once more, by its place. */
  readonly remove = output<number>();
  readonly repeat = output<number>();
  /** The scene that is shown is cut in two where it is shown. */
  readonly cutHere = output();
  readonly say = output<SceneWords>();

  protected readonly zooms = ZOOMS;
  protected readonly zoom = signal<number>(1);
  /** How long the scene whose end is dragged lasts by now. */
  protected readonly trimmed = signal<SceneTrim | undefined>(undefined);
  /** The scene whose words are being written. */
  protected readonly written = signal<number | undefined>(undefined);
  protected readonly longest = REELS.text;
  private readonly reelName = computed(() => this.reel()?.name);
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');
  private readonly rows = viewChild.required<ElementRef<HTMLElement>>('rows');

  constructor() {
    effect(() => this.field()?.nativeElement.focus());
    // Another reel has other words.
    effect(() => {
      this.reelName();
      this.written.set(undefined);
    });
    // Where the tracks are wider than the page, what is played stays in sight.
    effect(() => {
      const [at, zoom] = [this.at(), this.zoom()];
      const rows = this.rows().nativeElement;
      const scroll = rows.parentElement;
      if (zoom === 1 || !scroll) return;
      const x = (at / 100) * rows.clientWidth;
      if (x < scroll.scrollLeft || x > scroll.scrollLeft + scroll.clientWidth - HEAD_ROOM)
        scroll.scrollLeft = x - HEAD_ROOM;
    });
  }

  private share(seconds: number): number {
    const { duration } = this.timeline();
    return duration > 0 ? (100 * seconds) / duration : 0;
  }

  protected readonly edits = computed(() => this.mayWrite() && this.reel() !== undefined);
  protected readonly at = computed(() => Math.min(100, this.share(this.time())));
  protected readonly cautions = computed(() => {
    const end = this.timeline().cautions?.end ?? 0;
    return { width: this.share(end), now: this.time() < end, there: end > 0 };
  });
  protected readonly blocks = computed((): readonly Block[] => {
    const { scenes } = this.timeline();
    const time = this.time();
    const list = this.reel()?.scenes;
    // The scenes of a reel are moved as a whole; of a step as it is tied each shot is a place to go to.
    const spans = list ? chaptersOf(this.timeline()) : scenes;
    return spans.map((span, i): Block => {
      const own = list ? scenes.filter((s) => s.part === span.part) : [scenes[i] as Scene];
      const lasts = span.end - span.start;
      return {
        part: i,
        width: this.share(lasts),
        start: span.start,
        text: list ? this.textOf(span, list[i]) : scenes[i - 1]?.part === span.part ? '' : String(span.part + 1),
        says: `${this.sayWhat(span, list?.[i])}, ${own.map(nameOf).join(', ')}, ${lasts.toFixed(1)} seconds`,
        pieces: own.map((s) => ({
          width: (100 * (s.end - s.start)) / lasts,
          kind: s.shot.kind === 'lay' && s.shot.again ? 'again' : s.shot.kind,
          moves: s.end > s.start ? (s.laid - s.start) / (s.end - s.start) : 0,
        })),
        now: time >= span.start && time < span.end,
      };
    });
  });
  /** What passages of scenes are for, over all that follow one another. */
  protected readonly passes = computed(() => {
    const scenes = this.reel()?.scenes ?? [];
    const chapters = chaptersOf(this.timeline());
    return scenes.flatMap(({ pass }, i) => {
      if (pass === undefined || pass === scenes[i - 1]?.pass) return [];
      let last = i;
      while (scenes[last + 1]?.pass === pass) last += 1;
      const [start, end] = [chapters[i]?.start ?? 0, chapters[last]?.end ?? 0];
      return [{ pass, left: this.share(start), width: this.share(end - start) }];
    });
  });
  protected readonly cues = computed(() => {
    const timeline = this.timeline();
    const time = this.time();
    const slow = new Set(this.quick().flatMap((q) => (q.what === 'reading' ? [q.part] : [])));
    const chapters = chaptersOf(timeline);
    return cuesOf(timeline, this.perLine()).map(({ id, start, end, lines }): CueBlock => {
      const part = chapters.find((c) => start >= c.start - 1e-6 && start < c.end)?.part;
      return {
        key: id,
        part,
        left: this.share(start),
        width: this.share(end - start),
        start,
        text: lines.join(' '),
        quick: part !== undefined && slow.has(part),
        now: time >= start && time < end,
      };
    });
  });

  /** What is pointed out, in time. */
  protected readonly pointed = computed(() =>
    chaptersOf(this.timeline()).flatMap(({ part, start, end }) => {
      const callouts = this.timeline().scenes.find((s) => s.part === part)?.callouts ?? [];
      const text = callouts.map((c) => c.text ?? c.kind).join(' · ');
      return text === '' ? [] : [{ part, start, text, left: this.share(start), width: this.share(end - start) }];
    }),
  );

  /** What cannot be followed, or is not seen, at its time. */
  protected readonly finds = computed(() => {
    const chapters = chaptersOf(this.timeline());
    return [
      ...this.quick().map((q) => ({ time: chapters[q.part]?.start ?? 0, says: sayTooQuick(q) })),
      ...this.unseen().map((u) => ({ time: u.time, says: sayOutOfSight(u) })),
    ].map((find) => ({ ...find, left: this.share(find.time) }));
  });

  /** Who speaks, in time. */
  protected readonly voices = computed(() =>
    this.timeline().scenes.flatMap(({ voice, start, part }) =>
      voice ? [{ part, left: this.share(start), width: this.share(voice.to - voice.from) }] : [],
    ),
  );

  private textOf({ step }: Pick<Chapter, 'step'>, scene: ReelScene | undefined): string {
    return scene && scene.kind !== 'step' ? SIGNS[scene.kind] : String((step ?? 0) + 1);
  }

  private sayWhat({ part, step }: Pick<Chapter, 'part' | 'step'>, scene: ReelScene | undefined): string {
    const place = scene ? `Scene ${part + 1}: ` : '';
    return scene && scene.kind !== 'step'
      ? `${place}${scene.kind}`
      : `${place}${place === '' ? 'S' : 's'}tep ${(step ?? 0) + 1}`;
  }

  protected dropped({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    if (previousIndex !== currentIndex) this.move.emit({ from: previousIndex, to: currentIndex });
  }

  protected key(event: KeyboardEvent, { part, now }: Block): void {
    const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    const last = this.blocks().length - 1;
    if (step !== 0 && event.altKey && this.edits()) {
      const to = part + step;
      if (to < 0 || to > last) return;
      this.move.emit({ from: part, to });
      this.focus(to);
    } else if (step !== 0) this.focus(Math.min(last, Math.max(0, part + step)));
    else if (event.key === 'Delete' && this.edits()) {
      this.remove.emit(part);
      this.focus(Math.min(last - 1, part));
    } else if (event.key === 'F2') this.write(part);
    else if (event.key.toLowerCase() === 'd' && this.edits()) this.repeat.emit(part);
    else if (event.key.toLowerCase() === 'x' && this.edits() && now) this.cutHere.emit();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** The words of a scene of a reel, to be written. */
  protected readonly words = computed(() => {
    const part = this.written();
    return part === undefined ? undefined : (chaptersOf(this.timeline())[part]?.caption ?? '');
  });

  protected write(part: number | undefined): void {
    if (this.edits()) this.written.set(part);
  }

  /** The words are written, or left as they were. */
  protected wrote(text?: string): void {
    const [part, before] = [this.written(), this.words()];
    if (part === undefined) return;
    this.written.set(undefined);
    const said = text?.trim();
    if (said !== undefined && said !== before?.trim()) this.say.emit({ part, text: said });
  }

  protected fieldKey(event: KeyboardEvent): void {
    event.stopPropagation();
    const part = this.written();
    if (event.key === 'Escape') this.wrote();
    else if (event.key === 'Enter' && !event.shiftKey) this.wrote((event.target as HTMLTextAreaElement).value);
    else return;
    event.preventDefault();
    if (part !== undefined) this.focus(part);
  }

  /** The scene at a place has the focus, once it is drawn there. */
  private focus(part: number): void {
    setTimeout(() => {
      const button = this.rows().nativeElement.querySelector<HTMLElement>(`[data-part="${part}"]`);
      button?.focus();
      button?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
  }

  /** The end of a scene is dragged to where it is to end. */
  protected pull(event: PointerEvent, block: Block): void {
    event.preventDefault();
    event.stopPropagation();
    const handle = event.currentTarget as HTMLElement;
    const perPixel = this.timeline().duration / this.rows().nativeElement.clientWidth;
    const began = event.clientX;
    const chapter = chaptersOf(this.timeline())[block.part];
    if (!chapter) return;
    const lasts = chapter.end - chapter.start;
    // Near where its motion comes to rest, or where it has lasted so far, it stops there.
    const stops = [
      lasts,
      ...this.timeline()
        .scenes.filter((s) => s.part === block.part && s.laid > s.start)
        .map((s) => s.laid - chapter.start),
    ];
    const snapped = (seconds: number): number => {
      const [nearest = seconds] = [...stops].sort((a, b) => Math.abs(a - seconds) - Math.abs(b - seconds));
      return Math.abs(nearest - seconds) < SNAP * perPixel ? nearest : seconds;
    };
    handle.setPointerCapture(event.pointerId);
    const moved = (e: PointerEvent): void =>
      this.trimmed.set({
        part: block.part,
        seconds: Math.max(0.5, snapped(lasts + (e.clientX - began) * perPixel)),
      });
    const ended = (e: PointerEvent): void => {
      handle.removeEventListener('pointermove', moved);
      handle.removeEventListener('pointerup', ended);
      handle.removeEventListener('pointercancel', ended);
      const trimmed = this.trimmed();
      this.trimmed.set(undefined);
      if (trimmed && e.type === 'pointerup') this.trim.emit(trimmed);
    };
    handle.addEventListener('pointermove', moved);
    handle.addEventListener('pointerup', ended);
    handle.addEventListener('pointercancel', ended);
  }
}
