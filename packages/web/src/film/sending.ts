/**
 * Sending a film: it is named by its contents, and its pieces are sent one after another; what has come is not sent again, so that a
 * film whose sending broke off goes on where it stopped.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { FILM_LIMIT, FILM_PIECE, FILM_ROUTES } from '@foxtrail/contract';
import { contentsName, filmType } from '@foxtrail/core/footage';
import { firstValueFrom, retry, throwError, timer, type Observable } from 'rxjs';
import { Api } from '../data/api';
import { inWords, troubleOf } from '../data/problem';

export type Sending =
  | { readonly kind: 'idle' }
  | { readonly kind: 'reading' | 'sending'; readonly share: number }
  | { readonly kind: 'failed'; readonly reason: string };

/** What may be sent: a film, or a voice, which is kept as films are. */
export interface ChosenFilm {
  readonly file: Blob;
  /** Its name by its contents. */
  readonly film: string;
  readonly duration: number;
}

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(0)} MiB`;

/** How long a film is in seconds; nothing where this browser cannot play its picture. */
function durationOf(url: string): Promise<number | undefined> {
  const video = document.createElement('video');
  video.preload = 'metadata';
  video.muted = true;
  return new Promise((resolve) => {
    const end = (duration?: number): void => {
      video.onloadedmetadata = video.onerror = video.ondurationchange = null;
      video.removeAttribute('src');
      resolve(duration);
    };
    video.onerror = (): void => end();
    video.onloadedmetadata = (): void => {
      if (video.videoWidth === 0) end();
      else if (Number.isFinite(video.duration)) end(video.duration);
      else {
        // What a recorder has written does not say how long it is: it is known once its end has been looked for.
        video.ondurationchange = (): void => {
          if (Number.isFinite(video.duration)) end(video.duration);
        };
        video.currentTime = 1e7;
      }
    };
    video.src = url;
  });
}

/** What can be told of a file before it is read wholly; or why it cannot be taken. */
async function lookAt(file: File): Promise<{ readonly duration: number } | string> {
  if (file.size === 0) return 'The file is empty. Choose another one.';
  if (file.size > FILM_LIMIT)
    return `It has ${megabytes(file.size)}; a film has ${megabytes(FILM_LIMIT)} at most. Cut it, or save it at a smaller size.`;
  if (!filmType(new Uint8Array(await file.slice(0, 12).arrayBuffer())))
    return 'It is neither a WebM nor an MP4 file. Convert it to one of them, then choose it again.';
  const url = URL.createObjectURL(file);
  const duration = await durationOf(url);
  URL.revokeObjectURL(url);
  return duration === undefined
    ? 'This browser shows no picture of it. Convert it to WebM (VP9) or MP4 (H.264), then choose it again.'
    : { duration };
}

@Injectable()
export class FilmSending {
  private readonly api = inject(Api);
  readonly state = signal<Sending>({ kind: 'idle' });
  private turn = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  /** Stops reading or sending; what has come stays, and is not sent again. */
  stop(): void {
    this.turn += 1;
    this.state.set({ kind: 'idle' });
  }

  /** Reads a file: whether it can be played, how long it is, what it is called by its contents. Nothing where it cannot be taken. */
  async read(file: File): Promise<ChosenFilm | undefined> {
    const turn = (this.turn += 1);
    this.state.set({ kind: 'reading', share: 0 });
    const looked = await lookAt(file);
    if (turn !== this.turn) return undefined;
    if (typeof looked === 'string') {
      this.state.set({ kind: 'failed', reason: looked });
      return undefined;
    }
    return this.named(file, looked.duration);
  }

  /** What a recording is called by its contents; its duration is known. Nothing where it was stopped. */
  async named(file: Blob, duration: number): Promise<ChosenFilm | undefined> {
    const turn = (this.turn += 1);
    const contents = contentsName();
    for (let from = 0; from < file.size; from += FILM_PIECE) {
      contents.take(new Uint8Array(await file.slice(from, from + FILM_PIECE).arrayBuffer()));
      if (turn !== this.turn) return undefined;
      this.state.set({ kind: 'reading', share: Math.min(1, (from + FILM_PIECE) / file.size) });
    }
    return { file, film: contents.name(), duration };
  }

  /** How long a piece that did not go through waits before it is sent again, each time, in milliseconds. */
  pauses: readonly number[] = [1000, 3000, 9000];

  /** Waits before a piece is sent again: a server that is busy, or not there for a moment, may take it then. What it refuses it refuses again. */
  private pause(error: unknown, time: number): Observable<unknown> {
    const { status } = troubleOf(error);
    return status === 0 || status === 429 || status >= 502
      ? timer(this.pauses[time - 1] ?? 0)
      : throwError(() => error);
  }

  /** Sends a film, from where it stopped. Resolves to whether it is there wholly. */
  async send({ file, film }: ChosenFilm): Promise<boolean> {
    const turn = (this.turn += 1);
    this.state.set({ kind: 'sending', share: 0 });
    const parameters = { film };
    try {
      const begun = await firstValueFrom(this.api.call(FILM_ROUTES.begin, { parameters, body: { size: file.size } }));
      const there = new Set(begun.pieces);
      const count = Math.ceil(file.size / FILM_PIECE);
      for (let piece = 0; piece < count && begun.type === null; piece += 1) {
        if (turn !== this.turn) return false;
        this.state.set({ kind: 'sending', share: piece / count });
        if (there.has(piece)) continue;
        await firstValueFrom(
          this.api
            .call(FILM_ROUTES.piece, {
              parameters: { ...parameters, piece },
              body: file.slice(piece * FILM_PIECE, (piece + 1) * FILM_PIECE),
              headers: { 'Content-Type': 'application/octet-stream' },
            })
            .pipe(retry({ count: this.pauses.length, delay: (error, n) => this.pause(error, n) })),
        );
      }
      await firstValueFrom(this.api.call(FILM_ROUTES.take, { parameters }));
      if (turn === this.turn) this.state.set({ kind: 'idle' });
      return true;
    } catch (error) {
      if (turn === this.turn) this.state.set({ kind: 'failed', reason: inWords(error) });
      return false;
    }
  }
}
