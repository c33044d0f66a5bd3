/**
 * The way of the open knot to the server. Every edit goes to the outbox at once and to the server within a second. With the server
 * gone the author goes on; with the session ended the author signs in over the bench; when two versions meet, neither is lost.
 */
import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { KnotCard } from '@foxtrail/contract';
import { readKnot, sayRefusal, writeKnot, type FigureFile, type Result } from '@foxtrail/core';
import { debounceTime, exhaustMap, firstValueFrom, from, Subject, timer } from 'rxjs';
import { Api } from '../data/api';
import { Outbox, type Unsaved } from '../data/outbox';
import { troubleOf } from '../data/problem';
import { BenchStore } from './bench-store';
import { maySend, saveAfter, type SaveEvent, type SaveState } from './save-state';

/** Pause after an edit before it is sent: within a second, but not for every point of a drag. In milliseconds. */
const SAVE_PAUSE = 600;
/** Pause before a server that did not answer is tried again. */
const RETRY_PAUSE = 4000;
/** Room that a name leaves for what is put behind it. */
const NAME_ROOM = 66;

@Injectable()
export class Saving {
  private readonly api = inject(Api);
  private readonly outbox = inject(Outbox);
  private readonly store = inject(BenchStore);

  private readonly stateNow = signal<SaveState>({ kind: 'saved', at: '' });
  readonly state = this.stateNow.asReadonly();
  /** What the server last said of the knot. */
  readonly card = signal<KnotCard | undefined>(undefined);
  /** A draft that was found in the outbox when the knot was opened. */
  readonly recovered = signal(false);

  /** The revision that what is on the bench was made from. */
  private baseNow = 0;
  /** Counts edits, so that what was changed during a save is sent after it. */
  private version = 0;
  private inFlight: Promise<void> | undefined;
  private readonly due = new Subject<void>();

  constructor() {
    this.due
      .pipe(
        debounceTime(SAVE_PAUSE),
        exhaustMap(() => from(this.send())),
        takeUntilDestroyed(),
      )
      .subscribe();
    this.store.edits.pipe(takeUntilDestroyed()).subscribe(() => this.edited());
    const warn = (event: BeforeUnloadEvent): void => {
      if (this.state().kind === 'unsaved') event.preventDefault();
    };
    addEventListener('beforeunload', warn);
    inject(DestroyRef).onDestroy(() => removeEventListener('beforeunload', warn));
  }

  get base(): number {
    return this.baseNow;
  }

  private on(event: SaveEvent): void {
    this.stateNow.update((state) => saveAfter(state, event));
  }

  /** What was kept of a knot in an earlier visit, if anything. */
  async kept(id: string): Promise<Unsaved | undefined> {
    return this.outbox.get(id).catch(() => undefined);
  }

  /** Lays what the server sent on the bench. */
  open(card: KnotCard, document: FigureFile): Result<unknown> {
    const read = readKnot(document);
    if (!read.ok) return read;
    this.baseNow = card.revision;
    this.card.set(card);
    this.store.lay(read.value);
    this.on({ kind: 'opened', at: card.updatedAt, mayWrite: this.store.mayWrite() });
    return read;
  }

  /** Takes up what was kept of an earlier visit. A server that has moved on since then is met as a conflict. */
  recover({ base, document }: Unsaved): void {
    const read = readKnot(document);
    if (!read.ok || !this.store.mayWrite()) return;
    this.baseNow = base;
    this.store.lay(read.value);
    this.recovered.set(true);
    this.edited();
  }

  private edited(): void {
    this.version += 1;
    const [document, card] = [this.store.document(), this.card()];
    if (!document || !card) return;
    this.on({ kind: 'edited' });
    void this.outbox.put({ knot: card.id, base: this.baseNow, document, at: Date.now() }).catch(() => undefined);
    this.due.next();
  }

  /** Saves now, without waiting for the pause; resolves when it is settled. */
  async flush(): Promise<void> {
    if (this.state().kind === 'saving') await this.send();
    if (this.state().kind !== 'saved') await this.send();
  }

  /** Tries again after a sign-in. */
  retry(): void {
    this.on({ kind: 'settled' });
    this.due.next();
  }

  /** One request at a time: a second one would meet the first as a conflict. */
  private send(): Promise<void> {
    this.inFlight ??= this.transmit().finally(() => (this.inFlight = undefined));
    return this.inFlight;
  }

  private async transmit(): Promise<void> {
    const [document, card] = [this.store.document(), this.card()];
    if (!document || !card || !maySend(this.state())) return;
    const { version } = this;
    this.on({ kind: 'sent' });
    try {
      const after = await firstValueFrom(this.api.save(card.id, this.baseNow, document));
      this.baseNow = after.revision;
      this.card.set(after);
      const whole = version === this.version;
      this.on({ kind: 'answered', at: after.updatedAt, whole });
      if (whole) await this.forget(card.id);
      else this.due.next();
    } catch (error) {
      this.on({ kind: 'failed', trouble: troubleOf(error) });
      if (this.state().kind === 'kept-here') timer(RETRY_PAUSE).subscribe(() => this.due.next());
    }
  }

  private async forget(id: string): Promise<void> {
    await this.outbox.remove(id).catch(() => undefined);
  }

  /** Conflict: mine goes on as the next revision; theirs stays in the history of revisions. */
  async keepMine(): Promise<void> {
    const state = this.state();
    if (state.kind !== 'conflict') return;
    this.baseNow = state.theirs.card.revision;
    this.on({ kind: 'settled' });
    await this.send();
  }

  /** Conflict: theirs goes on; mine becomes a knot of its own. */
  async keepBoth(): Promise<KnotCard | undefined> {
    const knot = this.store.knot();
    if (this.state().kind !== 'conflict' || !knot) return undefined;
    const document = writeKnot({ ...knot, name: `${knot.name.slice(0, NAME_ROOM)} (my version)` });
    const copy = await firstValueFrom(this.api.create({ document }));
    await this.takeTheirs();
    return copy;
  }

  /** Conflict: theirs goes on, mine is let go. */
  async takeTheirs(): Promise<void> {
    const state = this.state();
    if (state.kind !== 'conflict') return;
    const opened = this.open(state.theirs.card, state.theirs.document);
    if (!opened.ok) throw new Error(sayRefusal(opened));
    await this.forget(state.theirs.card.id);
  }

  /** The knot was archived elsewhere: it is put back, and what is here saved. */
  async putBack(): Promise<void> {
    const card = this.card();
    if (!card) return;
    await firstValueFrom(this.api.act(card.id, 'restore'));
    this.on({ kind: 'settled' });
    await this.send();
  }

  /** The knot was archived elsewhere: what is here becomes a knot of its own. */
  async saveAsNew(): Promise<KnotCard | undefined> {
    const [document, card] = [this.store.document(), this.card()];
    if (!document || !card) return undefined;
    const copy = await firstValueFrom(this.api.create({ document }));
    await this.forget(card.id);
    this.on({ kind: 'opened', at: copy.updatedAt, mayWrite: true });
    return copy;
  }
}
