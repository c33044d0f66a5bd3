/**
 * A document as it is written here: kept a moment after it was changed last, from the revision that it was written from. What somebody else
 * has made of it meanwhile is shown, and taken or put aside; what cannot be sent stays in this browser.
 */
import { signal } from '@angular/core';
import { KEPT_KINDS, type Kept, type KeptValue } from '@foxtrail/contract/ropes';
import type { Attempt } from '../data/attempt';
import type { KeptList } from '../data/ropes';
import { Steps } from '../data/steps';
import type { Notices } from '../ui/notices';
import { Keeping } from './keeping';
import { dropDraft, leaveDraft, leftDraft, type DraftedKind } from './left-drafts';

/** It is kept so long after it was changed last, in milliseconds. */
const PAUSE = 700;

export class KeptDraft<K extends DraftedKind> {
  /** The document as it is written; what is kept follows it. */
  readonly draft = signal<KeptValue<K> | undefined>(undefined);
  readonly keeping = signal<Keeping<K> | undefined>(undefined);
  readonly unsaved = signal(false);
  /** What was written, to be undone and done again. */
  readonly steps = new Steps<KeptValue<K>>();
  private of: string | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Saves go one after the other. */
  private sent: Promise<void> = Promise.resolve();

  constructor(
    private readonly list: KeptList<K>,
    private readonly kind: K,
    private readonly attempt: Attempt,
    private readonly notices: Notices,
  ) {}

  /** Lays a document on the desk, as it was left here where it was not kept. */
  take(chosen: Kept<KeptValue<K>> | undefined): void {
    if (chosen?.id === this.of) return;
    void this.flush();
    const left = chosen && leftDraft(this.kind, chosen.id);
    this.of = chosen?.id;
    this.steps.clear();
    this.draft.set(left?.is ?? chosen?.is);
    this.keeping.set(undefined);
    this.unsaved.set(left !== undefined);
    if (left) void this.flush();
  }

  /** Changes it by a step that can be undone. */
  write(is: KeptValue<K>): void {
    const before = this.draft();
    if (before) this.steps.did(before);
    this.change(is);
  }
  undo(): void {
    const now = this.draft();
    const before = now && this.steps.undo(now);
    if (before) this.change(before);
  }
  redo(): void {
    const now = this.draft();
    const after = now && this.steps.redo(now);
    if (after) this.change(after);
  }

  change(is: KeptValue<K>): void {
    this.draft.set(is);
    this.unsaved.set(true);
    const kept = this.list.find(this.of ?? null);
    if (kept)
      leaveDraft(this.kind, kept.id, { revision: leftDraft(this.kind, kept.id)?.revision ?? kept.revision, is });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), PAUSE);
  }

  /** What is written of a document that is removed is not wanted any more. */
  drop(id: string): void {
    clearTimeout(this.timer);
    this.unsaved.set(false);
    dropDraft(this.kind, id);
  }

  /** Keeps what is written, at once. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    const [draft, id] = [this.draft(), this.of];
    if (this.unsaved() && draft && id !== undefined) this.sent = this.sent.then(() => this.keep(id, draft));
    return this.sent;
  }

  private async keep(id: string, draft: KeptValue<K>): Promise<void> {
    const kept = this.list.find(id);
    const isHere = (): boolean => this.of === id;
    if (!kept) return;
    const read = KEPT_KINDS[this.kind].shape.safeParse(draft);
    if (!read.success) {
      this.attempt.trouble.set(`It is not kept: ${read.error.issues[0]?.message ?? ''}.`);
      return;
    }
    const is = read.data as KeptValue<K>;
    const theirs = isHere() ? this.keeping()?.theirs() : undefined;
    // From the revision that it was written from, unless theirs was seen and is to be put aside.
    const revision = theirs?.revision ?? leftDraft(this.kind, id)?.revision ?? kept.revision;
    const keeping = new Keeping(this.list, this.kind, { ...kept, revision });
    if (isHere()) this.keeping.set(keeping);
    const done = await keeping.keep(is);
    if (done) {
      // What was written meanwhile is sent after it, from what stands now.
      const left = leftDraft(this.kind, id);
      const isLast = left === undefined || JSON.stringify(left.is) === JSON.stringify(is);
      if (isLast) dropDraft(this.kind, id);
      else leaveDraft(this.kind, id, { revision: this.list.find(id)?.revision ?? revision, is: left.is });
    }
    if (!isHere()) {
      if (!done)
        this.notices.say(`“${draft.name}” could not be kept. It is kept in this browser until it is opened again.`);
      return;
    }
    if (!done) return;
    this.keeping.set(undefined);
    this.attempt.trouble.set(undefined);
    if (this.draft() === draft) this.unsaved.set(false);
  }

  /** What somebody else has made of it is taken in place of what is written here. */
  takeTheirs(): void {
    const theirs = this.keeping()?.theirs();
    if (!theirs) return;
    this.list.put(theirs);
    dropDraft(this.kind, theirs.id);
    this.steps.clear();
    this.draft.set(theirs.is);
    this.keeping.set(undefined);
    this.unsaved.set(false);
  }
}

/** A name that is free: the one that is wanted, or it with a number. */
export function freeName(wanted: string, taken: readonly { readonly is: { readonly name: string } }[]): string {
  const names = new Set(taken.map((k) => k.is.name.toLowerCase()));
  let name = wanted;
  for (let n = 2; names.has(name.toLowerCase()); n += 1) name = `${wanted} ${n}`;
  return name;
}
