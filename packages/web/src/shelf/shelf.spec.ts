import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { SHELF_PAGE, type KnotCard } from '@foxtrail/contract';
import { cardOf, KNOT_ID, signedIn } from '../testing/knots';
import { Icons } from '../ui/icons';
import { ShelfPage } from './shelf';

describe('the shelf', () => {
  let fixture: ComponentFixture<ShelfPage>;
  let http: HttpTestingController;
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const asked = (): TestRequest => http.expectOne((r) => r.url === '/api/knots' && r.method === 'GET');
  const settle = async (): Promise<void> => {
    await new Promise((done) => setTimeout(done, 260));
    await fixture.whenStable();
  };
  /** What came is shown once its pictures were waited for, however long that takes here. */
  const shown = async (): Promise<void> => {
    do await settle();
    while (page().querySelector('.progress mat-progress-bar'));
  };

  beforeEach(async () => {
    TestBed.configureTestingModule({
      providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([]), signedIn()],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(ShelfPage);
    fixture.detectChanges();
    await settle();
  });

  it('shows each knot with its class, state and findings', async () => {
    asked().flush({
      knots: [
        cardOf({ errors: 2, warnings: 1 }),
        cardOf({ id: '00000000-0000-4000-8000-000000000002', name: 'Reef', state: 'published' }),
      ],
      total: 2,
    });
    await shown();
    const text = page().textContent;
    for (const part of ['Overhand', 'stopper', '2 errors, 1 warning', 'Reef', 'published', 'no findings'])
      expect(text).toContain(part);
  });
  it('shows what each drawing was found to be', async () => {
    asked().flush({
      knots: [
        cardOf({ verdict: { state: 'fails', headline: 'It is not the overhand knot: it falls apart.' } }),
        cardOf({
          id: '00000000-0000-4000-8000-000000000002',
          verdict: { state: 'holds', headline: 'It is the overhand knot.' },
        }),
      ],
      total: 2,
    });
    await shown();
    expect(page().textContent).toContain('not what it claims');
    expect(page().querySelector('.chip.fails')?.getAttribute('title')).toContain('falls apart');
    expect(page().textContent).toContain('is what it claims');
  });
  it('finds knots drawn like one of them, and the way back to the whole shelf', async () => {
    asked().flush({ knots: [cardOf()], total: 1 });
    fixture.componentRef.setInput('like', KNOT_ID);
    await settle();
    const request = asked();
    expect(request.request.params.get('like')).toBe(KNOT_ID);
    request.flush({ knots: [cardOf()], total: 1 });
    await shown();
    expect(page().querySelector('.like')?.textContent).toContain('Drawn like Overhand');
  });
  it('says what to do when it is empty', async () => {
    asked().flush({ knots: [], total: 0 });
    await shown();
    expect(page().textContent).toContain('The shelf is empty');
    expect(page().textContent).toContain('Draft the first knot');
  });
  it('searches by what is typed, once the typing pauses', async () => {
    asked().flush({ knots: [cardOf()], total: 1 });
    const input = page().querySelector('input')!;
    for (const value of ['s', 'sq', 'square']) {
      input.value = value;
      input.dispatchEvent(new Event('input'));
    }
    await settle();
    const request = asked();
    expect(request.request.params.get('q')).toBe('square');
    request.flush({ knots: [], total: 0 });
    await shown();
    expect(page().textContent).toContain('No knot is called “square”');
  });
  it('says that the server does not answer, and tries again', async () => {
    asked().error(new ProgressEvent('error'));
    await shown();
    expect(page().querySelector('[role=alert]')?.textContent).toContain('does not answer');
    [...page().querySelectorAll('button')].find((b) => b.textContent.includes('Try again'))!.click();
    await settle();
    asked().flush({ knots: [cardOf()], total: 1 });
    await shown();
    expect(page().querySelector('[role=alert]')).toBeNull();
  });
  it('shows a long shelf page by page, and as much of it again after something was done', async () => {
    const card = (n: number): KnotCard =>
      cardOf({ id: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`, name: `Knot ${n}` });
    const cards = Array.from({ length: 60 }, (_, n) => card(n));
    const names = (): (string | undefined)[] => [...page().querySelectorAll('.knot h2')].map((h) => h.textContent);
    const first = asked();
    expect(first.request.params.get('most')).toBe(String(SHELF_PAGE));
    first.flush({ knots: cards.slice(0, SHELF_PAGE), total: 60 });
    await shown();
    expect(page().querySelector('.further')?.textContent).toContain('48 of 60');
    [...page().querySelectorAll('button')].find((b) => b.textContent.includes('Show more'))!.click();
    const more = http.match((r) => r.url === '/api/knots' && r.params.get('from') === String(SHELF_PAGE));
    expect(more.length).withContext('asked once, by whichever came first: the press or the sight of it').toBe(1);
    // One was saved meanwhile and has moved up: the page holds one that is shown already.
    more[0]!.flush({ knots: cards.slice(SHELF_PAGE - 1), total: 60 });
    await shown();
    expect(names()).toEqual(cards.map((c) => c.name));
    expect(page().querySelector('.further')).toBeNull();
    (fixture.componentInstance as unknown as { reload(): void }).reload();
    const again = asked();
    expect(again.request.params.get('most')).toBe('60');
    again.flush({ knots: cards, total: 60 });
    await shown();
    expect(names().length).toBe(60);
  });
});
