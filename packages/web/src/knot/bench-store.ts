/**
 * The bench: the one knot that is open, its history, and its way to the server.
 *
 * Every edit goes to the outbox at once and to the server within a second. With the server gone the author goes on; with the
 * session ended the author signs in over the bench; when two versions meet, neither is lost.
 */
import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { conflictSchema, type ClipInfo, type KnotCard, type Publication } from '@foxtrail/contract';
import {
  change,
  mendText,
  reworded,
  methodsOf,
  noHistory,
  readKnot,
  record,
  redo,
  refuse,
  tailRuleFor,
  undo,
  WORKSHOP_PRACTICE,
  WORKSHOP_WORDS,
  writeKnot,
  type FigureFile,
  type Finding,
  type History,
  type KnotDocument,
  type KnotEdit,
  type KnotText,
  type LayoutPlace,
  type Mend,
  type Pace,
  type Result,
} from '@foxtrail/core';
import { catchError, debounceTime, EMPTY, exhaustMap, firstValueFrom, from, Subject, timer } from 'rxjs';
import { AnalysisService, type Analysis } from '../data/analysis';
import { IdentityService } from '../data/identity';
import { Api } from '../data/api';
import { Outbox } from '../data/outbox';
import { troubleOf, type Trouble } from '../data/problem';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';

/** How an edit is done: where, if not in the method in hand and its first layout, and what it is undone together with. */
export interface Doing extends Partial<LayoutPlace> {
  readonly group?: string | undefined;
}

/** What the bench keeps for undo: the knot, and the method that was in hand. */
interface Worked {
  readonly knot: KnotDocument;
  readonly method: number;
}

export type SaveState =
  | { readonly kind: 'saved'; readonly at: string }
  | { readonly kind: 'unsaved' | 'saving' | 'reading-only' }
  /** The server does not answer; the work is kept here and tried again. */
  | { readonly kind: 'kept-here' }
  | { readonly kind: 'signed-out' }
  | { readonly kind: 'refused'; readonly trouble: Trouble }
  | { readonly kind: 'archived'; readonly trouble: Trouble }
  | {
      readonly kind: 'conflict';
      readonly trouble: Trouble;
      readonly theirs: { readonly card: KnotCard; readonly document: FigureFile };
    };

/** Pause after an edit before it is sent: within a second, but not for every point of a drag. In milliseconds. */
const SAVE_PAUSE = 600;
/** Pause before a server that did not answer is tried again. */
const RETRY_PAUSE = 4000;
const ANALYSIS_PAUSE = 120;
/** The comparison with known knots waits until the hand rests. */
const IDENTITY_PAUSE = 350;

@Injectable()
export class BenchStore {
  private readonly api = inject(Api);
  private readonly outbox = inject(Outbox);
  private readonly sessions = inject(SessionService);
  private readonly words = inject(WordsService);
  private readonly analyses = inject(AnalysisService);
  private readonly identities = inject(IdentityService);

  private readonly cardState = signal<KnotCard | undefined>(undefined);
  private readonly knotState = signal<KnotDocument | undefined>(undefined);
  private readonly history = signal<History<Worked>>(noHistory());
  private readonly saveSignal = signal<SaveState>({ kind: 'saved', at: '' });
  private readonly loadTrouble = signal<Trouble | undefined>(undefined);
  private readonly analysisState = signal<Analysis | undefined>(undefined);

