import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router, UrlTree, type ActivatedRouteSnapshot, type RouterStateSnapshot } from '@angular/router';
import { firstValueFrom, isObservable } from 'rxjs';
import { SESSION } from '../testing/knots';
import { signedInGuard } from './session';
import { Theme } from './theme';

describe('The guard of the screens', () => {
  let http: HttpTestingController;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([])] });
    http = TestBed.inject(HttpTestingController);
  });
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
  it('asks once for all that ask meanwhile, and again afterwards', async () => {
    const both = [guard(), guard()];
    http.expectOne('/api/session').flush(SESSION);
    expect(await Promise.all(both)).toEqual([true, true]);
    const later = guard();
    http.expectOne('/api/session').flush({ ...SESSION, account: null });
    expect(await later).toBeInstanceOf(UrlTree);
  });
  it('sends others to sign in and remembers where they wanted to go', async () => {
    const passed = guard();
    http.expectOne('/api/session').flush({ ...SESSION, account: null });
    const tree = await passed;
    expect(tree).toBeInstanceOf(UrlTree);
    expect(TestBed.inject(Router).serializeUrl(tree as UrlTree)).toBe('/sign-in?to=%2Fknot%2F1%2Fdraft');
  });
});

describe('The theme', () => {
  it('that was chosen is kept', () => {
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
