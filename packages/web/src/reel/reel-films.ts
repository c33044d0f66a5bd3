/**
 * The films that scenes of a reel show, at the time that is shown of each: pictures for the canvas, and their sound while it plays.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { filmAddress } from './film-address';
import type { FilmPicture } from './scene';

/** A film that runs is left to run unless it is this far off, in seconds; one that rests is put in its place. */
const DRIFT = 0.2;
const SAME = 0.01;

/** What is shown of a film: its time, in seconds, and how many times as quick as it was filmed it runs; 0 where it stands. */
export interface FilmNow {
  readonly film: string;
  readonly time: number;
  readonly speed: number;
}

@Injectable()
export class ReelFilms {
  private readonly videos = new Map<string, HTMLVideoElement>();
  /** Counts the pictures that have come. */
  readonly came = signal(0);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      for (const video of this.videos.values()) {
        video.pause();
        video.removeAttribute('src');
        video.load();
      }
    });
  }

  /** The picture of a film that is shown by now, or that it cannot be had. */
  picture(film: string): FilmPicture | 'lost' | undefined {
    const video = this.videos.get(film);
    if (video?.error) return 'lost';
    return video && video.readyState >= HTMLMediaElement.HAVE_CURRENT_DATA && video.videoWidth > 0
      ? { image: video, width: video.videoWidth, height: video.videoHeight }
      : undefined;
  }

  /** Shows a film at a time, and no other; without one all stand still. */
  show(now: FilmNow | undefined): void {
    for (const [film, video] of this.videos) if (film !== now?.film && !video.paused) video.pause();
    if (!now) return;
    const video = this.videos.get(now.film) ?? this.fetched(now.film);
    if (video.readyState < HTMLMediaElement.HAVE_METADATA) return;
    const off = Math.abs(video.currentTime - now.time);
    if (now.speed <= 0) {
      if (!video.paused) video.pause();
      if (off > SAME && !video.seeking) video.currentTime = now.time;
      return;
    }
    video.playbackRate = Math.min(16, Math.max(0.0625, now.speed));
    if (off > DRIFT && !video.seeking) video.currentTime = now.time;
    // A page on which nothing was pressed may not sound: it plays on without.
    if (video.paused)
      void video.play().catch(() => {
        video.muted = true;
        void video.play().catch(() => undefined);
      });
  }

  private fetched(film: string): HTMLVideoElement {
    const video = document.createElement('video');
    video.preload = 'auto';
    video.playsInline = true;
    const came = (): void => this.came.update((n) => n + 1);
    for (const event of ['loadeddata', 'seeked', 'error']) video.addEventListener(event, came);
    video.src = filmAddress(film);
    this.videos.set(film, video);
    return video;
  }
}
