/**
 * A film, frame by frame, with what is marked in the frame that is shown. Places are shares of the frame as it was filmed, whichever way
 * round it is played.
 */
import {
  ChangeDetectionStrategy,
  afterNextRender,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatSliderModule } from '@angular/material/slider';
import type { Point } from '@foxtrail/core';
import { nearAt, nearOf, passageAt } from '@foxtrail/core/footage';
import { layOver, type LaidOver } from '@foxtrail/lesson/over-film';

/** A mark as it is drawn: a crossing with its number, and the way that its strands run on. */
export interface DrawnMark {
  readonly label: string;
  readonly point: Point;
  readonly first?: Point | undefined;
  readonly second?: Point | undefined;
  /** It is being set. */
  readonly now?: boolean;
  /** It is the other way than in the figure. */
  readonly wrong?: boolean;
}

/** A place in a film, in seconds. */
export interface FilmPlace {
  readonly time: number;
  /** It is the time of a frame, which is to be found again. */
  readonly frame?: true;
}

const ARROWS: Readonly<Record<string, readonly [right: number, down: number] | undefined>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** How far an arrow key leads, as a share of the frame; with Shift. */
const COARSE = 0.02;
const FINE = 0.004;
const within = (v: number): number => Math.min(1, Math.max(0, v));

/** No frame is shown for less; in seconds. One that is marked is looked for so many times. */
const STEP = 1 / 120;
const STEPS = 60;
/** How much farther a frame is looked for that was seen and is not shown again, in seconds. */
const FARTHER = 0.2;
/** No frame is shown for longer, in seconds. */
const LONGEST_FRAME = 10;
/** Times nearer than this are those of one frame, in seconds. */
const NEAR = 3e-3;
/** A film that is where it was sent to, and has shown no picture by then, shows the one before; in milliseconds. */
const PATIENCE = 600;
/** Of one that has shown none yet the first is waited for, however slow the machine. */
const FIRST_PATIENCE = 20_000;

/**
 * The frame after or before the one that is shown at a time, of frames in order: when it begins, and a time well within it, in seconds;
 * nothing where there is none.
 */
export function nextFrame(
  times: ArrayLike<number>,
  shown: number,
  way: 1 | -1,
): { readonly at: number; readonly within: number } | undefined {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle]! <= shown + NEAR) low = middle + 1;
    else high = middle;
  }
  const index = low - 1 + way;
  const at = times[index];
  if (low === 0 || at === undefined) return undefined;
  return { at, within: at + ((times[index + 1] ?? at + 2 * STEP) - at) / 2 };
}

