/**
 * The way of the open knot to the server. Every edit goes to the outbox at once and to the server at the next pause, within three seconds. With the server
 * gone the author goes on; with the session ended the author signs in over the bench; when two versions meet, neither is lost.
 */
import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { KnotCard } from '@foxtrail/contract';
import { cutTo, readKnot, sayRefusal, writeKnot, type FigureFile, type Result } from '@foxtrail/core';
import { debounce, exhaustMap, firstValueFrom, from, Subject, timer } from 'rxjs';
import { Api } from '../data/api';
import { Outbox, randomId, type Draft, type Sent } from '../data/outbox';
import { troubleOf } from '../data/problem';
import { SessionService } from '../data/session';
import { BenchStore } from './bench-store';
import { maySend, saveAfter, type SaveEvent, type SaveState } from './save-state';

/** Pause after an edit before it is sent: within a second, but not for every point of a drag. In milliseconds. */
const SAVE_PAUSE = 600;
/** Longest that whoever never pauses goes on before it is sent, in milliseconds. */
const SAVE_LATEST = 3000;
/** Pause before a server that did not answer is tried again, the first time; then twice as long each time, up to the most. */
const RETRY_PAUSE = { first: 2000, most: 60_000 };
/** Room that a name leaves for what is put behind it. */
const NAME_ROOM = 66;

@Injectable()
export class Saving {
  private readonly api = inject(Api);
  private readonly outbox = inject(Outbox);
  private readonly store = inject(BenchStore);
  private readonly sessions = inject(SessionService);

  private readonly stateNow = signal<SaveState>({ kind: 'saved', at: '' });
  readonly state = this.stateNow.asReadonly();
  /** What the server last said of the knot. */
  readonly card = signal<KnotCard | undefined>(undefined);
  /** A draft that was found in the outbox when the knot was opened. */
  readonly recovered = signal(false);
  /** Further drafts of the knot that were left in this browser. */
  readonly drafts = signal<readonly Draft[]>([]);
  /** False when the browser's store has refused to keep what is on the bench. */
  private readonly isKept = signal(true);
  /** What is on the bench is neither on the server nor in this browser's store: it is gone when the page is closed. */
  readonly nowhere = computed(() => !this.isKept() && !['saved', 'reading-only'].includes(this.state().kind));

  /** The revision that what is on the bench was made from. */
  private baseNow = 0;
  /** Counts edits, so that what was changed during a save is sent after it. */
  private version = 0;
  private editedAt = 0;
  /** When the first edit was made that has not been sent. */
  private dueSince: number | undefined;
  private inFlight: Promise<void> | undefined;
  /** A save that was sent and of which it is not known whether it was made. */
  private sent: Sent | undefined;
  /** How often in a row the server has not answered. */
  private failures = 0;
  private readonly due = new Subject<void>();

  constructor() {
    this.due
      .pipe(
        debounce(() => timer(this.untilSent())),
        exhaustMap(() => from(this.send())),
        takeUntilDestroyed(),
      )
      .subscribe();
    this.store.edits.pipe(takeUntilDestroyed()).subscribe(() => this.edited());
    const warn = (event: BeforeUnloadEvent): void => {
      if (!this.mayLeave()) event.preventDefault();
    };
    addEventListener('beforeunload', warn);
    inject(DestroyRef).onDestroy(() => removeEventListener('beforeunload', warn));
  }

  /** False while closing the page would lose something, or might. */
  mayLeave(): boolean {
    return this.state().kind !== 'unsaved' && !this.nowhere();
  }

  get base(): number {
    return this.baseNow;
  }

  private on(event: SaveEvent): void {
    this.stateNow.update((state) => saveAfter(state, event));
  }

  private get account(): string {
    return this.sessions.session()?.account?.id ?? '';
  }

  /** What was kept of a knot in earlier visits, the newest first. */
  async kept(id: string): Promise<readonly Draft[]> {
    return this.outbox.left(id, this.account).catch(() => []);
  }

