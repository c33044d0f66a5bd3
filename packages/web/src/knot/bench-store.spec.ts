import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { AnalysisService } from '../data/analysis';
import { IdentityService } from '../data/identity';
import { Outbox } from '../data/outbox';
import { cardOf, KNOT_ID, knotAnswer, NoAnalysis, NoIdentity, OVERHAND, signedIn } from '../testing/knots';
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
    await outbox.remove(KNOT_ID);
  });

  const load = async (revision = 1): Promise<void> => {
    const loading = opening.open(KNOT_ID);
    await tick(30);
    http.expectOne(url).flush(knotAnswer(revision));
    await loading;
  };
  const edit = (text: string): void => {
    expect(store.edit({ kind: 'set-text', index: 0, text }).ok).toBeTrue();
  };
  const textOnBench = (): string | undefined => store.method()?.halts[0]?.text;

  it('counts a kinship that is refuted among what is found', async () => {
    const loading = opening.open(KNOT_ID);
    await tick(30);
    const says = 'The overhand is the mirror image of the reef knot.';
    http.expectOne(url).flush({ ...knotAnswer(1), refutedKin: [{ says, compared: 'Their signatures differ.' }] });
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
    expect((await outbox.get(KNOT_ID))?.base).toBe(4);
    await tick(750);
    const request = http.expectOne({ method: 'PUT', url });
    expect(request.request.headers.get('If-Match')).toBe('"4"');
    request.flush({ card: cardOf({ revision: 5 }) });
    await tick();
    expect(saving.state().kind).toBe('saved');
    expect(await outbox.get(KNOT_ID)).toBeUndefined();
  });

  it('sends again what was changed while a save was on its way', async () => {
    await load();
    edit('First.');
    await tick(700);
    const first = http.expectOne({ method: 'PUT', url });
    edit('Second.');
    first.flush({ card: cardOf({ revision: 2 }) });
    await tick(700);
    const second = http.expectOne({ method: 'PUT', url });
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
    await tick(700);
    http.expectOne({ method: 'PUT', url }).error(new ProgressEvent('error'));
    await tick();
    expect(saving.state().kind).toBe('kept-here');
    expect(textOnBench()).toBe('Kept.');
    await load();
    expect(saving.recovered()).toBeTrue();
    expect(textOnBench()).toBe('Kept.');
    await outbox.remove(KNOT_ID);
  });

  it('asks for a sign-in when the session has ended, and goes on saving after it', async () => {
    await load();
    edit('Mine.');
    await tick(700);
    const problem = { error: { code: 'signed-out', place: 'session', reason: 'r', remedy: 'm' } };
    http.expectOne({ method: 'PUT', url }).flush(problem, { status: 401, statusText: 'Unauthorized' });
    await tick();
    expect(saving.state().kind).toBe('signed-out');
    saving.retry();
    await tick(700);
    expect(JSON.stringify(http.expectOne({ method: 'PUT', url }).request.body)).toContain('Mine.');
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
      http.expectOne({ method: 'PUT', url }).flush(body, { status: 412, statusText: 'Precondition Failed' });
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
      await tick();
      const request = http.expectOne({ method: 'PUT', url });
      expect(request.request.headers.get('If-Match')).toBe('"3"');
      request.flush({ card: cardOf({ revision: 4 }) });
      await done;
      expect(saving.state().kind).toBe('saved');
    });
    it('keeps mine as a knot of its own and goes on with theirs', async () => {
      await conflict();
      const done = saving.keepBoth();
      await tick();
      const request = http.expectOne({ method: 'POST', url: '/api/knots' });
      expect(JSON.stringify(request.request.body)).toContain('(my version)');
      request.flush({ card: cardOf({ name: 'Overhand (my version)' }) });
      expect((await done)?.name).toBe('Overhand (my version)');
      expect(store.knot()?.name).toBe('Theirs');
    });
  });

  it('says why a knot cannot be opened', async () => {
    const loading = opening.open(KNOT_ID);
    await tick(30);
    http
      .expectOne(url)
      .flush(
        { error: { code: 'not-found', place: 'knot', reason: 'There is no such knot.', remedy: 'Look.' } },
        { status: 404, statusText: 'Not Found' },
      );
    await loading;
    expect(opening.trouble()?.reason).toBe('There is no such knot.');
  });
});
