/**
 * A bench without a server: edits are applied by the core, saving is only noted.
 */
import { computed, signal } from '@angular/core';
import type { ClipInfo, KnotCard, Publication } from '@foxtrail/contract';
import {
  change,
  lessonCheck,
  mendText,
  methodsOf,
  reworded,
  SHIPPED_GLOSSARY,
  TAKEN_AS_KNOWN,
  WORKSHOP_CHOICE,
  WORKSHOP_WORDS,
  type KnotDocument,
  type KnotEdit,
  type KnotText,
  type Mend,
  type Result,
} from '@foxtrail/core';
import type { Analysis } from '../data/analysis';
import type { IdentityProgress, IdentityReport } from '../data/identity';
import type { Doing, SaveState } from '../knot/bench-store';
import { cardOf, overhand, TESTS_PRACTICE } from './knots';

export class FakeBench {
  readonly knot = signal<KnotDocument>(overhand());
  private readonly hand = signal(0);
  readonly methods = computed(() => methodsOf(this.knot()));
  readonly inHand = computed(() => Math.min(this.hand(), this.methods().length - 1));
  readonly method = computed(() => this.methods()[this.inHand()]!.method);
  readonly card = signal<KnotCard>(cardOf());
  readonly save = signal<SaveState>({ kind: 'saved', at: '2026-05-01T10:00:00.000Z' });
  readonly analysis = signal<Analysis | undefined>(undefined);
  readonly identity = signal<IdentityReport | undefined>(undefined);
  readonly identityProgress = signal<IdentityProgress | undefined>(undefined);
  readonly findings = computed(() => {
    const { finding: stated, grade, practice } = this.identity() ?? {};
    return [
      ...(stated ? [stated] : []),
      ...(grade ? [grade] : []),
      ...(practice ?? []),
      ...(this.identity()?.layouts?.findings ?? []),
      ...(this.analysis()?.findings ?? []),
    ];
  });
  readonly publication = signal<Publication | null>(null);
  readonly clip = signal<ClipInfo | null>(null);
  readonly leftHanded = signal<string | null>(null);
  readonly mayWrite = signal(true);
  readonly canUndo = signal(false);
  readonly canRedo = signal(false);
  readonly practice = signal(TESTS_PRACTICE);
  readonly rules = signal({ tail: { diameters: 8, millimetres: 0 }, cordMm: 10 });
  readonly vocabulary = signal(WORKSHOP_WORDS);
  readonly wordCheck = computed(() =>
    lessonCheck(this.knot().entry, WORKSHOP_CHOICE, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN),
  );
  readonly asked: string[] = [];

  edit(edit: KnotEdit, { method = this.inHand(), layout = 0 }: Doing = {}): Result<KnotDocument> {
    const done = change(this.knot(), { method, layout }, edit);
    if (!done.ok) return done;
    this.knot.set(done.value);
    if (edit.kind === 'add-method') this.hand.set(this.methods().length - 1);
    return { ok: true, value: this.knot() };
  }

  reword({ at, place, text }: KnotText, mend: Mend): void {
    const after = mendText(text, [mend]);
    this.knot.update((k) => reworded(k, [{ method: 0, at, place, before: text, after }]));
  }

  introduce(concept: string): void {
    this.asked.push(`introduce ${concept}`);
  }

  take(method: number): void {
    this.hand.set(method);
  }

  identify(): void {
    this.asked.push('identify');
  }

  cancelIdentify(): void {
    this.asked.push('cancel');
  }

  publish(): Promise<void> {
    this.asked.push('publish');
    this.publication.set({
      slug: 'overhand',
      revision: 1,
      publishedAt: '2026-05-01T10:00:00.000Z',
      publishedBy: 'Ada',
      clip: false,
    });
    return Promise.resolve();
  }

  openLeftHanded(): Promise<KnotCard> {
    this.asked.push('left-handed');
    return Promise.resolve(cardOf({ id: 'left', name: 'Overhand, left-handed' }));
  }

  withdraw(): Promise<void> {
    this.asked.push('withdraw');
    this.publication.set(null);
    return Promise.resolve();
  }

  keepMine(): Promise<void> {
    this.asked.push('mine');
    return Promise.resolve();
  }

  takeTheirs(): Promise<void> {
    this.asked.push('theirs');
    return Promise.resolve();
  }

  keepBoth(): Promise<KnotCard> {
    this.asked.push('both');
    return Promise.resolve(cardOf({ name: 'Overhand (my version)' }));
  }
}
