import { TestBed } from '@angular/core/testing';
import { SHIPPED_GLOSSARY, type KnotDocument } from '@foxtrail/core';
import { WordsService } from '../data/words';
import { SessionService } from '../data/session';
import { overhand, SESSION } from '../testing/knots';
import { BenchStore } from './bench-store';
import { Past } from './past';

const KNOT = 'one-knot';

/** A bench in this tab, as after a reload. */
function reloaded(account = SESSION.account!.id): { store: BenchStore; past: Past } {
  TestBed.resetTestingModule();
  const session = { ...SESSION, account: { ...SESSION.account!, id: account } };
  TestBed.configureTestingModule({
    providers: [
      BenchStore,
      Past,
      { provide: SessionService, useValue: { session: () => session, mayWrite: () => true } },
      {
        provide: WordsService,
        useValue: { vocabulary: () => undefined, check: () => ({ glossary: SHIPPED_GLOSSARY }) },
      },
    ],
  });
  return { store: TestBed.inject(BenchStore), past: TestBed.inject(Past) };
}

describe('what can be undone', () => {
  let left: KnotDocument;
  beforeEach(() => {
    sessionStorage.clear();
    const { store, past } = reloaded();
    store.lay(overhand());
    past.open(KNOT);
    for (const text of ['First.', 'Second.', 'Third.']) store.edit({ kind: 'set-text', index: 0, text });
    left = store.knot()!;
    dispatchEvent(new Event('pagehide'));
  });
  const text = (store: BenchStore): string | undefined => store.method()?.halts[0]?.text;

  it('can be undone after a reload, step by step, and redone', () => {
    const { store, past } = reloaded();
    store.lay(left);
    expect(store.canUndo()).toBeFalse();
    past.open(KNOT);
    for (const was of ['Second.', 'First.', overhand().method.halts[0]!.text]) {
      store.undo();
      expect(text(store)).toBe(was);
    }
    expect(store.canUndo()).toBeFalse();
    store.redo();
    expect(text(store)).toBe('First.');
  });

  it('is forgotten where the knot is another, or was changed meanwhile, or somebody else is signed in', () => {
    const cases: readonly (readonly [knot: KnotDocument, id: string, account?: string])[] = [
      [left, 'another-knot'],
      [{ ...left, name: 'Changed by somebody' }, KNOT],
      [left, KNOT, 'somebody-else'],
    ];
    for (const [knot, id, account] of cases) {
      const { store, past } = reloaded(account);
      store.lay(knot);
      past.open(id);
      expect(store.canUndo()).toBeFalse();
    }
  });

  it('is none where the tab’s store holds something else', () => {
    sessionStorage.setItem('foxtrail-past', '{not json');
    const { store, past } = reloaded();
    store.lay(left);
    past.open(KNOT);
    expect(store.canUndo()).toBeFalse();
  });
});
