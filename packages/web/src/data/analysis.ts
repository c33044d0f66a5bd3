/**
 * What the core says of the method on the bench, computed in a worker: the latest request wins, older ones are dropped.
 */
import { DestroyRef, inject, Injectable } from '@angular/core';
import type { FigureFile, Finding, HousePractice, Vocabulary } from '@foxtrail/core';
import { Observable } from 'rxjs';

export interface AnalysisRequest {
  readonly id: number;
  readonly document: FigureFile;
  /** Index of the method that is worked on. */
  readonly method: number;
  readonly practice: HousePractice;
  readonly words: Vocabulary;
}

export interface ClosureReport {
  /** The Jones polynomial as text, or why there is none. */
  readonly jones?: string;
  /** The polynomial is that of separate plain rings: nothing is known to be held. */
  readonly trivial?: boolean;
  readonly components?: number;
  readonly writhe?: number;
  readonly reason?: string;
}

export interface Analysis {
  readonly id: number;
  readonly findings: readonly Finding[];
  readonly closure: ClosureReport;
  readonly windings: readonly { readonly rope: string; readonly host: string; readonly turns: number }[];
  /** Milliseconds it took. */
  readonly took: number;
}

@Injectable()
export class AnalysisService {
  private readonly worker = new Worker(new URL('../workers/analysis.worker', import.meta.url), { type: 'module' });
  private next = 0;
  private busy: number | undefined;
  private waiting: AnalysisRequest | undefined;

  readonly results = new Observable<Analysis>((subscriber) => {
    // A request that fails is a bug; the next one still has to be answered.
    this.worker.onerror = (): void => {
      this.busy = undefined;
      if (this.waiting) this.send(this.waiting);
      this.waiting = undefined;
    };
    this.worker.onmessage = (event: MessageEvent<Analysis>): void => {
      this.busy = undefined;
      if (this.waiting) {
        this.send(this.waiting);
        this.waiting = undefined;
      } else subscriber.next(event.data);
    };
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
  }

  request(document: FigureFile, method: number, practice: HousePractice, words: Vocabulary): void {
    const request = { id: (this.next += 1), document, method, practice, words };
    if (this.busy === undefined) this.send(request);
    else this.waiting = request;
  }

  private send(request: AnalysisRequest): void {
    this.busy = request.id;
    this.worker.postMessage(request);
  }
}
