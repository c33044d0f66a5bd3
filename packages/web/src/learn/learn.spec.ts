import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router, UrlTree, type ActivatedRouteSnapshot, type RouterStateSnapshot } from '@angular/router';
import { firstValueFrom, isObservable } from 'rxjs';
import { signedInGuard } from '../data/session';
import { Theme } from '../data/theme';
import { OVERHAND, SESSION } from '../testing/knots';
import { Icons } from '../ui/icons';
import { LearnPage } from './learn';
import { PublishedPage } from './published';

describe('public pages', () => {
  let http: HttpTestingController;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([])] });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
  });
  const open = (): [ComponentFixture<LearnPage>, HTMLElement] => {
    const fixture = TestBed.createComponent(LearnPage);
    fixture.componentRef.setInput('slug', 'overhand');
    fixture.detectChanges();
    return [fixture, fixture.nativeElement as HTMLElement];
  };
  const answer = {
    slug: 'overhand',
    document: OVERHAND,
    publishedAt: '2026-05-01T10:00:00.000Z',
    house: SESSION.house,
    vocabulary: { ...SESSION.house.vocabulary, workingEnd: 'kite end' },
    otherSchools: [],
    terms: [{ id: 'bight', word: 'kite bend', definition: 'Rope doubled back.', figure: null }],
    clip: false,
    wrongWays: [{ name: 'False one', slug: 'false-one' }],
  };

  it('show the lesson, its wrong ways and its files', async () => {
    const [fixture, page] = open();
    http.expectOne('/api/public/knots/overhand').flush(answer);
    await fixture.whenStable();
    expect(page.querySelector('h1')?.textContent).toBe('Overhand');
    expect(page.querySelector('.wrong a')?.getAttribute('href')).toBe('/learn/false-one');
    const files = [...page.querySelectorAll<HTMLAnchorElement>('.files a')].map((a) => a.getAttribute('href'));
    expect(files).toEqual(
      ['sheet.svg', 'steps/1.svg', 'steps/2.svg', 'figure.json', 'captions.vtt'].map(
        (f) => `/api/public/knots/overhand/${f}`,
      ),
    );
    expect(page.querySelector('video')).toBeNull();
    // Its words are the lesson's, and those it explains come before the first step.
    expect(page.querySelector('.say')?.textContent).toContain('kite end');
    expect(page.querySelector('ft-terms')?.textContent).toContain('kite bend Rope doubled back.');
    expect(page.querySelector('ft-terms')!.compareDocumentPosition(page.querySelector('.player')!)).toBe(
      Node.DOCUMENT_POSITION_FOLLOWING,
    );
  });
  it('play the clip with captions when there is one', async () => {
    const [fixture, page] = open();
    http.expectOne('/api/public/knots/overhand').flush({ ...answer, clip: true });
    await fixture.whenStable();
    expect(page.querySelector('video')?.getAttribute('src')).toBe('/api/public/knots/overhand/clip.webm');
    expect(page.querySelector('track')?.getAttribute('kind')).toBe('captions');
  });
  it('say when a knot is not published', async () => {
    const [fixture, page] = open();
    http.expectOne('/api/public/knots/overhand').flush(
      {
        error: {
          code: 'not-published',
          place: 'overhand',
          reason: 'There is no published knot at this address.',
          remedy: 'Ask.',
        },
      },
      { status: 404, statusText: 'Not Found' },
    );
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')?.textContent).toContain('This page is not published');
  });
  it('list what a house has published', async () => {
    const fixture = TestBed.createComponent(PublishedPage);
    fixture.detectChanges();
    http
      .expectOne('/api/public/knots')
      .flush({ house: 'Test house', knots: [{ name: 'Reef', slug: 'reef', summary: 'Binds.' }] });
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector('h1')?.textContent).toContain('Test house');
    expect(page.querySelector('a')?.getAttribute('href')).toBe('/learn/reef');
  });

  describe('and the rest', () => {
    const guard = (): Promise<unknown> => {
      const result = TestBed.runInInjectionContext(() =>
        signedInGuard({} as ActivatedRouteSnapshot, { url: '/knot/1/draft' } as RouterStateSnapshot),
      );
      return isObservable(result) ? firstValueFrom(result) : Promise.resolve(result);
    };
    it('lets the signed-in pass', async () => {
      const passed = guard();
      http.expectOne('/api/session').flush(SESSION);
      expect(await passed).toBeTrue();
    });
    it('sends others to sign in and remembers where they wanted to go', async () => {
      const passed = guard();
      http.expectOne('/api/session').flush({ ...SESSION, account: null });
      const tree = await passed;
      expect(tree).toBeInstanceOf(UrlTree);
      expect(TestBed.inject(Router).serializeUrl(tree as UrlTree)).toBe('/sign-in?to=%2Fknot%2F1%2Fdraft');
    });
  });

  it('keep the theme that was chosen', () => {
    const theme = TestBed.inject(Theme);
    const was = theme.dark();
    theme.toggle();
    TestBed.tick();
    expect(theme.dark()).toBe(!was);
    expect(document.documentElement.dataset.theme).toBe(was ? 'light' : 'dark');
    theme.toggle();
    localStorage.removeItem('foxtrail-theme');
  });
});
