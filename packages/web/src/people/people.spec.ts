import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { provideHttpClient } from '@angular/common/http';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { provideRouter, Router } from '@angular/router';
import type { Held, People } from '@foxtrail/contract';
import { SESSION } from '../testing/knots';
import { SessionService } from '../data/session';
import { AccountPage } from './account';
import { Select } from '../ui/select';
import { JoinPage } from './join';
import { KeepingPage } from './keeping';
import { PeoplePage } from './people';
import { SecondFactor } from './second-factor';
import { SignInForm } from '../sign-in/sign-in-form';

const ID = '00000000-0000-4000-8000-000000000009';
const PEOPLE: People = {
  people: [
    { id: ID, name: 'Moss', role: 'reviewer', closed: false, second: false, usedAt: null },
    {
      id: SESSION.account!.id,
      name: 'Ada',
      role: 'owner',
      closed: false,
      second: true,
      usedAt: '2026-11-30T10:00:00Z',
    },
  ],
  invited: [{ name: 'Ren', role: 'reader', endsAt: '2026-12-07T10:00:00Z' }],
};

const HELD: Held = {
  knots: 12,
  archived: 2,
  revisions: 40,
  films: 1,
  mediaBytes: 3 * 1024 ** 2,
  databaseBytes: 20 * 1024 ** 2,
  jobs: [
    { kind: 'count', left: 1200, inHand: 2, servers: 2 },
    { kind: 'kin', left: 0, inHand: 0, servers: 0 },
  ],
  keepDays: null,
  superuser: false,
  backup: null,
};

