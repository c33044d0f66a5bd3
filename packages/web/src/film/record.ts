/**
 * A take, recorded here: from a camera of this machine, or from the stand-in, which is simulated and says so.
 */
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
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { crossingsOf, finishedFigure, type Method } from '@foxtrail/core';
import { standInTake, type StandInTake, type StandInWishes } from '@foxtrail/core/reel';
import { Select, type Choice } from '../ui/select';
import { cameraTrouble, Recorder } from './recorder';
import { standInCamera, type StandInCamera } from './stand-in';

const STAND_IN = 'stand-in';
/** How cameras are told apart before a page may use one. */
const NAMELESS = 'camera ';
/** What is asked of a camera; it gives what comes nearest. */
const PICTURE = { width: { ideal: 1280 }, height: { ideal: 720 }, frameRate: { ideal: 30 } } as const;
/** The stand-in's last frame is still recorded, in milliseconds. */
const AFTER = 300;

const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

@Component({
  selector: 'ft-record',
  imports: [MatButtonModule, MatIconModule, MatSlideToggleModule, Select],
  providers: [Recorder],
  host: { '(window:beforeunload)': 'keepPage($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="picture">
      <video
        autoplay
        playsinline
        [muted]="true"
        [srcObject]="stream()"
        aria-label="What the camera sees, as it will be recorded"
      ></video>
      @if (on(); as o) {
        <p class="on" role="timer">
          <span aria-hidden="true"></span>{{ clock(o.seconds) }} · {{ (o.bytes / 1048576).toFixed(1) }} MiB
        </p>
      }
    </div>
    @if (trouble(); as text) {
      <p class="warn" role="alert">{{ text }}</p>
    }
    @if (mute() && sound() && stream() && !isStandIn()) {
      <p class="says" role="status">No microphone can be had: it is recorded without sound.</p>
    }
    @if (isStandIn()) {
      <p class="says">
        The stand-in camera is simulated: it films the drawing of this knot being tied, to rehearse where there is no
        camera.
      </p>
    }
    <div class="row">
      <ft-select
        label="Camera"
        [from]="cameras()"
        [value]="shownCamera()"
        [disabled]="busy()"
        (valueChange)="camera.set($event || stand)"
      />
      @if (isStandIn()) {
        <ft-select
          label="A crossing laid the other way"
          none="every crossing right"
          [from]="crossings()"
          [value]="wrong()"
          [disabled]="busy()"
          (valueChange)="wrong.set($event)"
        />
        <mat-slide-toggle [checked]="mirrored()" [disabled]="busy()" (change)="mirrored.set($event.checked)"
          >In a mirror</mat-slide-toggle
        >
        <mat-slide-toggle [checked]="leftHanded()" [disabled]="busy()" (change)="leftHanded.set($event.checked)"
          >By a left hand</mat-slide-toggle
        >
      } @else {
        <mat-slide-toggle [checked]="sound()" [disabled]="busy()" (change)="sound.set($event.checked)"
          >With sound</mat-slide-toggle
        >
      }
    </div>
    <div class="row">
      @if (recorder.isOn()) {
        <button mat-flat-button type="button" class="main" (click)="recorder.stop()">Stop and keep it</button>
        <button mat-stroked-button type="button" (click)="throwAway()">Throw it away</button>
      } @else {
        <button mat-flat-button type="button" class="main" [disabled]="!stream() || busy()" (click)="record()">
          <mat-icon svgIcon="record" />{{ busy() ? 'It is made ready …' : 'Record' }}
        </button>
        <button mat-stroked-button type="button" [disabled]="busy()" (click)="left.emit()">Back without a film</button>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
    }
    .picture {
      position: relative;
      max-width: min(100%, calc((100vh - 330px) * 16 / 9));
      justify-self: center;
      width: 100%;
      aspect-ratio: 16 / 9;
      overflow: hidden;
      border-radius: 10px;
      background: #000;
    }
    video {
      width: 100%;
      height: 100%;
      object-fit: contain;
    }
    .on {
      position: absolute;
      top: 12px;
      right: 12px;
      display: flex;
      gap: 8px;
      align-items: center;
      margin: 0;
      padding: 6px 12px;
      border-radius: 18px;
      background: rgb(16 24 30 / 80%);
      color: #fff;
      font-size: 18px;
      font-variant-numeric: tabular-nums;
    }
    .on span {
      width: 12px;
      height: 12px;
      border-radius: 50%;
      background: #ff5a3d;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 20px;
      align-items: center;
    }
    .row ft-select {
      min-width: 220px;
    }
    .main {
      min-width: 180px;
      min-height: 52px;
      font-size: 17px;
    }
    .row button {
      min-height: 52px;
    }
    .says,
    .warn {
      margin: 0;
      font-size: 16px;
    }
    .warn {
      color: var(--plum);
    }
  `,
})
export class RecordFilm {
  readonly method = input.required<Method>();
  /** What a film is called that is recorded now. */
  readonly name = input.required<string>();
  readonly taken = output<File>();
  readonly left = output();

  protected readonly recorder = inject(Recorder);
  protected readonly stand = STAND_IN;
  protected readonly clock = clock;
  private readonly found = signal<readonly Choice<string>[]>([]);
  protected readonly cameras = computed(() => [
    ...this.found(),
    { value: STAND_IN, name: 'Stand-in camera (simulated)' },
  ]);
  protected readonly camera = signal<string>(STAND_IN);
  protected readonly isStandIn = computed(() => this.camera() === STAND_IN);
  protected readonly sound = signal(true);
  protected readonly mirrored = signal(false);
  protected readonly leftHanded = signal(false);
  protected readonly wrong = signal<number | ''>('');
  private readonly wishes = computed((): StandInWishes => ({
    mirrored: this.mirrored(),
    leftHanded: this.leftHanded(),
    wrong: this.wrong() || undefined,
  }));
  protected readonly crossings = computed((): readonly Choice<number>[] =>
    crossingsOf(finishedFigure(this.method())).map(({ number }) => ({
      value: number,
      name: `crossing ${number} wrong`,
    })),
  );
  protected readonly stream = signal<MediaStream | null>(null);
  private readonly refused = signal<string | undefined>(undefined);
  protected readonly on = computed(() => {
    const state = this.recorder.state();
    return state.kind === 'on' ? state : undefined;
  });
  protected readonly busy = computed(() => ['on', 'finishing'].includes(this.recorder.state().kind));
  protected readonly trouble = computed(() => {
    const state = this.recorder.state();
    return state.kind === 'failed' ? state.reason : this.refused();
  });
  /** No microphone can be had. */
  protected readonly mute = signal(false);
  /** The camera that was had before cameras had names here. */
  private readonly named = signal<string | undefined>(undefined);
  /** The one that is chosen among those that have names by now. */
  protected readonly shownCamera = computed(() =>
    this.camera().startsWith(NAMELESS) ? (this.named() ?? this.camera()) : this.camera(),
  );
  private standIn: StandInCamera | undefined;
  /** Which of several openings is the newest: a camera that answers late is closed again. */
  private turn = 0;

  constructor() {
    void this.look(true);
    effect(() => {
      const camera = this.camera();
      // A camera looks at what is before it; only the stand-in begins anew with another knot or other wishes.
      const take = camera === STAND_IN ? standInTake(this.method(), this.wishes()) : undefined;
      const sound = this.sound();
      untracked(() => {
        this.close();
        if (take) this.openStandIn(take);
        else void this.open(camera, sound);
      });
    });
    inject(DestroyRef).onDestroy(() => this.close());
  }

  /** Looks for cameras; the first that is found is chosen. */
  private async look(choose = false): Promise<void> {
    // Pages that come over plain HTTP from another machine are given none.
    const devices = 'mediaDevices' in navigator ? await navigator.mediaDevices.enumerateDevices().catch(() => []) : [];
    const cameras = devices.filter((d) => d.kind === 'videoinput');
    this.found.set(
      cameras.map((d, i) => ({ value: d.deviceId || `${NAMELESS}${i}`, name: d.label || `Camera ${i + 1}` })),
    );
    const [first] = this.found();
    if (choose && first) this.camera.set(first.value);
  }

  private openStandIn(take: StandInTake): void {
    this.standIn = standInCamera(take, () => setTimeout(() => this.recorder.stop(), AFTER));
    this.stream.set(this.standIn.stream);
  }

  private async open(camera: string, sound: boolean): Promise<void> {
    const turn = (this.turn += 1);
    const nameless = camera.startsWith(NAMELESS);
    const video = { ...PICTURE, ...(nameless ? {} : { deviceId: { exact: camera } }) };
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ video, audio: sound });
      // What cameras are called is told only to pages that may use one.
      if (turn === this.turn) await this.look();
      if (turn !== this.turn) {
        for (const track of stream.getTracks()) track.stop();
        return;
      }
      if (sound) this.mute.set(false);
      this.stream.set(stream);
      if (nameless) this.named.set(stream.getVideoTracks()[0]?.getSettings().deviceId);
    } catch (error) {
      if (turn !== this.turn) return;
      // A camera may be had where no microphone is.
      if (sound) {
        this.mute.set(true);
        await this.open(camera, false);
      } else this.refused.set(cameraTrouble(error));
    }
  }

  private close(): void {
    this.turn += 1;
    this.standIn?.stop();
    this.standIn = undefined;
    for (const track of this.stream()?.getTracks() ?? []) track.stop();
    this.stream.set(null);
    this.refused.set(undefined);
  }

  /** What is recorded is thrown away; the stand-in stands at the beginning again. */
  protected throwAway(): void {
    this.recorder.abandon();
    if (!this.isStandIn()) return;
    this.close();
    this.openStandIn(standInTake(this.method(), this.wishes()));
  }

  /** A recording that goes on would be lost with the page. */
  protected keepPage(event: BeforeUnloadEvent): void {
    if (this.busy()) event.preventDefault();
  }

  protected async record(): Promise<void> {
    const stream = this.stream();
    if (!stream) return;
    const recorded = this.recorder.record(stream);
    this.standIn?.begin();
    const film = await recorded;
    if (!film) return;
    const ending = film.type === 'video/mp4' ? 'mp4' : 'webm';
    this.taken.emit(new File([film], `${this.name()}.${ending}`, { type: film.type }));
  }
}
