/**
 * Places followed through a film, in a worker: with progress, to be stopped.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { FollowReport, FollowRequest } from './follow-messages';

export type Following =
  | { readonly kind: 'idle' }
  | { readonly kind: 'on'; readonly share: number }
  | { readonly kind: 'failed'; readonly reason: string };

/** Where places were found. */
export type Followed = Extract<FollowReport, { kind: 'finished' }>;

const VAGUE =
  'What lies there looks like what is about it. Press a corner, a mark or an end, something that is seen by itself.';

@Injectable()
export class FilmFollowing {
  readonly state = signal<Following>({ kind: 'idle' });
  private worker: Worker | undefined;
  private done: ((found: Followed | undefined) => void) | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  /** Follows places; resolves to where they were found, or to nothing where that failed or was stopped. */
  follow(request: FollowRequest): Promise<Followed | undefined> {
    this.stop();
    this.state.set({ kind: 'on', share: 0 });
    const worker = (this.worker = new Worker(new URL('../workers/follow.worker', import.meta.url), { type: 'module' }));
    return new Promise((resolve) => {
      this.done = resolve;
      worker.onmessage = ({ data }: MessageEvent<FollowReport>): void => {
        if (data.kind === 'progress') this.state.set({ kind: 'on', share: data.share });
        else if (data.kind === 'finished') this.end(data, { kind: 'idle' });
        else this.end(undefined, { kind: 'failed', reason: data.kind === 'vague' ? VAGUE : data.reason });
      };
      worker.onerror = (): void =>
        this.end(undefined, { kind: 'failed', reason: 'Following broke off. Try it once more.' });
      worker.postMessage(request);
    });
  }

  /** Says why what was found is of no use. */
  fail(reason: string): void {
    this.state.set({ kind: 'failed', reason });
  }

  stop(): void {
    this.end(undefined, { kind: 'idle' });
  }

  private end(found: Followed | undefined, state: Following): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.state.set(state);
    this.done?.(found);
    this.done = undefined;
  }
}