describe('people', () => {
  let http: HttpTestingController;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([])] });
    http = TestBed.inject(HttpTestingController);
    TestBed.inject(SessionService).load().subscribe();
    http.expectOne('/api/session').flush(SESSION);
  });
  afterEach(() => http.verify());
  const button = (fixture: ComponentFixture<unknown>, text: string): HTMLButtonElement =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find((b) => b.textContent.includes(text))!;
  const type = (fixture: ComponentFixture<unknown>, selector: string, value: string): void => {
    const field = (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>(selector)!;
    field.value = value;
    field.dispatchEvent(new Event('input'));
  };
  const load = (people = PEOPLE): void => http.expectOne('/api/people').flush(people);
  const alert = (fixture: ComponentFixture<unknown>): string =>
    (fixture.nativeElement as HTMLElement).querySelector('[role=alert]')?.textContent ?? '';

  it('are shown with what they may do; one is invited by a link that is told once, and taken back', async () => {
    const fixture = TestBed.createComponent(PeoplePage);
    const page = fixture.nativeElement as HTMLElement;
    load();
    await fixture.whenStable();
    expect([...page.querySelectorAll('tbody th')].map((t) => t.textContent.replace(/\s+/g, ' ').trim())).toEqual([
      'Moss',
      'Ada (you) with a code',
    ]);
    page.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    await fixture.whenStable();
    expect(alert(fixture)).toContain('Say who is invited');
    type(fixture, '[name=name]', '  Pim ');
    page.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    const sent = http.expectOne('/api/people/invitations');
    expect(sent.request.body).toEqual({ name: 'Pim', role: 'author' });
    sent.flush({ token: 'abc' }, { status: 201, statusText: 'Created' });
    load();
    await fixture.whenStable();
    expect(page.querySelector<HTMLInputElement>('[aria-label="The link"]')!.value).toBe(`${location.origin}/join#abc`);
    button(fixture, 'Take back').click();
    const back = http.expectOne('/api/people/invitations');
    expect([back.request.method, back.request.body]).toEqual(['PUT', { name: 'Ren' }]);
    back.flush(null, { status: 204, statusText: 'No Content' });
    load({ ...PEOPLE, invited: [] });
    await fixture.whenStable();
    expect(page.textContent).not.toContain('Invited');
  });

  it('who own a house are told what it holds, and when it is to be backed up', async () => {
    const says = async (backup: Held['backup'], superuser = false): Promise<string> => {
      const fixture = TestBed.createComponent(KeepingPage);
      http.expectOne('/api/house/held').flush({ ...HELD, backup, superuser });
      await fixture.whenStable();
      const wanting = (fixture.nativeElement as HTMLElement).querySelector('.wanting');
      return wanting?.textContent.replace(/\s+/g, ' ').trim() ?? '';
    };
    const ago = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString();
    expect(await says(null)).toContain('never');
    expect(await says({ at: ago(9), bytes: 1024 ** 2 })).toContain('9 days ago');
    expect(await says({ at: ago(1), bytes: 1024 ** 2 })).toBe('');
    expect(await says({ at: ago(1), bytes: 1024 ** 2 }, true)).toContain('is a superuser');
  });

  it('set up a second factor: it is shown to work before it is asked for, and its spare codes are told once', async () => {
    const fixture = TestBed.createComponent(SecondFactor);
    const page = fixture.nativeElement as HTMLElement;
    http.expectOne('/api/session/second').flush({ on: false });
    await fixture.whenStable();
    button(fixture, 'Set one up').click();
    await fixture.whenStable();
    expect(alert(fixture)).toContain('present password');
    type(fixture, '[name=present-for-second]', 'estuary');
    button(fixture, 'Set one up').click();
    const begun = http.expectOne({ method: 'POST', url: '/api/session/second' });
    expect(begun.request.body).toEqual({ present: 'estuary' });
    begun.flush({ secret: 'ABCDEFGHIJ', squares: ['10', '01'] });
    await fixture.whenStable();
    expect(page.textContent).toContain('ABCD EFGH IJ');
    expect(page.querySelector('svg')!.getAttribute('viewBox')).toBe('0 0 2 2');
    expect(page.querySelector('path')!.getAttribute('d')).toBe('M0 0h1v1h-1zM1 1h1v1h-1z');
    type(fixture, '[name=code]', '123456');
    button(fixture, 'Ask for codes').click();
    const shown = http.expectOne({ method: 'PUT', url: '/api/session/second' });
    expect(shown.request.body).toEqual({ code: '123456' });
    shown.flush({ spare: ['aaaaa-bbbbb', 'ccccc-ddddd'] });
    await fixture.whenStable();
    expect(page.textContent).toContain('aaaaa-bbbbb');
    button(fixture, 'I have kept them').click();
    await fixture.whenStable();
    expect(page.textContent).not.toContain('aaaaa-bbbbb');
    type(fixture, '[name=present-for-second]', 'estuary');
    button(fixture, 'Take it away').click();
    http
      .expectOne({ method: 'PUT', url: '/api/session/second/end' })
      .flush(null, { status: 204, statusText: 'No Content' });
    await fixture.whenStable();
    expect(button(fixture, 'Set one up')).toBeDefined();
  });

  it('who have a second factor are asked for its code once name and password are right', async () => {
    const fixture = TestBed.createComponent(SignInForm);
    const signedIn = jasmine.createSpy();
    fixture.componentInstance.signedIn.subscribe(signedIn);
    await fixture.whenStable();
    type(fixture, '[formcontrolname=name]', 'Ada');
    type(fixture, '[formcontrolname=password]', 'estuary');
    button(fixture, 'Sign in').click();
    const error = { code: 'second-factor', place: 'code', reason: 'r', remedy: 'm' };
    http
      .expectOne({ method: 'POST', url: '/api/session' })
      .flush({ error }, { status: 401, statusText: 'Unauthorized' });
    await fixture.whenStable();
    expect(signedIn).not.toHaveBeenCalled();
    type(fixture, '[formcontrolname=code]', '123 456');
    button(fixture, 'Sign in').click();
    const sent = http.expectOne({ method: 'POST', url: '/api/session' });
    expect(sent.request.body).toEqual({ name: 'Ada', password: 'estuary', code: '123 456' });
    sent.flush(SESSION);
    await fixture.whenStable();
    expect(signedIn).toHaveBeenCalledTimes(1);
  });

  it('who own a house are told what servers do by themselves', async () => {
    const fixture = TestBed.createComponent(KeepingPage);
    http.expectOne('/api/house/held').flush(HELD);
    await fixture.whenStable();
    const text = (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');
    expect(text).toContain('Knots counted anew1,200 left, 2 of them worked on by 2 servers');
    expect(text).toContain('Kinship tried anewnothing left');
  });

  it('who own a house choose how long every save is kept, once they know what goes', async () => {
    const fixture = TestBed.createComponent(KeepingPage);
    const page = fixture.nativeElement as HTMLElement;
    http.expectOne('/api/house/held').flush(HELD);
    await fixture.whenStable();
    const spans = fixture.debugElement.query(By.directive(Select)).componentInstance as Select<string>;
    spans.value.set('365');
    const looked = http.expectOne('/api/house/keep');
    expect(looked.request.body).toEqual({ days: 365, look: true });
    looked.flush({ goes: 1200 });
    await fixture.whenStable();
    expect(page.textContent).toContain('Let 1,200 saves go');
    expect(page.querySelector('.keep ~ .wanting')?.textContent).toContain('gone for good');
    button(fixture, 'Let 1,200').click();
    const chosen = http.expectOne('/api/house/keep');
    expect(chosen.request.body).toEqual({ days: 365 });
    chosen.flush({ goes: 1200 });
    await fixture.whenStable();
    http.expectOne('/api/house/held').flush({ ...HELD, keepDays: 365 });
    await fixture.whenStable();
    expect(page.textContent).not.toContain('saves go');
    expect(spans.value()).toBe('365');
  });

  it('who own a house take a library in, once they have seen what would become of it', async () => {
    const fixture = TestBed.createComponent(KeepingPage);
    const page = fixture.nativeElement as HTMLElement;
    http.expectOne('/api/house/held').flush(HELD);
    await fixture.whenStable();
    const given = new DataTransfer();
    given.items.add(new File(['PK'], 'library.zip', { type: 'application/zip' }));
    const field = page.querySelector<HTMLInputElement>('input[type=file]')!;
    field.files = given.files;
    field.dispatchEvent(new Event('change'));
    const asked = (take: string): TestRequest =>
      http.expectOne((r) => r.url === '/api/house/archive' && r.params.get('take') === take);
    const told = {
      house: 'The mill',
      made: '2026-11-30T10:00:00Z',
      told: [
        { what: 'knot “Reef”', becomes: 'new' },
        { what: 'knot “Bowline”', becomes: 'there already' },
        { what: 'films/x.webm', becomes: 'refused', why: 'It is neither WebM nor MP4.' },
      ],
    };
    asked('false').flush(told);
    await fixture.whenStable();
    for (const part of ['The mill', '1 new, 1 here already', '1 refused', 'films/x.webm', 'neither WebM'])
      expect(page.textContent).toContain(part);
    page.querySelector<HTMLInputElement>('mat-checkbox input')!.click();
    button(fixture, 'Take it').click();
    const taken = asked('true');
    expect(taken.request.params.get('house')).toBe('true');
    taken.flush(told);
    await fixture.whenStable();
    http.expectOne('/api/house/held').flush(HELD);
    await fixture.whenStable();
    expect(page.textContent).toContain('1 taken');
    expect(button(fixture, 'Take it')).toBeUndefined();
  });

  it('are closed; what the server refuses is said', async () => {
    const fixture = TestBed.createComponent(PeoplePage);
    load();
    await fixture.whenStable();
    button(fixture, 'Close account').click();
    const sent = http.expectOne(`/api/people/${ID}`);
    expect(sent.request.body).toEqual({ role: 'reviewer', closed: true });
    const error = {
      code: 'c',
      place: 'role',
      reason: 'A house has an owner: this is its last.',
      remedy: 'Make another.',
    };
    sent.flush({ error }, { status: 409, statusText: 'Conflict' });
    await fixture.whenStable();
    expect(alert(fixture)).toContain('this is its last');
  });

  it('take an invitation up by a password, and say when the link is none', async () => {
    const fixture = TestBed.createComponent(JoinPage);
    await fixture.whenStable();
    const submit = async (): Promise<void> => {
      (fixture.nativeElement as HTMLElement)
        .querySelector('form')!
        .dispatchEvent(new Event('submit', { cancelable: true }));
      await fixture.whenStable();
    };
    type(fixture, '[name=password]', 'three unlikely lanterns');
    await submit();
    expect(alert(fixture)).toContain('no invitation in this address');
    const went = spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    history.replaceState(null, '', `${location.pathname}${location.search}#abc`);
    await submit();
    const sent = http.expectOne('/api/join');
    expect(sent.request.body).toEqual({ token: 'abc', password: 'three unlikely lanterns' });
    sent.flush(SESSION);
    await fixture.whenStable();
    expect(went).toHaveBeenCalledWith('/shelf');
    history.replaceState(null, '', `${location.pathname}${location.search}`);
  });

  it('change their password with the present one, and sign out everywhere', async () => {
    const fixture = TestBed.createComponent(AccountPage);
    http.expectOne('/api/session/second').flush({ on: false });
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    type(fixture, '[name=password]', 'three unlikely lanterns');
    page.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    await fixture.whenStable();
    expect(alert(fixture)).toContain('Give both');
    type(fixture, '[autocomplete=current-password]', 'right horse');
    page.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    const sent = http.expectOne('/api/session/password');
    expect(sent.request.body).toEqual({ present: 'right horse', wanted: 'three unlikely lanterns' });
    sent.flush(null, { status: 204, statusText: 'No Content' });
    await fixture.whenStable();
    expect(page.querySelector('[role=status]')!.textContent).toContain('It is changed');
    const went = spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    button(fixture, 'Sign out everywhere').click();
    http.expectOne('/api/session/all').flush(null, { status: 204, statusText: 'No Content' });
    await fixture.whenStable();
    expect(went).toHaveBeenCalledWith('/sign-in');
    expect(TestBed.inject(SessionService).session()?.account).toBeNull();
  });
});