  readonly card = this.cardState.asReadonly();
  readonly knot = this.knotState.asReadonly();
  readonly save = this.saveSignal.asReadonly();
  readonly trouble = this.loadTrouble.asReadonly();
  readonly analysis = this.analysisState.asReadonly();
  /** What the knot is, as far as it is known. */
  readonly identity = this.identities.report.asReadonly();
  readonly identityProgress = this.identities.progress;
  /** Everything found against the knot: not being what it claims comes first. */
  readonly findings = computed(() => {
    const { finding: stated, grade, practice } = this.identity() ?? {};
    return [
      ...(stated ? [stated] : []),
      ...(grade ? [grade] : []),
      ...(practice ?? []),
      ...this.refutedKin(),
      ...(this.identity()?.layouts?.findings ?? []),
      ...(this.analysisState()?.findings ?? []),
    ];
  });
  /** What is stated of it as kin and refuted: as it was when the knot was opened. */
  private readonly refutedKin = signal<readonly Finding[]>([]);
  readonly publication = signal<Publication | null>(null);
  readonly clip = signal<ClipInfo | null>(null);
  /** Its left-handed edition, when there is one. */
  readonly leftHanded = signal<string | null>(null);
  /** A draft that was found in the outbox when the knot was opened. */
  readonly recovered = signal(false);
  private readonly handState = signal(0);
  /** The ways to tie the knot, and which of them is worked on. */
  readonly methods = computed(() => {
    const knot = this.knotState();
    return knot ? methodsOf(knot) : [];
  });
  /** The knot as it is kept, sent and proved: written once for every edit. */
  private readonly document = computed(() => {
    const knot = this.knotState();
    return knot && writeKnot(knot);
  });
  readonly inHand = computed(() => Math.min(this.handState(), Math.max(0, this.methods().length - 1)));
  readonly method = computed(() => this.methods()[this.inHand()]?.method);
  readonly canUndo = computed(() => this.history().past.length > 0);
  readonly canRedo = computed(() => this.history().future.length > 0);
  readonly mayWrite = computed(() => this.sessions.session()?.account?.role === 'author');
  /** What the knot's entry says of its words: the same as long as that is not changed, whatever else is. */
  private readonly worded = computed(() => ({ words: this.knotState()?.entry.words }), {
    equal: (a, b) => a.words === b.words,
  });
  /** The words its texts are composed in. */
  readonly vocabulary = computed(() => this.words.vocabulary(this.worded()) ?? WORKSHOP_WORDS);
  /** What its texts are checked with. */
  readonly wordCheck = computed(() => this.words.check(this.worded()));
  /** What the house keeps to. */
  readonly practice = computed(() => this.sessions.session()?.house.practice ?? WORKSHOP_PRACTICE);
  readonly rules = computed(() => ({
    tail: tailRuleFor(this.practice(), this.knotState()?.entry.useGrade ?? 'light duty'),
    cordMm: this.knotState()?.entry.cord.diameterMm ?? 10,
  }));

  private base = 0;
  private version = 0;
  private inFlight: Promise<void> | undefined;
  private readonly changed = new Subject<void>();
  private readonly analyse = new Subject<void>();

  constructor() {
    this.changed
      .pipe(
        debounceTime(SAVE_PAUSE),
        exhaustMap(() => from(this.send())),
        takeUntilDestroyed(),
      )
      .subscribe();
    this.analyse.pipe(debounceTime(ANALYSIS_PAUSE), takeUntilDestroyed()).subscribe(() => {
      const document = this.document();
      if (document) this.analyses.request(document, this.inHand(), this.practice(), this.vocabulary());
    });
    this.analyse.pipe(debounceTime(IDENTITY_PAUSE), takeUntilDestroyed()).subscribe(() => this.identify());
    this.analyses.results.pipe(takeUntilDestroyed()).subscribe((a) => this.analysisState.set(a));
    effect(() => {
      this.knotState();
      this.inHand();
      this.vocabulary();
      untracked(() => this.analyse.next());
    });
    const destroy = inject(DestroyRef);
    const warn = (event: BeforeUnloadEvent): void => {
      if (this.hasUnsaved()) event.preventDefault();
    };
    addEventListener('beforeunload', warn);
    destroy.onDestroy(() => removeEventListener('beforeunload', warn));
  }

  /** Compares the knot with the known ones; the latest request wins. */
  identify(): void {
    const document = this.document();
    if (document) this.identities.request(document, this.inHand(), this.practice());
  }

  cancelIdentify(): void {
    this.identities.cancel();
  }

  /** True while something is neither on the server nor kept in the outbox. */
  private hasUnsaved(): boolean {
    return this.save().kind === 'unsaved';
  }

  async load(id: string): Promise<void> {
    // Without the glossary the bench works; its texts are not checked then.
    this.words.load().subscribe({ error: () => undefined });
    this.loadTrouble.set(undefined);
    this.knotState.set(undefined);
    this.handState.set(0);
    this.history.set(noHistory());
    const kept = await this.outbox.get(id).catch(() => undefined);
    try {
      const { card, document, publication, clip, leftHanded, refutedKin } = await firstValueFrom(this.api.knot(id));
      this.publication.set(publication);
      this.clip.set(clip);
      this.leftHanded.set(leftHanded);
      this.refutedKin.set(
        refutedKin.map(({ says, compared }) => ({
          code: 'kin-refuted',
          severity: 'warning',
          title: `A stated kinship is refuted: ${says.replace(/\.$/, '')}`,
          why: compared,
          remedy: 'Take the relation back on Kin, or correct the drawing.',
        })),
      );
      this.open(card, document);
      if (kept) this.recover(kept.base, kept.document);
    } catch (error) {
      this.loadTrouble.set(troubleOf(error));
    }
  }

