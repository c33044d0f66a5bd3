/**
 * The bench: the one knot that is open, its history, the method in hand, and the words and rules it is held to.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import {
  change,
  cooled,
  EMPTY_ENTRY,
  EMPTY_METHOD,
  mendText,
  methodsOf,
  noHistory,
  record,
  redo,
  refuse,
  reworded,
  tailRuleFor,
  undo,
  WORKSHOP_PRACTICE,
  WORKSHOP_WORDS,
  wordedOf,
  writeKnot,
  type History,
  type KnotDocument,
  type KnotEdit,
  type KnotText,
  type LayoutPlace,
  type Mend,
  type Result,
  type Worded,
} from '@foxtrail/core';
import { Subject } from 'rxjs';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';

/** How an edit is done: where, if not in the method in hand and its first layout, and what it is undone together with. */
export interface Doing extends Partial<LayoutPlace> {
  readonly group?: string | undefined;
}

/** What the bench keeps for undo: the knot, and the method that was in hand. */
export interface Worked {
  readonly knot: KnotDocument;
  readonly method: number;
}

const cooledWork = ({ knot, method }: Worked): Worked => ({ knot: cooled(knot), method });

/** Whether two knots are spoken of alike, whatever else of them has changed. */
const spokenAlike = (a: Worded, b: Worded): boolean =>
  a.words === b.words &&
  a.aliases === b.aliases &&
  a.cord === b.cord &&
  a.ropes?.length === b.ropes?.length &&
  a.ropes?.every((r, i) => r.cordage === b.ropes?.[i]?.cordage) === true;

@Injectable()
export class BenchStore {
  private readonly sessions = inject(SessionService);
  private readonly words = inject(WordsService);

  private readonly knotNow = signal<KnotDocument | undefined>(undefined);
  private readonly history = signal<History<Worked>>(noHistory());
  private readonly hand = signal(0);
  private readonly edited = new Subject<void>();

  readonly knot = this.knotNow.asReadonly();
  /** Tells of every edit, undo and redo. */
  readonly edits = this.edited.asObservable();
  /** The knot as it is kept, sent and proved: written once for every edit. */
  readonly document = computed(() => {
    const knot = this.knot();
    return knot && writeKnot(knot);
  });
  /** The ways to tie the knot, and which of them is worked on. */
  readonly methods = computed(() => {
    const knot = this.knot();
    return knot ? methodsOf(knot) : [];
  });
  readonly inHand = computed(() => Math.min(this.hand(), Math.max(0, this.methods().length - 1)));
  readonly method = computed(() => this.methods()[this.inHand()]?.method);
  readonly canUndo = computed(() => this.history().past.length > 0);
  readonly canRedo = computed(() => this.history().future.length > 0);
  readonly mayWrite = this.sessions.mayWrite;

  /** What the knot's entry says of its words: the same as long as that is not changed, whatever else is. */
  private readonly worded = computed(
    (): Worded => {
      const { entry, method } = this.knot() ?? { entry: EMPTY_ENTRY, method: EMPTY_METHOD };
      return { ...wordedOf({ entry, method }), ropes: method.figure.ropes.map(({ cordage }) => ({ cordage })) };
    },
    { equal: spokenAlike },
  );
  /** The words of its school or its house, before its ropes have names of their own. */
  readonly plainWords = computed(() => this.words.vocabulary({ ...this.worded(), ropes: undefined }) ?? WORKSHOP_WORDS);
  /** The words its texts are composed in. */
  readonly vocabulary = computed(() => this.words.vocabulary(this.worded()) ?? WORKSHOP_WORDS);
  /** What its texts are checked with. */
  readonly wordCheck = computed(() => this.words.check(this.worded()));
  /** What the house keeps to. */
  readonly practice = computed(() => this.sessions.session()?.house.practice ?? WORKSHOP_PRACTICE);
  /** The tail that the house asks for, whatever a plan leaves. */
  readonly houseTail = computed(() =>
    tailRuleFor(this.practice(), { useGrade: this.knot()?.entry.useGrade ?? EMPTY_ENTRY.useGrade }),
  );
  readonly rules = computed(() => ({
    tail: tailRuleFor(this.practice(), this.knot()?.entry ?? EMPTY_ENTRY),
    cordMm: this.knot()?.entry.cord.diameterMm ?? 10,
  }));

  /** Lays a knot on the bench, without a past. */
  lay(knot: KnotDocument): void {
    this.history.set(noHistory());
    this.knotNow.set(knot);
  }

  /** The last states that can be undone, the earliest first. */
  past(most: number): readonly Worked[] {
    return this.history()
      .past.slice(-most)
      .map(({ state }) => state);
  }

  /** What could be undone when the knot was last on a bench can be undone again. */
  takePast(states: readonly Worked[]): void {
    this.history.set(states.reduce((h, state) => record(h, state, undefined, cooledWork), noHistory<Worked>()));
  }

  /** Clears the bench for another knot. */
  clear(): void {
    this.history.set(noHistory());
    this.knotNow.set(undefined);
    this.hand.set(0);
  }

  /** Applies an edit and notes it for undo. Edits in a row with one group are undone together. */
  edit(edit: KnotEdit, { group, method = this.inHand(), layout = 0 }: Doing = {}): Result<KnotDocument> {
    const knot = this.knot();
    if (!knot) return refuse('bench', 'No knot is open.', 'Open one from the shelf.');
    if (!this.mayWrite())
      return refuse('bench', 'A reviewer reads drafts but does not change them.', 'Ask an author to make the change.');
    const next = change(knot, { method, layout }, edit);
    if (!next.ok) return next;
    this.history.update((h) => record(h, { knot, method: this.inHand() }, group, cooledWork));
    this.knotNow.set(next.value);
    if (edit.kind === 'add-method') this.hand.set(this.methods().length - 1);
    else if (edit.kind === 'first-method') this.hand.set(0);
    this.edited.next();
    return next;
  }

  /** Mends a word in a text of the author's own. */
  reword({ at, place, text }: KnotText, mend: Mend): void {
    const knot = this.knot();
    if (!knot) return;
    const after = mendText(text, [mend]);
    this.edit({
      kind: 'replace',
      knot: reworded(knot, [{ method: this.inHand(), at, place, before: text, after }]),
    });
  }

  /** Has a concept explained to learners before the first step. */
  introduce(concept: string): void {
    const knot = this.knot();
    if (!knot) return;
    const { words } = knot.entry;
    const introduces = [...new Set([...(words?.introduces ?? []), concept])];
    this.edit({ kind: 'entry', name: knot.name, entry: { ...knot.entry, words: { ...words, introduces } } });
  }

  /** Takes a method in hand: what is drawn, proofed and filmed from here on. */
  take(method: number): void {
    this.hand.set(method);
  }

  undo(): void {
    this.step(undo);
  }

  redo(): void {
    this.step(redo);
  }

  private step(back: typeof undo | typeof redo): void {
    const knot = this.knot();
    const stepped = knot && back(this.history(), { knot, method: this.inHand() });
    if (!stepped) return;
    this.history.set(stepped.history);
    this.knotNow.set(stepped.state.knot);
    // What is undone is shown.
    this.hand.set(stepped.state.method);
    this.edited.next();
  }
}
