import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { writeKnot, type FigureFile } from '@foxtrail/core';
import { AnalysisService } from '../data/analysis';
import { IdentityService } from '../data/identity';
import { DRAFTS, kept } from '../data/kept';
import { Outbox, randomId, type Draft } from '../data/outbox';
import {
  cardOf,
  KNOT_ID,
  knotAnswer,
  NoAnalysis,
  NoIdentity,
  OVERHAND,
  overhand,
  SESSION,
  signedIn,
} from '../testing/knots';
import { BENCH } from './bench';
import { BenchStore } from './bench-store';
import { Insight } from './insight';
import { Opening } from './opening';
import { Saving } from './saving';

describe('the bench', () => {
  let store: BenchStore;
  let saving: Saving;
  let insight: Insight;
  let opening: Opening;
  let http: HttpTestingController;
  let outbox: Outbox;
  const url = `/api/knots/${KNOT_ID}`;
  const tick = (ms = 20): Promise<void> => new Promise((done) => setTimeout(done, ms));

  beforeEach(async () => {
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        ...BENCH,
        { provide: AnalysisService, useClass: NoAnalysis },
        { provide: IdentityService, useClass: NoIdentity },
        signedIn(),
      ],
    });
    store = TestBed.inject(BenchStore);
    saving = TestBed.inject(Saving);
    insight = TestBed.inject(Insight);
    opening = TestBed.inject(Opening);
    http = TestBed.inject(HttpTestingController);
    outbox = TestBed.inject(Outbox);
    for (const draft of await outbox.left(KNOT_ID, SESSION.account!.id)) await outbox.remove(draft);
    await outbox.remove({ knot: KNOT_ID });
  });

  /** A request, once it has been made: a slow machine may take its time. */
  const asked = async (match: Parameters<HttpTestingController['match']>[0]): Promise<TestRequest> => {
    for (let k = 0; k < 1000; k += 1) {
      const [found, ...more] = http.match(match);
      if (found) {
        expect(more).toEqual([]);
        return found;
      }
      await tick();
    }
    throw new Error(`${JSON.stringify(match)} was not asked for`);
  };

  const load = async (revision = 1): Promise<void> => {
    const loading = opening.open(KNOT_ID);
    (await asked(url)).flush(knotAnswer(revision));
    await loading;
  };
  /** A draft that a tab which is closed now has left in this browser. */
  const left = async (draft: Partial<Draft> & Pick<Draft, 'at' | 'base' | 'document'>): Promise<void> => {
    const key = `${KNOT_ID} ${randomId()}`;
    await (await kept()).put(DRAFTS, { key, knot: KNOT_ID, account: SESSION.account!.id, ...draft } satisfies Draft);
  };
  const saveOf = (request: TestRequest): string => (request.request.body as { save: string }).save;
  const edit = (text: string): void => {
    expect(store.edit({ kind: 'set-text', index: 0, text }).ok).toBeTrue();
  };
  const textOnBench = (): string | undefined => store.method()?.halts[0]?.text;

  it('counts a kinship that is refuted among what is found', async () => {
    const loading = opening.open(KNOT_ID);
    const says = 'The overhand is the mirror image of the reef knot.';
    (await asked(url)).flush({ ...knotAnswer(1), refutedKin: [{ says, compared: 'Their signatures differ.' }] });
    await loading;
    expect(insight.findings().map((f) => [f.code, f.severity, f.why])).toEqual([
      ['kin-refuted', 'warning', 'Their signatures differ.'],
    ]);
  });

  it('saves an edit within a second, with the revision it was made from', async () => {
    await load(4);
    edit('First.');
    expect(saving.state().kind).toBe('unsaved');
    await tick(50);
    expect((await outbox.own(KNOT_ID))?.base).toBe(4);
    const request = await asked({ method: 'PUT', url });
    expect(request.request.headers.get('If-Match')).toBe('"4"');
    request.flush({ card: cardOf({ revision: 5 }) });
    await tick();
    expect(saving.state().kind).toBe('saved');
    expect(await outbox.own(KNOT_ID)).toBeUndefined();
  });

  it('sends again what was changed while a save was on its way', async () => {
    await load();
    edit('First.');
    const first = await asked({ method: 'PUT', url });
    edit('Second.');
    first.flush({ card: cardOf({ revision: 2 }) });
    const second = await asked({ method: 'PUT', url });
    expect(second.request.headers.get('If-Match')).toBe('"2"');
    expect(JSON.stringify(second.request.body)).toContain('Second.');
  });

  it('undoes and redoes, a group at once', async () => {
    await load();
    for (const t of ['a', 'ab', 'abc'])
      expect(store.edit({ kind: 'set-text', index: 0, text: t }, { group: 'typing' }).ok).toBeTrue();
    edit('other');
    store.undo();
    expect(textOnBench()).toBe('abc');
    store.undo();
    expect(textOnBench()).toBeUndefined();
    store.redo();
    expect(textOnBench()).toBe('abc');
    expect(store.canRedo()).toBeTrue();
  });

  it('keeps the work when the server does not answer, and takes it up at the next visit', async () => {
    await load();
    edit('Kept.');
    (await asked({ method: 'PUT', url })).error(new ProgressEvent('error'));
    await tick();
    expect(saving.state().kind).toBe('kept-here');
    expect(textOnBench()).toBe('Kept.');
    await load();
    expect(saving.recovered()).toBeTrue();
    expect(textOnBench()).toBe('Kept.');
    await outbox.remove({ knot: KNOT_ID });
  });

  it('sends a save without an answer again by its id, and what was changed meanwhile after it', async () => {
    await load(4);
    edit('First.');
    const lost = await asked({ method: 'PUT', url });
    const id = saveOf(lost);
    expect((await outbox.own(KNOT_ID))?.sent?.id).toBe(id);
    edit('Second.');
    lost.error(new ProgressEvent('error'));
    const again = await asked({ method: 'PUT', url });
    expect(saveOf(again)).toBe(id);
    expect(again.request.headers.get('If-Match')).toBe('"4"');
    expect(JSON.stringify(again.request.body)).toContain('First.');
    again.flush({ card: cardOf({ revision: 5 }) });
    const next = await asked({ method: 'PUT', url });
    expect(saveOf(next)).not.toBe(id);
    expect(next.request.headers.get('If-Match')).toBe('"5"');
    expect(JSON.stringify(next.request.body)).toContain('Second.');
    next.flush({ card: cardOf({ revision: 6 }) });
    await tick();
    expect(saving.state().kind).toBe('saved');
  });

  it('goes on from its own save when the page was closed before its answer: nobody else is blamed', async () => {
    const edited = writeKnot({ ...overhand(), name: 'Closed' });
    const id = randomId();
    await left({ at: 1, base: 1, document: edited, sent: { id, base: 1, document: edited } });
    await load(2);
    expect(saving.recovered()).toBeTrue();
    const again = await asked({ method: 'PUT', url });
    expect([saveOf(again), again.request.headers.get('If-Match')]).toEqual([id, '"1"']);
    again.flush({ card: cardOf({ revision: 2 }) });
    await tick();
    expect(saving.state().kind).not.toBe('conflict');
  });

  it('offers every draft that is left, the newest on the bench, and none of another account', async () => {
    const named = (name: string): FigureFile => writeKnot({ ...overhand(), name });
    await left({ at: 1, base: 1, document: named('Oldest') });
    await left({ at: 3, base: 1, document: named('Newest') });
    await left({ at: 4, base: 1, document: named('Of another'), account: '00000000-0000-4000-8000-00000000000f' });
    await load(1);
    expect(store.knot()?.name).toBe('Newest');
    expect(saving.drafts().map((d) => d.document.name)).toEqual(['Oldest']);
    const kept = saving.keepDraft(saving.drafts()[0]!);
    (await asked({ method: 'POST', url: '/api/knots' })).flush({ card: cardOf({ name: 'Oldest (kept draft)' }) });
    expect((await kept).name).toBe('Oldest (kept draft)');
    expect(saving.drafts()).toEqual([]);
    expect((await outbox.left(KNOT_ID, SESSION.account!.id)).map((d) => d.document.name)).not.toContain('Oldest');
  });

  it('says that the work is kept nowhere when this browser refuses it and the server does not answer', async () => {
    await load();
    spyOn(outbox, 'put').and.rejectWith(new DOMException('full', 'QuotaExceededError'));
    edit('Precious.');
    await tick();
    expect(saving.nowhere()).toBeTrue();
    expect(saving.mayLeave()).toBeFalse();
    (await asked({ method: 'PUT', url })).flush({ card: cardOf({ revision: 2 }) });
    await tick();
    expect(saving.nowhere()).toBeFalse();
  });

  it('tries a server that failed again, after growing pauses', async () => {
    await load();
    edit('Again.');
    const problem = { error: { code: 'unexpected', place: 'server', reason: 'r', remedy: 'm' } };
    (await asked({ method: 'PUT', url })).flush(problem, { status: 500, statusText: 'Server Error' });
    await tick();
    expect(saving.state().kind).toBe('kept-here');
    (await asked({ method: 'PUT', url })).flush(problem, { status: 500, statusText: 'Server Error' });
    await tick(2700);
    http.expectNone({ method: 'PUT', url });
    (await asked({ method: 'PUT', url })).flush({ card: cardOf({ revision: 2 }) });
    await tick();
    expect(saving.state().kind).toBe('saved');
  });

  it('saves while somebody draws on without a pause', async () => {
    await load();
    const until = Date.now() + 3400;
    for (let n = 1; Date.now() < until && http.match({ method: 'PUT', url }).length === 0; n += 1) {
      edit(`Edit ${n}.`);
      await tick(200);
    }
    expect(saving.state().kind).toBe('saving');
  });

  it('asks for a sign-in when the session has ended, and goes on saving after it', async () => {
    await load();
    edit('Mine.');
    const problem = { error: { code: 'signed-out', place: 'session', reason: 'r', remedy: 'm' } };
    (await asked({ method: 'PUT', url })).flush(problem, { status: 401, statusText: 'Unauthorized' });
    await tick();
    expect(saving.state().kind).toBe('signed-out');
    saving.retry();
    expect(JSON.stringify((await asked({ method: 'PUT', url })).request.body)).toContain('Mine.');
  });

  describe('in conflict', () => {
    const conflict = async (): Promise<void> => {
      await load();
      edit('Mine.');
      await tick(700);
      const theirs = { ...OVERHAND, name: 'Theirs' };
      const body = {
        error: { code: 'conflict', place: 'Overhand', reason: 'r', remedy: 'm' },
        current: { card: cardOf({ revision: 3, name: 'Theirs' }), document: theirs },
      };
      (await asked({ method: 'PUT', url })).flush(body, { status: 412, statusText: 'Precondition Failed' });
      await tick();
      expect(saving.state().kind).toBe('conflict');
    };

    it('sends nothing until one is chosen', async () => {
      await conflict();
      edit('Still mine.');
      await tick(750);
      http.expectNone({ method: 'PUT', url });
      expect(textOnBench()).toBe('Still mine.');
    });
    it('goes on with mine on top of theirs', async () => {
      await conflict();
      const done = saving.keepMine();
      const request = await asked({ method: 'PUT', url });
      expect(request.request.headers.get('If-Match')).toBe('"3"');
      request.flush({ card: cardOf({ revision: 4 }) });
      await done;
      expect(saving.state().kind).toBe('saved');
    });
    it('keeps mine as a knot of its own and goes on with theirs', async () => {
      await conflict();
      const done = saving.keepBoth();
      const request = await asked({ method: 'POST', url: '/api/knots' });
      expect(JSON.stringify(request.request.body)).toContain('(my version)');
      request.flush({ card: cardOf({ name: 'Overhand (my version)' }) });
      expect((await done)?.name).toBe('Overhand (my version)');
      expect(store.knot()?.name).toBe('Theirs');
    });
  });

  it('says why a knot cannot be opened', async () => {
    const loading = opening.open(KNOT_ID);
    (await asked(url)).flush(
      { error: { code: 'not-found', place: 'knot', reason: 'There is no such knot.', remedy: 'Look.' } },
      { status: 404, statusText: 'Not Found' },
    );
    await loading;
    expect(opening.trouble()?.reason).toBe('There is no such knot.');
  });
});