  private open(card: KnotCard, document: FigureFile): void {
    const read = readKnot(document);
    if (!read.ok) {
      this.loadTrouble.set({
        status: -1,
        code: 'unreadable',
        place: read.place,
        reason: read.reason,
        remedy: read.remedy,
        body: null,
      });
      return;
    }
    this.base = card.revision;
    this.cardState.set(card);
    this.knotState.set(read.value);
    this.saveSignal.set(this.mayWrite() ? { kind: 'saved', at: card.updatedAt } : { kind: 'reading-only' });
  }

  /** Takes up what the outbox kept of an earlier visit. A server that has moved on since then is met as a conflict. */
  private recover(base: number, document: FigureFile): void {
    const read = readKnot(document);
    if (!read.ok || !this.mayWrite()) return;
    this.base = base;
    this.knotState.set(read.value);
    this.recovered.set(true);
    this.touch();
  }

  /** Applies an edit and notes it for undo. Edits in a row with one group are undone together. */
  edit(edit: KnotEdit, { group, method = this.inHand(), layout = 0 }: Doing = {}): Result<KnotDocument> {
    const knot = this.knotState();
    if (!knot) return refuse('bench', 'No knot is open.', 'Open one from the shelf.');
    if (!this.mayWrite())
      return refuse('bench', 'A reviewer reads drafts but does not change them.', 'Ask an author to make the change.');
    const next = change(knot, { method, layout }, edit);
    if (!next.ok) return next;
    this.history.update((h) => record(h, { knot, method: this.inHand() }, group));
    this.knotState.set(next.value);
    if (edit.kind === 'add-method') this.handState.set(this.methods().length - 1);
    else if (edit.kind === 'first-method') this.handState.set(0);
    this.touch();
    return next;
  }

  /** Mends a word in a text of the author's own. */
  reword({ at, place, text }: KnotText, mend: Mend): void {
    const knot = this.knotState();
    if (!knot) return;
    const after = mendText(text, [mend]);
    this.edit({
      kind: 'replace',
      knot: reworded(knot, [{ method: this.inHand(), at, place, before: text, after }]),
    });
  }

  /** Has a concept explained to learners before the first step. */
  introduce(concept: string): void {
    const knot = this.knotState();
    if (!knot) return;
    const { words } = knot.entry;
    const introduces = [...new Set([...(words?.introduces ?? []), concept])];
    this.edit({ kind: 'entry', name: knot.name, entry: { ...knot.entry, words: { ...words, introduces } } });
  }

  /** Takes a method in hand: what is drawn, proofed and filmed from here on. */
  take(method: number): void {
    this.handState.set(method);
  }

  undo(): void {
    this.step(undo);
  }

  redo(): void {
    this.step(redo);
  }

  private step(back: typeof undo | typeof redo): void {
    const knot = this.knotState();
    const stepped = knot && back(this.history(), { knot, method: this.inHand() });
    if (!stepped) return;
    this.history.set(stepped.history);
    this.knotState.set(stepped.state.knot);
    // What is undone is shown.
    this.handState.set(stepped.state.method);
    this.touch();
  }

  private touch(): void {
    this.version += 1;
    const document = this.document();
    const card = this.cardState();
    if (!document || !card) return;
    if (!['conflict', 'archived', 'signed-out', 'kept-here'].includes(this.save().kind))
      this.saveSignal.set({ kind: 'unsaved' });
    void this.outbox.put({ knot: card.id, base: this.base, document, at: Date.now() }).catch(() => undefined);
    this.changed.next();
  }

  /** Saves now, without waiting for the pause; resolves when it is settled. */
  async flush(): Promise<void> {
    if (this.save().kind === 'saving') await this.send();
    if (this.save().kind !== 'saved') await this.send();
  }

  /** Tries again after a sign-in. */
  retry(): void {
    this.saveSignal.set({ kind: 'unsaved' });
    this.changed.next();
  }

  /** One request at a time: a second one would meet the first as a conflict. */
  private send(): Promise<void> {
    this.inFlight ??= this.transmit().finally(() => (this.inFlight = undefined));
    return this.inFlight;
  }