@Component({
  selector: 'ft-film-frame',
  imports: [MatButtonModule, MatIconModule, MatSliderModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #stage class="frame" [style.aspect-ratio]="shape()" [style.--shape]="shape()" [class.marking]="marking()">
      <video
        #video
        [src]="src()"
        [class.turned]="turned()"
        playsinline
        preload="auto"
        (loadedmetadata)="begin()"
        (error)="failed.emit()"
        (pause)="playing.set(false)"
        (play)="playing.set(true)"
        (ended)="playing.set(false)"
      ></video>
      <svg
        viewBox="0 0 1000 1000"
        preserveAspectRatio="none"
        role="img"
        [attr.aria-label]="'The film at ' + time().toFixed(2) + ' seconds, ' + marks().length + ' marks'"
        [attr.tabindex]="marking() ? 0 : null"
        (pointerdown)="press($event)"
        (keydown)="aim($event)"
        (blur)="cursor.set(undefined)"
      >
        @if (cursor(); as p) {
          <path class="cursor" [attr.d]="'M' + (x(p) - 25) + ' ' + y(p) + 'h50M' + x(p) + ' ' + (y(p) - 40) + 'v80'" />
        }
        @if (near(); as n) {
          <rect class="near" [attr.x]="n.x" [attr.y]="n.y" [attr.width]="n.size" [attr.height]="n.size" />
        }
        @for (m of marks(); track m.label) {
          @if (m.first; as p) {
            <line class="first" [attr.x1]="x(m.point)" [attr.y1]="y(m.point)" [attr.x2]="x(p)" [attr.y2]="y(p)" />
          }
          @if (m.second; as p) {
            <line class="second" [attr.x1]="x(m.point)" [attr.y1]="y(m.point)" [attr.x2]="x(p)" [attr.y2]="y(p)" />
          }
        }
      </svg>
      @if (said(); as text) {
        <p class="said">{{ text }}</p>
      }
      @for (m of marks(); track m.label) {
        <span
          class="mark"
          [class.now]="m.now"
          [class.wrong]="m.wrong"
          [style.left.%]="x(m.point) / 10"
          [style.top.%]="y(m.point) / 10"
          aria-hidden="true"
          >{{ m.label }}</span
        >
        @if (m.first; as p) {
          <span class="end first" [style.left.%]="x(p) / 10" [style.top.%]="y(p) / 10" aria-hidden="true">A</span>
        }
        @if (m.second; as p) {
          <span class="end second" [style.left.%]="x(p) / 10" [style.top.%]="y(p) / 10" aria-hidden="true">B</span>
        }
      }
    </div>
    <div class="controls">
      <button mat-icon-button type="button" (click)="step(-1)" aria-label="One frame back">
        <mat-icon svgIcon="previous" />
      </button>
      <button mat-flat-button type="button" class="play" (click)="toggle()">
        <mat-icon [svgIcon]="playing() ? 'pause' : 'play'" />{{ playing() ? 'Pause' : 'Play' }}
      </button>
      <button mat-icon-button type="button" (click)="step(1)" aria-label="One frame on">
        <mat-icon svgIcon="next" />
      </button>
      <mat-slider min="0" [max]="duration()" step="0.01">
        <input
          matSliderThumb
          [value]="time()"
          (input)="seek($any($event.target).valueAsNumber)"
          aria-label="Place in the film"
        />
      </mat-slider>
      <span class="clock">{{ time().toFixed(2) }} of {{ duration().toFixed(2) }} s</span>
    </div>
  `,
  styles: `
    :host {
      display: block;
    }
    .frame {
      position: relative;
      max-width: min(100%, calc((100vh - 376px) * var(--shape)));
      margin: 0 auto;
      overflow: hidden;
      border-radius: 10px;
      background: #000;
    }
    video,
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    .turned {
      transform: scaleX(-1);
    }
    .marking svg {
      cursor: crosshair;
      touch-action: none;
    }
    line {
      stroke-width: 5px;
      vector-effect: non-scaling-stroke;
      stroke-linecap: round;
    }
    svg:focus-visible {
      outline: 3px solid #ff8b3d;
      outline-offset: -3px;
    }
    .cursor {
      stroke: #ff8b3d;
      stroke-width: 3px;
      vector-effect: non-scaling-stroke;
    }
    .near {
      fill: none;
      stroke: #fff;
      stroke-width: 3px;
      stroke-dasharray: 10 8;
      vector-effect: non-scaling-stroke;
    }
    line.first {
      stroke: #ff8b3d;
    }
    line.second {
      stroke: #fff;
      stroke-dasharray: 2 9;
    }
    .mark,
    .end {
      position: absolute;
      display: grid;
      place-items: center;
      border-radius: 50%;
      font-weight: 700;
      transform: translate(-50%, -50%);
      pointer-events: none;
    }
    .mark {
      min-width: 26px;
      height: 26px;
      border: 2px solid #fff;
      background: #22303a;
      color: #fff;
      font-size: 15px;
    }
    .mark.now {
      background: #c94f0c;
    }
    .mark.wrong {
      border-color: #ffd0ea;
      background: #8c2263;
    }
    .end {
      min-width: 20px;
      height: 20px;
      color: #10181e;
      font-size: 13px;
    }
    .end.first {
      background: #ff8b3d;
    }
    .end.second {
      background: #fff;
    }
    .said {
      position: absolute;
      right: 6%;
      bottom: 4%;
      left: 6%;
      width: fit-content;
      margin: 0 auto;
      padding: 4px 12px;
      border-radius: 6px;
      background: rgb(0 0 0 / 78%);
      color: #fff;
      font-size: 18px;
      line-height: 1.3;
      text-align: center;
      pointer-events: none;
    }
    .controls {
      display: flex;
      gap: 8px;
      align-items: center;
      padding: 8px 4px 0;
    }
    .play {
      min-width: 112px;
      height: 48px;
    }
    mat-slider {
      flex: 1;
      min-width: 60px;
    }
    .clock {
      min-width: 116px;
      text-align: right;
      font-variant-numeric: tabular-nums;
      white-space: nowrap;
    }
  `,
})
export class FilmFrame {
  readonly src = input.required<string>();
  readonly turned = input(false);
  /** How long it is known to be, in seconds. */
  readonly length = input(0);
  readonly marks = input<readonly DrawnMark[]>([]);
  /** When each of its frames is shown, in seconds and in order, where that is known. */
  readonly frameTimes = input<ArrayLike<number>>([]);
  /** What is laid over the film, and the address of the drawing of a step. */
  readonly laid = input<LaidOver>({});
  readonly picture = input<(step: number) => string | undefined>(() => undefined);
  /** What is said while this frame is shown. */
  readonly said = input('');
  /** A press in the frame sets a place. */
  readonly marking = input(false);
  /** Where the film is to be shown, in seconds; it is gone to whenever it is told anew. */
  readonly at = input<FilmPlace | undefined>();
  readonly placed = output<Point>();
  /** The time of the frame that is shown. */
  readonly shown = output<number>();
  readonly failed = output();

  private readonly video = viewChild.required<ElementRef<HTMLVideoElement>>('video');
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  protected readonly shape = signal(16 / 9);
  private readonly told = signal<number | undefined>(undefined);
  /** What a recorder has written may not say how long it is. */
  protected readonly duration = computed(() => this.told() ?? this.length());
  protected readonly time = signal(0);
  protected readonly playing = signal(false);
  private readonly over = signal<ReturnType<typeof layOver> | undefined>(undefined);
  /** Where it is to go next. */
  private wanted: number | undefined;
  private queue = Promise.resolve();

  protected readonly x = (p: Point): number => 1000 * (this.turned() ? 1 - p[0] : p[0]);
  protected readonly y = (p: Point): number => 1000 * p[1];
  readonly element = computed(() => this.video().nativeElement);

  /** What is seen of a frame that is looked at nearer, while it stands still and is seen whole; thousandths. */
  protected readonly near = computed(() => {
    const passage = passageAt(this.laid(), this.time());
    const near = passage && nearAt(passage, this.time());
    if (!near || this.playing()) return undefined;
    const { times, left, top } = nearOf({ ...near, place: [this.x(near.place) / 1000, near.place[1]] });
    return { x: 1000 * left, y: 1000 * top, size: 1000 / times };
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const over = layOver(this.element(), this.stage().nativeElement, {
        film: () => this.laid(),
        picture: (step) => this.picture()(step),
        wholeAtRest: true,
      });
      this.over.set(over);
      destroy.onDestroy(() => over.letGo());
    });
    effect(() => {
      this.laid();
      this.time();
      this.over()?.show();
    });
    effect(() => {
      const at = this.at();
      if (!at) return;
      untracked(() => {
        if (at.frame === true) this.then(async () => this.tell(await this.find(at.time)));
        else this.seek(at.time);
      });
    });
  }

  protected begin(): void {
    const video = this.element();
    if (video.videoWidth > 0) this.shape.set(video.videoWidth / video.videoHeight);
    this.told.set(Number.isFinite(video.duration) ? video.duration : undefined);
    this.loads += 1;
    this.presented = undefined;
    this.watch(this.loads);
    // What was asked for before it could be played comes first.
    this.then(async () => this.tell(await this.goTo(this.time())));
  }

  toggle(): void {
    const video = this.element();
    if (!video.paused) {
      video.pause();
      this.seek(video.currentTime);
      return;
    }
    if (video.ended) video.currentTime = 0;
    video.play().catch(() => this.failed.emit());
  }

  /** The time of the picture that was shown last, whatever the film was asked for. */
  private presented: number | undefined;
  /** How many pictures have been shown. */
  private pictures = 0;
  /** It is on its way to a time. */
  private going = false;
  private woken: (() => void) | undefined;
  /** How many films have been taken up, the same one from another place too. */
  private loads = 0;

  /** Follows the pictures of a film as they are shown: while it plays, and where one comes late. Whoever followed the one before is let go. */
  private watch(load: number): void {
    this.element().requestVideoFrameCallback((_now, { mediaTime }) => {
      if (load !== this.loads) return;
      this.presented = mediaTime;
      this.pictures += 1;
      this.woken?.();
      if (!this.going) this.tell(mediaTime);
      this.watch(load);
    });
  }

  private tell(time: number): void {
    this.time.set(time);
    this.shown.emit(time);
  }

  seek(time: number): void {
    // While others are under way, only the newest waits.
    const waits = this.wanted !== undefined;
    this.wanted = Math.max(0, time);
    if (!waits)
      this.then(async () => {
        const to = this.wanted ?? this.time();
        this.wanted = undefined;
        this.tell(await this.goTo(to));
      });
  }

  /** One thing after another: nothing that is pressed is lost. */
  private then(does: () => Promise<void>): void {
    this.queue = this.queue.then(does).catch(() => undefined);
  }

  /** Goes to a time; resolves to that of the frame which is shown then. */
  private async goTo(time: number): Promise<number> {
    const video = this.element();
    if (video.readyState < HTMLMediaElement.HAVE_METADATA && !video.error)
      await new Promise<unknown>((resolve) => {
        for (const event of ['loadedmetadata', 'error'] as const)
          video.addEventListener(event, resolve, { once: true });
      });
    if (video.error) return time;
    const before = this.pictures;
    this.going = true;
    const there = new Promise<unknown>((resolve) => {
      // Another film may be taken meanwhile: then it is not gone to.
      for (const event of ['seeked', 'error', 'emptied'] as const)
        video.addEventListener(event, resolve, { once: true });
    });
    video.currentTime = Math.min(time, Number.isFinite(video.duration) ? video.duration : time);
    // However long a slow machine or line takes to go there: only then is a picture to be waited for. A film that has been let go meanwhile
    // goes nowhere, and says nothing of it.
    if (video.seeking) await there;
    if (this.pictures === before)
      await new Promise<void>((resolve) => {
        this.woken = resolve;
        setTimeout(resolve, this.presented === undefined ? FIRST_PATIENCE : PATIENCE);
      });
    this.woken = undefined;
    this.going = false;
    return this.presented ?? time;
  }

  /**
   * Goes to the frame of a time. Where a film does not say how long its frames are, players guess, and at the beginning of a frame may still
   * show the one before.
   */
  private async find(time: number): Promise<number> {
    for (let k = 0; ; k += 1) {
      const shown = await this.goTo(time + 1e-3 + k * STEP);
      if (shown > time - NEAR || k === STEPS) return shown;
    }
  }

  /**
   * One frame on or back, however long each is shown: to where the next is known to be; else ever further until the picture changes, then
   * back to where it does.
   */
  step(way: 1 | -1): void {
    this.element().pause();
    this.then(async () => {
      const from = this.time();
      // Where the film was taken up anew meanwhile, from another place, it is gone on from there.
      for (let tries = 0; tries < 3; tries += 1) {
        const before = this.loads;
        if (!(await this.stepToKnown(way, from))) await this.walk(way, from);
        const isSame = before === this.loads && this.element().readyState >= HTMLMediaElement.HAVE_METADATA;
        if (isSame || this.element().error || Math.abs(this.time() - from) > 1e-4) return;
      }
    });
  }

  /** Goes to the frame that is known to be next; false where none is known, or where the player shows another one. */
  private async stepToKnown(way: 1 | -1, from: number): Promise<boolean> {
    const next = nextFrame(this.frameTimes(), from, way);
    if (!next) return false;
    const shown = await this.goTo(next.within);
    if (Math.abs(shown - next.at) > NEAR) return false;
    this.tell(shown);
    return true;
  }

  private async walk(way: 1 | -1, from: number): Promise<void> {
    // Of a film that does not say how long it is, and has not been read yet, there is room for a frame all the same.
    const after = this.duration() > 0 ? this.duration() - from : LONGEST_FRAME;
    const room = way === 1 ? after : from;
    const at = (far: number): Promise<number> => this.goTo(Math.max(0, from + way * far + 1e-3));
    const isOther = (time: number): boolean => Math.abs(time - from) > 1e-4;
    let same = 0;
    let far = Math.min(STEP, room);
    let shown = from;
    while (far > same && !isOther((shown = await at(far)))) [same, far] = [far, Math.min(2 * far, room)];
    let last = far;
    while (far - same > STEP) {
      last = (same + far) / 2;
      const now = await at(last);
      if (isOther(now)) [far, shown] = [last, now];
      else same = last;
    }
    // Asked for the same time again a player may show the frame before: it guesses how long frames are. Then a little farther on.
    let now = last === far ? shown : await at(far);
    for (let more = STEP; !isOther(now) && more <= FARTHER && far + more <= room; more += STEP)
      now = await at(far + more);
    this.tell(now);
  }

  /** Where the arrow keys have led, until Enter sets a place there. */
  protected readonly cursor = signal<Point | undefined>(undefined);

  protected aim(event: KeyboardEvent): void {
    const way = ARROWS[event.key];
    const at = this.cursor() ?? [0.5, 0.5];
    if (!this.marking() || !(way || event.key === 'Enter')) return;
    event.preventDefault();
    if (!way) {
      this.placed.emit(at);
      return;
    }
    const by = event.shiftKey ? FINE : COARSE;
    const across = this.turned() ? -way[0] : way[0];
    this.cursor.set([within(at[0] + by * across), within(at[1] + by * way[1])]);
  }

  protected press(event: PointerEvent): void {
    if (!this.marking()) return;
    event.preventDefault();
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const x = (event.clientX - box.left) / box.width;
    const y = (event.clientY - box.top) / box.height;
    this.placed.emit([within(this.turned() ? 1 - x : x), within(y)]);
  }
}
