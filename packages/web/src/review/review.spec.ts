import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { KnotReview, Review } from '@foxtrail/contract';
import { needsForPeople, reviewItems, WORKSHOP_WORDS } from '@foxtrail/core';
import { FakeBench } from '../testing/fake-bench';
import { KNOT_ID, overhand, signedIn } from '../testing/knots';
import { Icons } from '../ui/icons';
import { ReviewPage } from './review';
import { chooseIn } from '../testing/choosing';

describe('Review', () => {
  const url = `/api/knots/${KNOT_ID}/review`;
  const knot = overhand();
  const items = reviewItems(knot, WORKSHOP_WORDS);
  const open: Review = {
    id: KNOT_ID,
    revision: 1,
    reviewer: 'Rue',
    own: true,
    state: 'open',
    begunAt: '2026-05-01T10:00:00.000Z',
    settledAt: null,
    verdicts: [],
  };
  const answer: KnotReview = {
    revision: 1,
    savedBy: 'Ada',
    mayReview: true,
    items,
    current: null,
    before: null,
    needs: needsForPeople(knot, [], false),
    log: [{ kind: 'saved', revision: 1, who: 'Ada', at: '2026-05-01T10:00:00.000Z', name: null }],
  };
  let http: HttpTestingController;
  let fixture: ComponentFixture<ReviewPage>;
  let page: HTMLElement;

  /** An answer has arrived and is on the page. */
  async function settled(): Promise<void> {
    await new Promise((done) => setTimeout(done));
    await fixture.whenStable();
  }

  async function start(first: KnotReview): Promise<void> {
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        new FakeBench().provided,
        signedIn(),
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(ReviewPage);
    page = fixture.nativeElement as HTMLElement;
    fixture.detectChanges();
    http.expectOne(url).flush(first);
    await settled();
  }
  const text = (selector: string): string =>
    (page.querySelector(selector)?.textContent ?? '').replace(/\s+/g, ' ').trim();
  const button = (name: string): HTMLButtonElement | undefined =>
    [...page.querySelectorAll('button')].find((b) => b.textContent.includes(name));
  const press = (key: string): void => void document.dispatchEvent(new KeyboardEvent('keydown', { key }));
  const send = async (body: KnotReview, path = url): Promise<unknown> => {
    const request = http.expectOne(path);
    request.flush(body);
    await settled();
    return request.request.body;
  };

  it('tells who may review, what is missing, and what was done', async () => {
    await start(answer);
    expect(text('.band')).toContain('Revision 1 is not reviewed');
    expect(page.querySelectorAll('.items li').length).toBe(items.length);
    expect(text('.needs')).toContain('missing');
    expect(text('.log tbody')).toContain('Ada saved revision 1');
    expect(button('It is right')).toBeUndefined();
    button('Begin the review')!.click();
    await send({ ...answer, current: open });
    expect(text('.band')).toContain('Your review of revision 1');
    expect(button('Accept the knot')!.disabled).toBeTrue();
  });

  it('does not let an author review what they saved', async () => {
    await start({ ...answer, mayReview: false });
    expect(text('.band')).toContain('Somebody else has to review it');
    expect(button('Begin the review')).toBeUndefined();
  });

  it('goes through the items: A accepts and goes on, a return needs a remark and may name a crossing', async () => {
    await start({ ...answer, current: open });
    press('a');
    const accepted = { key: items[0]!.key, verdict: 'accepted' as const, remark: '', crossing: null };
    const sent = await send({ ...answer, current: { ...open, verdicts: [accepted] } }, `${url}/items/${items[0]!.key}`);
    expect(sent).toEqual({ verdict: 'accepted', remark: '', crossing: null });
    expect(text('.claim .count')).toBe(`2 of ${items.length}`);
    expect(page.querySelector('.one svg')).not.toBeNull();
    button('Return it')!.click();
    await fixture.whenStable();
    expect(text('[role=alert]')).toContain('needs a remark');
    const area = page.querySelector('textarea')!;
    area.value = 'The loop is too small.';
    area.dispatchEvent(new Event('input'));
    await chooseIn(fixture, 'at crossing', '2');
    button('Return it')!.click();
    const returned = {
      key: items[1]!.key,
      verdict: 'returned' as const,
      remark: 'The loop is too small.',
      crossing: 2,
    };
    const body = await send(
      { ...answer, current: { ...open, verdicts: [accepted, returned] } },
      `${url}/items/${items[1]!.key}`,
    );
    expect(body).toEqual({ verdict: 'returned', remark: 'The loop is too small.', crossing: 2 });
    expect(button('Return the knot')!.disabled).toBeFalse();
    press('ArrowLeft');
    await fixture.whenStable();
    expect(page.querySelector('textarea')!.value).toBe('The loop is too small.');
  });

  it('shows remarks to the author, and that an accepted knot was changed since', async () => {
    const verdicts = [{ key: items[1]!.key, verdict: 'returned' as const, remark: 'Too small.', crossing: 2 }];
    const settledAt = '2026-05-01T11:00:00.000Z';
    await start({
      ...answer,
      mayReview: false,
      current: { ...open, own: false, state: 'returned', settledAt, verdicts },
    });
    expect(text('.remarks')).toContain(`${items[1]!.title}, crossing 2. Too small.`);
    TestBed.resetTestingModule();
    await start({ ...answer, revision: 2, before: { ...open, state: 'accepted', settledAt } });
    expect(text('.remarks')).toContain('Revision 1 was accepted by Rue; it has been changed since');
  });

  it('says when it cannot be shown, and tries again', async () => {
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([]),
        new FakeBench().provided,
        signedIn(),
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(ReviewPage);
    page = fixture.nativeElement as HTMLElement;
    fixture.detectChanges();
    http.expectOne(url).error(new ProgressEvent('error'));
    await settled();
    expect(text('[role=alert]')).toContain('The review cannot be shown');
    button('Try again')!.click();
    await send(answer);
    expect(text('.band')).toContain('not reviewed');
  });
});
