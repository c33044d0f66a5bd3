/**
 * What can be undone survives a reload: the last states of the knot stand in this tab's own store, and are there again when the same knot
 * is opened as it was left. Another tab, another account and a knot that was saved otherwise meanwhile begin without a past.
 */
import { DestroyRef, inject, Injectable } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { readKnot, writeKnot, type FigureFile } from '@foxtrail/core';
import { debounceTime } from 'rxjs';
import { SessionService } from '../data/session';
import { BenchStore, type Worked } from './bench-store';

const KEY = 'foxtrail-past';
/** So many states are kept, and so many characters of them: what a tab's store takes without a word. */
const KEPT = 20;
const MOST_LENGTH = 2_000_000;
/** Pause after an edit before its past is written, in milliseconds; leaving the page writes it at once. */
const PAUSE = 800;

interface KeptPast {
  readonly knot: string;
  readonly account: string;
  /** The knot as it was left. */
  readonly now: string;
  readonly past: readonly { readonly document: FigureFile; readonly method: number }[];
}

@Injectable()
export class Past {
  private readonly store = inject(BenchStore);
  private readonly sessions = inject(SessionService);
  private knot: string | undefined;

  constructor() {
    this.store.edits.pipe(debounceTime(PAUSE), takeUntilDestroyed()).subscribe(() => this.keep());
    const leave = (): void => this.keep();
    addEventListener('pagehide', leave);
    inject(DestroyRef).onDestroy(() => removeEventListener('pagehide', leave));
  }

  private get account(): string {
    return this.sessions.session()?.account?.id ?? '';
  }

  /** A knot has been laid on the bench: what could be undone when it was left can be undone again. */
  open(knot: string): void {
    this.knot = knot;
    const kept = read();
    const now = JSON.stringify(this.store.document());
    if (kept?.knot !== knot || kept.account !== this.account || kept.now !== now) return;
    this.store.takePast(
      kept.past.flatMap(({ document, method }): Worked[] => {
        const found = readKnot(document);
        return found.ok ? [{ knot: found.value, method }] : [];
      }),
    );
  }

  private keep(): void {
    const [document, knot] = [this.store.document(), this.knot];
    if (!document || knot === undefined) return;
    let past = this.store.past(KEPT).map((w) => ({ document: writeKnot(w.knot), method: w.method }));
    const text = (): string =>
      JSON.stringify({ knot, account: this.account, now: JSON.stringify(document), past } satisfies KeptPast);
    // The oldest go first.
    while (past.length > 0 && text().length > MOST_LENGTH) past = past.slice(Math.ceil(past.length / 2));
    try {
      sessionStorage.setItem(KEY, text());
    } catch {
      // A full store keeps no past; the work itself is kept elsewhere.
      sessionStorage.removeItem(KEY);
    }
  }
}

function read(): KeptPast | undefined {
  try {
    return JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as KeptPast | undefined;
  } catch {
    return undefined;
  }
}