  /** Lays what the server sent on the bench. */
  open(card: KnotCard, document: FigureFile): Result<unknown> {
    const read = readKnot(document);
    if (!read.ok) return read;
    this.baseNow = card.revision;
    this.sent = undefined;
    this.drafts.set([]);
    this.card.set(card);
    this.store.lay(read.value);
    this.on({ kind: 'opened', at: card.updatedAt, mayWrite: this.store.mayWrite() });
    return read;
  }

  /**
   * Takes up the newest of what was kept in earlier visits; the others are offered. A save that was on its way then is sent again first: if
   * it was made, it is answered as it was, and the work goes on from there. A server that has moved on is met as a conflict.
   */
  async recover([newest, ...others]: readonly Draft[]): Promise<void> {
    if (!newest || !this.store.mayWrite()) return;
    this.drafts.set(others);
    const read = readKnot(newest.document);
    if (!read.ok) return;
    // Saved, but closed before that was known.
    if (JSON.stringify(writeKnot(read.value)) === JSON.stringify(this.store.document())) {
      await this.outbox.remove(newest).catch(() => undefined);
      return;
    }
    this.baseNow = newest.base;
    this.sent = newest.sent;
    this.store.lay(read.value);
    this.recovered.set(true);
    this.edited();
    if (await this.keeping) await this.outbox.remove(newest).catch(() => undefined);
  }

  /** Another draft of the knot becomes a knot of its own. */
  async keepDraft(draft: Draft): Promise<KnotCard> {
    const name = `${cutTo(draft.document.name ?? '', NAME_ROOM)} (kept draft)`;
    const copy = await firstValueFrom(this.api.create({ document: { ...draft.document, name } }));
    await this.dropDraft(draft);
    return copy;
  }

  async dropDraft(draft: Draft): Promise<void> {
    await this.outbox.remove(draft);
    this.drafts.update((all) => all.filter((d) => d !== draft));
  }

  private keeping: Promise<boolean> = Promise.resolve(true);

  /** Keeps what is on the bench in this browser; tells whether it took it. */
  private keep(): Promise<boolean> {
    const [document, card] = [this.store.document(), this.card()];
    if (!document || !card) return Promise.resolve(true);
    const { account, baseNow: base, sent } = this;
    this.keeping = this.outbox
      .put({ knot: card.id, account, base, document, at: this.editedAt, ...(sent ? { sent } : {}) })
      .then(
        () => true,
        () => false,
      );
    void this.keeping.then((kept) => this.isKept.set(kept));
    return this.keeping;
  }

  private edited(): void {
    this.version += 1;
    this.editedAt = Date.now();
    if (!this.card() || !this.store.document()) return;
    this.on({ kind: 'edited' });
    void this.keep();
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

  /** How long what is due waits for a pause: the shorter, the longer it has waited. */
  private untilSent(): number {
    const now = Date.now();
    this.dueSince ??= now;
    return Math.max(0, Math.min(SAVE_PAUSE, this.dueSince + SAVE_LATEST - now));
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
    this.dueSince = undefined;
    this.on({ kind: 'sent' });
    const sending = (this.sent ??= { id: randomId(), base: this.baseNow, document });
    // Should the page be closed before the answer, the next visit knows what to ask for.
    await this.keep();
    try {
      const after = await firstValueFrom(this.api.save(card.id, sending.base, sending.document, sending.id));
      this.sent = undefined;
      this.failures = 0;
      this.baseNow = after.revision;
      this.card.set(after);
      const whole = version === this.version && sending.document === document;
      this.on({ kind: 'answered', at: after.updatedAt, whole });
      if (whole) await this.forget(card.id);
      else {
        await this.keep();
        this.due.next();
      }
    } catch (error) {
      this.on({ kind: 'failed', trouble: troubleOf(error) });
      if (this.state().kind !== 'kept-here') {
        // The server has said that it was not made.
        this.sent = undefined;
        return;
      }
      const pause = Math.min(RETRY_PAUSE.most, RETRY_PAUSE.first * 2 ** this.failures);
      this.failures += 1;
      timer(pause).subscribe(() => this.due.next());
    }
  }

  private async forget(id: string): Promise<void> {
    await this.outbox.remove({ knot: id }).catch(() => undefined);
    this.isKept.set(true);
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
    const document = writeKnot({ ...knot, name: `${cutTo(knot.name, NAME_ROOM)} (my version)` });
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
