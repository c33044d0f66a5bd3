/**
 * The export of what is on the reel desk: a clip in its shape, captions, script, or all of it in one file; kept for the sheet.
 */
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { knotByMethod, writeKnot, type KnotDocument, type Pace, type View } from '@foxtrail/core';
import { posterTime, spokenOver, toSubRip, toWebVtt } from '@foxtrail/core/reel';
import {
  catchError,
  defer,
  finalize,
  from,
  lastValueFrom,
  of,
  shareReplay,
  switchMap,
  type Observable,
  type Subscription,
} from 'rxjs';
import { inWords } from '../data/problem';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { fileName, saveFile } from '../ui/save-file';
import { exportBundle, scriptPage } from './bundle';
import { captionFontUrl, ExportService } from './export';
import type { ExportReport, ExportRequest, FilmKind, MixedSound } from './export-messages';
import { heardIn, mixedSound, soundWithin } from './film-sound';
import { KIND_NAMES, LINES, RATES, ReelDesk } from './reel-desk';
import { SHAPE_NAMES, SHAPES, type Shape } from './shape';

interface Clip {
  /** The knot that it shows: it is kept with no other. */
  readonly knot: KnotDocument;
  readonly kind: FilmKind;
  /** What is asked of the exporter for the picture that stands for it. */
  readonly poster: ExportRequest;
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
  /** `what` of all that is exported at once. */
  | { readonly kind: 'running'; readonly done: number; readonly total: number; readonly what?: string | undefined }
  | { readonly kind: 'failed'; readonly reason: string }
  | { readonly kind: 'cancelled' };

@Component({
  selector: 'ft-reel-export',
  imports: [MatButtonModule, MatButtonToggleModule, MatIconModule, MatProgressBarModule, MatSlideToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reel-export.html',
  styleUrl: './reel-export.scss',
})
export class ReelExport {
  protected readonly store = inject(BenchStore);
  protected readonly desk = inject(ReelDesk);
  private readonly shelf = inject(ShelfFacts);
  private readonly exporter = inject(ExportService);
  protected readonly shapes = SHAPE_NAMES;
  protected readonly shapeName = (shape: Shape): string => SHAPES[shape].name;
  protected readonly allLines = LINES;
  protected readonly rates = RATES;
  protected readonly kinds = Object.keys(KIND_NAMES) as readonly FilmKind[];
  protected readonly kindName = (kind: FilmKind): string => KIND_NAMES[kind];
  protected readonly exporting = signal<ExportState>({ kind: 'idle' });
  protected readonly clip = signal<Clip | undefined>(undefined);
  protected readonly kept = signal<string | undefined>(undefined);
  /** The knot is no more what the clip shows. */
  protected readonly isBehind = computed(() => this.clip() !== undefined && this.clip()?.knot !== this.store.knot());
  private running: Subscription | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.running?.unsubscribe();
      this.release();
    });
  }

  /** What is asked of the exporter: all of the demonstration as it is set up. */
  private request(): ExportRequest | undefined {
    const knot = this.store.knot();
    const { desk } = this;
    return (
      knot && {
        document: writeKnot(knotByMethod(knot, this.store.inHand())),
        reel: desk.reel() ? desk.reelAt() : undefined,
        pace: desk.pace(),
        view: desk.view(),
        ...desk.size(),
        rate: desk.rate(),
        as: desk.kind(),
        captioned: desk.captioned(),
        fontUrl: captionFontUrl(),
        words: this.store.vocabulary(),
        tail: desk.tail(),
        way: desk.way(),
      }
    );
  }

  protected export(): void {
    const request = this.request();
    const knot = this.store.knot();
    if (!request || !knot) return;
    this.desk.playing.set(false);
    this.release();
    const { pace, view, reel } = request;
    const kind = this.desk.kind();
    const method = this.store.inHand();
    const still = posterTime(this.desk.reel(), this.desk.timeline());
    const poster: ExportRequest = { ...request, as: 'webp', range: [still, still] };
    this.exporting.set({ kind: 'running', done: 0, total: 1 });
    this.running = this.withSound(request).subscribe((r) => {
      if (r.kind === 'progress') this.exporting.set({ kind: 'running', done: r.done, total: r.total });
      else if (r.kind === 'failed') this.exporting.set(r);
      else {
        const blob = new Blob([r.bytes], { type: `video/${kind}` });
        const url = URL.createObjectURL(blob);
        const { duration, frames, seconds } = r;
        this.clip.set({ knot, kind, poster, blob, url, duration, frames, seconds, pace, view, method, reel });
        this.exporting.set({ kind: 'idle' });
      }
    });
  }

  /** What is heard in the demonstration, mixed once for whatever is exported of it; unsubscribing stops that. */
  private heard(): Observable<MixedSound | undefined> {
    const timeline = this.desk.timeline();
    if (heardIn(timeline).length === 0) return of(undefined);
    return defer(() => {
      const stop = new AbortController();
      return from(mixedSound(timeline, stop.signal)).pipe(finalize(() => stop.abort()));
    }).pipe(shareReplay({ bufferSize: 1, refCount: true }));
  }

  /** One export with what is heard in what it shows. */
  private withSound(request: ExportRequest, heard = this.heard()): Observable<ExportReport> {
    return heard.pipe(
      switchMap((all) => {
        const sound = all && request.range ? soundWithin(all, request.range) : all;
        return this.exporter.run({ ...request, sound });
      }),
      catchError((error: unknown) => of<ExportReport>({ kind: 'failed', reason: inWords(error) })),
    );
  }

  /** The clip, a loop of each step, all that goes with them and a list of it, in one file. */
  protected exportAll(): void {
    const request = this.request();
    const knot = this.store.knot();
    if (!request || !knot) return;
    const { desk } = this;
    desk.playing.set(false);
    this.exporting.set({ kind: 'running', done: 0, total: 1 });
    const heard = this.heard();
    const isFilm = ({ as: kind }: ExportRequest): boolean => kind === 'webm' || kind === 'mp4';
    const run = (asked: ExportRequest): Observable<ExportReport> =>
      isFilm(asked) ? this.withSound(asked, heard) : this.exporter.run(asked);
    this.running = exportBundle(
      { run },
      {
        request,
        knot,
        scene: desk.scene(),
        method: desk.shownMethod(),
        shape: desk.shape(),
        reel: desk.reel()?.name,
        cautions: desk.cautions(),
        perLine: this.desk.perLine(),
      },
    ).subscribe((r) => {
      if (r.kind !== 'finished') this.exporting.set(r);
      else {
        saveFile(r.bundle, `${fileName(knot.name)}-reel.zip`);
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

  private name(): string {
    return this.store.knot()?.name ?? 'knot';
  }

  protected saveClip(): void {
    const clip = this.clip();
    if (clip) saveFile(clip.blob, `${fileName(this.name())}.${clip.kind}`);
  }

  protected saveCaptions(kind: 'vtt' | 'srt'): void {
    const timeline = this.desk.timeline();
    const [text, type] =
      kind === 'vtt'
        ? [toWebVtt(timeline, this.name(), this.desk.perLine()), 'text/vtt']
        : [toSubRip(timeline, this.desk.perLine()), 'application/x-subrip'];
    saveFile(new Blob([text], { type }), `${fileName(this.name())}.${kind}`);
  }

  protected saveScript(): void {
    const page = scriptPage(this.name(), spokenOver(this.desk.timeline()));
    saveFile(new Blob([page], { type: 'text/html' }), `${fileName(this.name())}-script.html`);
  }

  protected keep(): void {
    const clip = this.clip();
    if (!clip || this.isBehind()) return;
    this.kept.set('Being stored …');
    const picture = lastValueFrom(this.exporter.run(clip.poster)).then((r) =>
      r.kind === 'finished' ? new Blob([r.bytes], { type: 'image/webp' }) : undefined,
    );
    this.shelf.keepClip(clip.blob, { ...clip, reel: clip.reel ?? null }, picture).then(
      () => this.kept.set('Kept with the sheet.'),
      (error: unknown) => this.kept.set(inWords(error)),
    );
  }
}
