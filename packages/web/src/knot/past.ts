/**
 * What can be undone survives a reload: the last states of the knot stand in this tab's own store, and are there again when the same knot
 * is opened as it was left. Another tab, another account and a knot that was saved otherwise meanwhile begin without a past.
 */
import { DestroyRef, inject, Injectable } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { readKnot, remembered, writeKnot, type KnotDocument } from '@foxtrail/core';
import { debounceTime } from 'rxjs';
import * as z from 'zod';
import { SessionService } from '../data/session';
import { BenchStore, type Worked } from './bench-store';

const KEY = 'foxtrail-past';
/** So many states are kept, and so many characters of them: what a tab's store takes without a word. */
const KEPT = 20;
const MOST_LENGTH = 2_000_000;
/** Pause after an edit before its past is written, in milliseconds; leaving the page writes it at once. */
const PAUSE = 800;

const keptSchema = z.object({
  knot: z.string(),
  account: z.string(),
  /** The knot as it was left, as text. */
  now: z.string(),
  /** Earlier states as texts, the earliest first. */
  past: z.array(z.object({ document: z.string(), method: z.number().int().min(0) })),
});
type KeptPast = z.infer<typeof keptSchema>;

/** A state as text: written once, however often it is kept. */
const textOf = remembered((knot: KnotDocument): string => JSON.stringify(writeKnot(knot)));

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
    const now = this.store.knot();
    if (!now || kept?.knot !== knot || kept.account !== this.account || kept.now !== textOf(now)) return;
    this.store.takePast(
      kept.past.flatMap(({ document, method }): Worked[] => {
        const found = readKnot(JSON.parse(document));
        return found.ok ? [{ knot: found.value, method }] : [];
      }),
    );
  }

  private keep(): void {
    const [now, knot] = [this.store.knot(), this.knot];
    if (!now || knot === undefined) return;
    const past: KeptPast['past'] = [];
    let room = MOST_LENGTH - textOf(now).length;
    // The oldest go first.
    for (const state of [...this.store.past(KEPT)].reverse()) {
      const document = textOf(state.knot);
      room -= document.length;
      if (room < 0) break;
      past.unshift({ document, method: state.method });
    }
    try {
      const kept: KeptPast = { knot, account: this.account, now: textOf(now), past };
      sessionStorage.setItem(KEY, JSON.stringify(kept));
    } catch {
      // A full store keeps no past; the work itself is kept elsewhere.
      sessionStorage.removeItem(KEY);
    }
  }
}

function read(): KeptPast | undefined {
  try {
    return keptSchema.safeParse(JSON.parse(sessionStorage.getItem(KEY) ?? 'null')).data;
  } catch {
    return undefined;
  }
}
