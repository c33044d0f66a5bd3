/**
 * The films that scenes of a reel show, and the voices that are heard over them, at the time that is shown of each: pictures for the
 * canvas, and their sound while it plays.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { filmAddress } from './film-address';
import type { FilmPicture } from './scene';

/** A film that runs is left to run unless it is this far off, in seconds; one that rests is put in its place. */
const DRIFT = 0.2;
const SAME = 0.01;

/**
 * What is shown of a film, or heard of a voice: its time, in seconds, how many times as quick as it was filmed it runs, 0 where it stands,
 * and how loud it is, 1 as it was taken.
 */
export interface FilmNow {
  readonly film: string;
  readonly time: number;
  readonly speed: number;
  readonly loud: number;
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

  /** Shows films at their times, and no other: those stand still. */
  show(now: readonly FilmNow[]): void {
    for (const [film, video] of this.videos) if (!video.paused && now.every((n) => n.film !== film)) video.pause();
    for (const one of now) this.bring(one);
  }

  private bring({ film, time, speed, loud }: FilmNow): void {
    const video = this.videos.get(film) ?? this.fetched(film);
    if (video.readyState < HTMLMediaElement.HAVE_METADATA) return;
    video.volume = loud;
    const off = Math.abs(video.currentTime - time);
    if (speed <= 0) {
      if (!video.paused) video.pause();
      if (off > SAME && !video.seeking) video.currentTime = time;
      return;
    }
    video.playbackRate = Math.min(16, Math.max(0.0625, speed));
    if (off > DRIFT && !video.seeking) video.currentTime = time;
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
