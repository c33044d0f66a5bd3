/**
 * A bench without a server: edits are applied by the core, saving is only noted.
 */
import { computed, signal, type Provider } from '@angular/core';
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
  writeKnot,
  type KnotDocument,
  type KnotEdit,
  type KnotText,
  type Mend,
  type Result,
} from '@foxtrail/core';
import type { Analysis } from '../data/analysis';
import type { IdentityProgress, IdentityReport } from '../data/identity';
import { BenchStore, type Doing } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import type { SaveState } from '../knot/save-state';
import { Saving } from '../knot/saving';
import { ShelfFacts } from '../knot/shelf-facts';
import { cardOf, overhand, TESTS_PRACTICE } from './knots';

export class FakeBench {
  readonly knot = signal<KnotDocument>(overhand());
  readonly document = computed(() => writeKnot(this.knot()));
  private readonly hand = signal(0);
  readonly methods = computed(() => methodsOf(this.knot()));
  readonly inHand = computed(() => Math.min(this.hand(), this.methods().length - 1));
  readonly method = computed(() => this.methods()[this.inHand()]!.method);
  readonly mayWrite = signal(true);
  readonly canUndo = signal(false);
  readonly canRedo = signal(false);
  readonly practice = signal(TESTS_PRACTICE);
  readonly rules = signal({ tail: { diameters: 8, millimetres: 0 }, cordMm: 10 });
  readonly houseTail = computed(() => this.rules().tail);
  readonly vocabulary = signal(WORKSHOP_WORDS);
  readonly wordCheck = computed(() =>
    lessonCheck(this.knot().entry, WORKSHOP_CHOICE, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN),
  );
  /** What was asked of the bench that needs a server or a worker. */
  readonly asked: string[] = [];
  private ask<T>(what: string, answer: T): Promise<T> {
    this.asked.push(what);
    return Promise.resolve(answer);
  }

  readonly saving = {
    state: signal<SaveState>({ kind: 'saved', at: '2026-05-01T10:00:00.000Z' }),
    keepMine: () => this.ask('mine', undefined),
    takeTheirs: () => this.ask('theirs', undefined),
    keepBoth: () => this.ask('both', cardOf({ name: 'Overhand (my version)' })),
  };

  readonly insight = (() => {
    const analysis = signal<Analysis | undefined>(undefined);
    const identity = signal<IdentityReport | undefined>(undefined);
    return {
      analysis,
      identity,
      progress: signal<IdentityProgress | undefined>(undefined),
      findings: computed(() => {
        const { finding: stated, grade, practice, layouts } = identity() ?? {};
        return [
          ...(stated ? [stated] : []),
          ...(grade ? [grade] : []),
          ...(practice ?? []),
          ...(layouts?.findings ?? []),
          ...(analysis()?.findings ?? []),
        ];
      }),
      identify: () => void this.asked.push('identify'),
      cancel: () => void this.asked.push('cancel'),
    };
  })();

  readonly shelf = {
    card: signal<KnotCard>(cardOf()),
    publication: signal<Publication | null>(null),
    clips: signal<readonly ClipInfo[]>([]),
    leftHanded: signal<string | null>(null),
    publish: () => {
      this.shelf.publication.set(PUBLISHED);
      return this.ask('publish', undefined);
    },
    withdraw: () => {
      this.shelf.publication.set(null);
      return this.ask('withdraw', undefined);
    },
    openLeftHanded: () => this.ask('left-handed', cardOf({ id: 'left', name: 'Overhand, left-handed' })),
  };

  /** The bench in the place of the real one. */
  readonly provided: Provider = [
    { provide: BenchStore, useValue: this },
    { provide: Saving, useValue: this.saving },
    { provide: Insight, useValue: this.insight },
    { provide: ShelfFacts, useValue: this.shelf },
  ];

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
}

const PUBLISHED: Publication = {
  slug: 'overhand',
  revision: 1,
  publishedAt: '2026-05-01T10:00:00.000Z',
  publishedBy: 'Ada',
  clips: [],
};
