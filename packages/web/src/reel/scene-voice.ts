/**
 * What is spoken over a scene: recorded while it plays, from a microphone or by the stand-in, against its words; seen as a wave, heard again,
 * exchanged or taken away. What was said before and after is cut off.
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
import type { Voice } from '@foxtrail/core';
import { REELS } from '@foxtrail/core';
import { loudness, peaksOf, SPEAKING_SPEED, spokenPart } from '@foxtrail/core/reel';
import { cameraTrouble, Recorder } from '../film/recorder';
import { FilmSending } from '../film/sending';
import { Select } from '../ui/select';
import { filmAddress } from './film-address';
import { SOUND_RATE } from './film-sound';
import { standInVoice, type StandInVoice } from './stand-in-voice';

const SOURCES = [
  { value: 'microphone', name: 'Microphone' },
  { value: 'stand-in', name: 'Stand-in voice (simulated)' },
] as const;

/** Peaks of the wave that is shown, and its width and height in the units of its drawing. */
const PEAKS = 96;
/** The meter begins so many decibels below full scale; louder than the second it is too loud. */
const METER = { quiet: -50, loud: -3 } as const;
/** Samples that the meter looks at. */
const LOOKED_AT = 1024;

/** Sound that was recorded, all channels as one. */
async function samplesOf(bytes: ArrayBuffer): Promise<Float32Array | undefined> {
  const decoded = await new OfflineAudioContext(1, 1, SOUND_RATE).decodeAudioData(bytes).catch(() => undefined);
  return decoded?.getChannelData(0);
}

/** Peaks as lines about a middle of 16, the loudest as tall as there is room. */
function waveOf(peaks: readonly number[]): string {
  const loudest = peaks.reduce((most, p) => Math.max(most, p), 0.01);
  return peaks
    .map((p, i) => {
      const tall = Math.max(0.5, (15 * p) / loudest);
      return `M${i + 0.5} ${(16 - tall).toFixed(1)}V${(16 + tall).toFixed(1)}`;
    })
    .join('');
}

@Component({
  selector: 'ft-scene-voice',
  imports: [MatButtonModule, MatIconModule, Select],
  providers: [Recorder, FilmSending],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(window:beforeunload)': 'keepPage($event)' },
  templateUrl: './scene-voice.html',
  styleUrl: './scene-voice.scss',
})
export class SceneVoice {
  readonly voice = input<Voice>();
  /** What is to be said. */
  readonly said = input.required<string>();
  readonly mayWrite = input.required<boolean>();
  /** Somebody begins, or ends, to speak: the scene is played meanwhile. */
  readonly speaks = output<boolean>();
  /** What is spoken now; nothing: nobody speaks. */
  readonly spoken = output<Voice | undefined>();

  protected readonly recorder = inject(Recorder);
  protected readonly sending = inject(FilmSending);
  protected readonly sources = SOURCES;
  protected readonly source = signal<(typeof SOURCES)[number]['value']>('microphone');
  private readonly refused = signal<string | undefined>(undefined);
  /** How loud it is by now, from 0 to 1; 1 is too loud. */
  protected readonly level = signal(0);
  protected readonly tooLoud = signal(false);
  /** The wave of the voice, and whether it cannot be had. */
  protected readonly wave = signal<string | undefined>(undefined);
  protected readonly lost = signal(false);
  protected readonly on = computed(() => {
    const state = this.recorder.state();
    return state.kind === 'on' ? state : undefined;
  });
  protected readonly busy = computed(
    () =>
      ['on', 'finishing'].includes(this.recorder.state().kind) ||
      ['reading', 'sending'].includes(this.sending.state().kind),
  );
  protected readonly trouble = computed(() => {
    const [recorded, sent] = [this.recorder.state(), this.sending.state()];
    return recorded.kind === 'failed' ? recorded.reason : sent.kind === 'failed' ? sent.reason : this.refused();
  });
  protected readonly takes = computed(
    () =>
      (60 *
        this.said()
          .split(/\s+/)
          .filter((w) => w !== '').length) /
      SPEAKING_SPEED,
  );
  private stream: MediaStream | undefined;
  private standIn: StandInVoice | undefined;
  private stopMeter: (() => void) | undefined;