  private async transmit(): Promise<void> {
    const document = this.document();
    const card = this.cardState();
    if (!document || !card || ['conflict', 'archived', 'reading-only'].includes(this.save().kind)) return;
    const version = this.version;
    if (this.save().kind === 'unsaved') this.saveSignal.set({ kind: 'saving' });
    try {
      const after = await firstValueFrom(this.api.save(card.id, this.base, document));
      this.base = after.revision;
      this.cardState.set(after);
      if (version === this.version) {
        this.saveSignal.set({ kind: 'saved', at: after.updatedAt });
        await this.outbox.remove(card.id).catch(() => undefined);
      } else {
        this.saveSignal.set({ kind: 'unsaved' });
        this.changed.next();
      }
    } catch (error) {
      this.settle(troubleOf(error));
    }
  }

  private settle(trouble: Trouble): void {
    if (trouble.status === 401) this.saveSignal.set({ kind: 'signed-out' });
    else if (trouble.status === 410) this.saveSignal.set({ kind: 'archived', trouble });
    else if (trouble.status === 412) {
      const { current } = conflictSchema.parse(trouble.body);
      this.saveSignal.set({
        kind: 'conflict',
        trouble,
        theirs: { card: current.card, document: current.document },
      });
    } else if (trouble.status === 0 || trouble.status === 503) {
      this.saveSignal.set({ kind: 'kept-here' });
      timer(RETRY_PAUSE)
        .pipe(catchError(() => EMPTY))
        .subscribe(() => this.changed.next());
    } else this.saveSignal.set({ kind: 'refused', trouble });
  }

  /** Conflict: mine goes on as the next revision; theirs stays in the history of revisions. */
  async keepMine(): Promise<void> {
    const state = this.save();
    if (state.kind !== 'conflict') return;
    this.base = state.theirs.card.revision;
    this.saveSignal.set({ kind: 'unsaved' });
    await this.send();
  }

  /** Conflict: theirs goes on; mine becomes a knot of its own. */
  async keepBoth(): Promise<KnotCard | undefined> {
    const state = this.save();
    const knot = this.knotState();
    if (state.kind !== 'conflict' || !knot) return undefined;
    const copy = await firstValueFrom(
      this.api.create({ document: writeKnot({ ...knot, name: `${knot.name.slice(0, 66)} (my version)` }) }),
    );
    await this.takeTheirs();
    return copy;
  }

  /** Conflict: theirs goes on, mine is let go. */
  async takeTheirs(): Promise<void> {
    const state = this.save();
    if (state.kind !== 'conflict') return;
    await this.outbox.remove(state.theirs.card.id).catch(() => undefined);
    this.history.set(noHistory());
    this.open(state.theirs.card, state.theirs.document);
  }

  /** The knot was archived elsewhere: put it back and save, or save what is here as a knot of its own. */
  async putBack(): Promise<void> {
    const card = this.cardState();
    if (!card) return;
    await firstValueFrom(this.api.act(card.id, 'restore'));
    this.saveSignal.set({ kind: 'unsaved' });
    await this.send();
  }

  async saveAsNew(): Promise<KnotCard | undefined> {
    const knot = this.knotState();
    const card = this.cardState();
    if (!knot || !card) return undefined;
    const copy = await firstValueFrom(this.api.create({ document: writeKnot(knot) }));
    await this.outbox.remove(card.id).catch(() => undefined);
    this.saveSignal.set({ kind: 'saved', at: copy.updatedAt });
    return copy;
  }

  /** The left-handed edition of what is on the bench: the one there is, or a new one. */
  async openLeftHanded(): Promise<KnotCard | undefined> {
    const card = this.cardState();
    if (!card) return undefined;
    await this.flush();
    const edition = await firstValueFrom(this.api.act(card.id, 'leftHanded'));
    this.leftHanded.set(edition.id);
    return edition;
  }

  async publish(): Promise<void> {
    const card = this.cardState();
    if (!card) return;
    await this.flush();
    this.publication.set(await firstValueFrom(this.api.publish(card.id)));
    this.cardState.update((c) => c && { ...c, state: 'published', slug: this.publication()?.slug ?? null });
  }

  async withdraw(): Promise<void> {
    const card = this.cardState();
    if (!card) return;
    await firstValueFrom(this.api.withdraw(card.id));
    this.publication.set(null);
    this.cardState.update((c) => c && { ...c, state: 'draft', slug: null });
  }

  async keepClip(blob: Blob, duration: number, pace: Pace): Promise<void> {
    const card = this.cardState();
    if (!card) return;
    await this.flush();
    this.clip.set(await firstValueFrom(this.api.keepClip(card.id, this.base, duration, pace, blob)));
    this.publication.update((p) => p && { ...p, clip: p.revision === this.base });
  }
}
