/**
 * A film at a glance: pictures at even times, how loud it is beneath, the frames that are marked. A press goes there.
 */
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
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
} from '@angular/core';
import type { StripReport, StripRequest } from './strip-messages';

/** Pictures of a film, and the height at which they are made, in pixels: twice that at which they are shown. */
const PICTURES = 10;
const HEIGHT = 108;
/** Bars of sound. */
const BARS = 200;
/** A sound softer than this is silence. */
const SILENCE = 0.005;

@Component({
  selector: 'ft-film-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failed()) {
      <p class="without">This browser does not read the pictures of this film aside: it is shown without its strip.</p>
    }
    <div class="strip" [hidden]="failed()" (pointerdown)="press($event)">
      <canvas #canvas [width]="width" [height]="height"></canvas>
      @if (wave(); as d) {
        <svg viewBox="0 0 200 24" preserveAspectRatio="none" class="wave" aria-hidden="true">
          <path [attr.d]="d" />
        </svg>
      }
      @for (at of marked(); track at) {
        <span class="marked" [style.left.%]="share(at)" aria-hidden="true"></span>
      }
      <span class="now" [style.left.%]="share(time())" aria-hidden="true"></span>
    </div>
  `,
  styles: `
    :host {
      display: block;
    }
    [hidden] {
      display: none;
    }
    .without {
      margin: 0;
      color: var(--ink-soft);
    }
    .strip {
      position: relative;
      overflow: hidden;
      border-radius: 8px;
      background: #10181e;
      cursor: pointer;
      touch-action: manipulation;
    }
    canvas {
      display: block;
      width: 100%;
      height: 44px;
    }
    .wave {
      display: block;
      width: 100%;
      height: 18px;
      fill: #f0c9a8;
    }
    .now,
    .marked {
      position: absolute;
      top: 0;
      bottom: 0;
      width: 3px;
      margin-left: -1.5px;
      background: #ff8b3d;
    }
    .marked {
      bottom: auto;
      width: 12px;
      height: 12px;
      margin: 3px 0 0 -6px;
      border: 2px solid #fff;
      border-radius: 50%;
      background: #22303a;
    }
  `,
})
export class FilmStrip {
  /** The film: a file of this machine, or where it is fetched from. */
  readonly film = input.required<Blob | string>();
  readonly duration = input.required<number>();
  readonly turned = input(false);
  readonly time = input.required<number>();
  /** Times of the frames that are marked. */
  readonly marked = input<readonly number[]>([]);
  readonly wanted = output<number>();
  /** When each of its frames is shown, in seconds and in order, once that is known. */
  readonly frameTimes = output<Float64Array>();

  protected readonly height = HEIGHT;
  protected readonly width = Math.round((PICTURES * HEIGHT * 16) / 9);
  protected readonly failed = signal(false);
  private readonly bars = signal<Float32Array | undefined>(undefined);
  private readonly pictures = signal<ReadonlyMap<number, ImageBitmap>>(new Map());
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private worker: Worker | undefined;

  /** The sound as one outline about its middle; nothing where it is silent. */
  protected readonly wave = computed(() => {
    const bars = this.bars();
    const most = Math.max(0, ...(bars ?? []));
    if (!bars || most < SILENCE) return undefined;
    const half = (v: number): number => 11 * (v / most) + 0.5;
    const above = [...bars].map((v, i) => `${i} ${12 - half(v)}`);
    const below = [...bars].map((v, i) => `${i} ${12 + half(v)}`).reverse();
    return `M${[...above, ...below].join('L')}Z`;
  });

  protected readonly share = (time: number): number =>
    this.duration() > 0 ? Math.min(100, (100 * time) / this.duration()) : 0;

  constructor() {
    effect(() => {
      const [film, duration] = [this.film(), this.duration()];
      untracked(() => {
        this.stop();
        if (duration > 0) this.read({ film, duration, pictures: PICTURES, height: HEIGHT, bars: BARS });
      });
    });
    effect(() => {
      const context = this.canvas().nativeElement.getContext('2d');
      context?.setTransform(1, 0, 0, 1, 0, 0);
      context?.clearRect(0, 0, this.width, HEIGHT);
      const room = this.width / PICTURES;
      for (const [index, picture] of this.pictures()) {
        // Each is turned by itself, as much of its middle as fits there; their order stays.
        context?.setTransform(this.turned() ? -1 : 1, 0, 0, 1, (index + 0.5) * room, 0);
        const width = Math.min(picture.width, room);
        context?.drawImage(
          picture,
          (picture.width - width) / 2,
          0,
          width,
          picture.height,
          -width / 2,
          0,
          width,
          HEIGHT,
        );
      }
    });
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  private read(request: StripRequest): void {
    const worker = new Worker(new URL('../workers/strip.worker', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<StripReport>): void => {
      if (data.kind === 'picture') {
        this.pictures.update((all) => new Map(all).set(data.index, data.bitmap));
        return;
      }
      if (data.kind === 'frames') {
        this.frameTimes.emit(data.times);
        return;
      }
      if (data.kind === 'sound') this.bars.set(data.bars);
      else this.failed.set(true);
      worker.terminate();
    };
    // It is seen and marked all the same.
    worker.onerror = (): void => this.failed.set(true);
    worker.postMessage(request);
    this.worker = worker;
  }

  /** Lets go of what has been read, and reads no further. */
  private stop(): void {
    this.worker?.terminate();
    for (const picture of this.pictures().values()) picture.close();
    this.pictures.set(new Map());
    this.bars.set(undefined);
    this.failed.set(false);
  }

  protected press(event: PointerEvent): void {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    this.wanted.emit((this.duration() * (event.clientX - box.left)) / box.width);
  }
}