  constructor() {
    effect(() => {
      const voice = this.voice();
      untracked(() => void this.draw(voice));
    });
    inject(DestroyRef).onDestroy(() => this.close());
  }

  /** The wave of what is heard. */
  private async draw(voice: Voice | undefined): Promise<void> {
    this.wave.set(undefined);
    this.lost.set(false);
    if (!voice) return;
    const answer = await fetch(filmAddress(voice.sound)).catch(() => undefined);
    const samples = answer?.ok ? await samplesOf(await answer.arrayBuffer()) : undefined;
    if (this.voice() !== voice) return;
    const at = (seconds: number): number => Math.round(seconds * SOUND_RATE);
    this.lost.set(!samples);
    if (samples) this.wave.set(waveOf(peaksOf(samples.subarray(at(voice.from), at(voice.to)), PEAKS)));
  }

  protected async record(): Promise<void> {
    this.refused.set(undefined);
    const stream = await this.open();
    if (!stream) return;
    this.stopMeter = this.measure(stream);
    const recorded = this.recorder.record(stream, 'voice');
    this.speaks.emit(true);
    this.standIn?.begin();
    const sound = await recorded;
    this.close();
    this.speaks.emit(false);
    if (sound) await this.keep(sound);
  }

  private async open(): Promise<MediaStream | undefined> {
    if (this.source() === 'stand-in') {
      this.standIn = standInVoice(this.said(), () => this.recorder.stop());
      return (this.stream = this.standIn.stream);
    }
    try {
      return (this.stream = await navigator.mediaDevices.getUserMedia({ audio: true }));
    } catch (error) {
      this.refused.set(cameraTrouble(error, 'voice'));
      return undefined;
    }
  }

  /** Shows how loud a stream is until it is stopped. */
  private measure(stream: MediaStream): () => void {
    const sound = new AudioContext();
    const meter = new AnalyserNode(sound, { fftSize: LOOKED_AT });
    sound.createMediaStreamSource(stream).connect(meter);
    const samples = new Float32Array(LOOKED_AT);
    let frame = 0;
    const look = (): void => {
      meter.getFloatTimeDomainData(samples);
      const loud = loudness(samples);
      this.level.set(Math.min(1, Math.max(0, (loud - METER.quiet) / -METER.quiet)));
      if (loud > METER.loud) this.tooLoud.set(true);
      frame = requestAnimationFrame(look);
    };
    this.tooLoud.set(false);
    look();
    return () => {
      cancelAnimationFrame(frame);
      void sound.close();
      this.level.set(0);
    };
  }

  /** What was said is cut out of what was recorded, sent, and put over the scene. */
  private async keep(sound: Blob): Promise<void> {
    const samples = await samplesOf(await sound.arrayBuffer());
    const heard = samples && spokenPart(samples, SOUND_RATE);
    if (!heard) {
      this.refused.set(
        'Nothing is heard in it. Come nearer to the microphone, or choose another one, and record it again.',
      );
      return;
    }
    if (heard.to - heard.from > REELS.longest) {
      this.refused.set(
        `It lasts ${(heard.to - heard.from).toFixed(0)} seconds, ${REELS.longest} at most can be kept. Say less, or make two scenes of it.`,
      );
      return;
    }
    const chosen = await this.sending.named(sound, heard.to);
    if (chosen && (await this.sending.send(chosen))) this.spoken.emit({ sound: chosen.film, ...heard });
  }

  protected throwAway(): void {
    this.recorder.abandon();
  }

  private close(): void {
    this.stopMeter?.();
    this.stopMeter = undefined;
    this.standIn?.stop();
    this.standIn = undefined;
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stream = undefined;
  }

  /** What is recorded would be lost with the page. */
  protected keepPage(event: BeforeUnloadEvent): void {
    if (this.busy()) event.preventDefault();
  }
}
