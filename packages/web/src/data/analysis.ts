/**
 * What the core says of the method on the bench, computed in a worker: the latest request wins, older ones are dropped.
 */
import { DestroyRef, inject, Injectable } from '@angular/core';
import type { FigureFile, Finding, HousePractice, Vocabulary } from '@foxtrail/core';
import { Subject } from 'rxjs';
import { WorkDesk } from './work-desk';

export interface AnalysisOrder {
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
  readonly findings: readonly Finding[];
  readonly closure: ClosureReport;
  readonly windings: readonly { readonly rope: string; readonly host: string; readonly turns: number }[];
  /** Milliseconds it took. */
  readonly took: number;
}

@Injectable()
export class AnalysisService {
  private readonly desk = new WorkDesk();
  private readonly found = new Subject<Analysis>();
  readonly results = this.found.asObservable();

  constructor() {
    inject(DestroyRef).onDestroy(() => this.desk.close());
  }

  request(document: FigureFile, method: number, practice: HousePractice, words: Vocabulary): void {
    void this.desk.order('analysis', { document, method, practice, words }).then((done) => {
      if (done?.ok) this.found.next(done.value);
      else if (done) this.found.next({ findings: [], closure: { reason: done.reason }, windings: [], took: 0 });
    });
  }
}
