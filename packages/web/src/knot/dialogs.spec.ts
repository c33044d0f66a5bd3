import { beginnings, type Beginning } from '@foxtrail/pattern-book';
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import type { Provider } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { SessionService } from '../data/session';
import type { FormControl, FormGroup } from '@angular/forms';
import { NewKnotDialog } from '../shelf/new-knot.dialog';
import { SignInForm } from '../sign-in/sign-in-form';
import { FakeBench } from '../testing/fake-bench';
import { cardOf, OVERHAND, overhand, SESSION } from '../testing/knots';
import { Icons } from '../ui/icons';
import { ConflictDialog } from './conflict.dialog';
import { EntryDialog, type NamedEntry } from './entry.dialog';

describe('dialogs', () => {
  const closed: unknown[] = [];
  function open<T>(type: new () => T, data: unknown, more: Provider = []): ComponentFixture<T> {
    closed.length = 0;
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: MAT_DIALOG_DATA, useValue: data },
        { provide: MatDialogRef, useValue: { close: (v: unknown) => closed.push(v) } },
        more,
      ],
    });
    TestBed.inject(Icons);
    const fixture = TestBed.createComponent(type);
    fixture.detectChanges();
    return fixture;
  }
  const press = (fixture: ComponentFixture<unknown>, text: string): void =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')]
      .find((b) => b.textContent.includes(text))!
      .click();
  const type = (fixture: ComponentFixture<unknown>, name: string, value: string): void => {
    const input = (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>(`[formControlName=${name}]`)!;
    input.value = value;
    input.dispatchEvent(new Event('input'));
  };
  const submit = async (fixture: ComponentFixture<unknown>): Promise<void> => {
    (fixture.nativeElement as HTMLElement).querySelector('form')!.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
  };
  const alert = (fixture: ComponentFixture<unknown>): string =>
    (fixture.nativeElement as HTMLElement).querySelector('[role=alert]')?.textContent ?? '';

  it('the entry keeps what it does not show, and refuses what cannot be, with its place', async () => {
    const given: NamedEntry = { name: 'Overhand', entry: { ...overhand().entry, mood: 3 } };
    const fixture = open(EntryDialog, given);
    type(fixture, 'name', '<b>');
    await submit(fixture);
    expect(alert(fixture)).toContain('markup');
    type(fixture, 'name', 'Thumb knot');
    type(fixture, 'aliases', 'simple knot,  overhand ,,');
    type(fixture, 'diameterMm', '0');
    await submit(fixture);
    expect(alert(fixture)).toContain('cord.diameterMm');
    type(fixture, 'diameterMm', '11');
    type(fixture, 'cautions', 'Jams.\n\nMind the load.');
    await submit(fixture);
    const kept = closed[0] as NamedEntry;
    expect(kept.name).toBe('Thumb knot');
    expect(kept.entry).toEqual(
      jasmine.objectContaining({
        aliases: ['simple knot', 'overhand'],
        cautions: ['Jams.', 'Mind the load.'],
        mood: 3,
      }) as never,
    );
    expect(kept.entry.cord.diameterMm).toBe(11);
  });

  it('the conflict shows both versions and settles it one of three ways', async () => {
    for (const [text, asked] of [
      ['Go on with mine', 'mine'],
      ['Go on with theirs', 'theirs'],
      ['Keep mine as a knot', 'both'],
    ] as const) {
      TestBed.resetTestingModule();
      const bench = new FakeBench();
      bench.saving.state.set({
        kind: 'conflict',
        trouble: {
          status: 412,
          code: 'conflict',
          place: 'p',
          reason: 'Moss saved revision 3.',
          remedy: 'm',
          body: null,
        },
        theirs: { card: cardOf({ revision: 3, updatedBy: 'Moss' }), document: { ...OVERHAND, name: 'Theirs' } },
      });
      const fixture = open(ConflictDialog, undefined, bench.provided);
      const page = fixture.nativeElement as HTMLElement;
      expect(page.textContent).toContain('Moss saved revision 3.');
      expect(page.querySelectorAll('ft-figure svg').length).toBe(2);
      expect(page.textContent).toContain('What differs: the entry.');
      press(fixture, text);
      await fixture.whenStable();
      expect(bench.asked).toEqual([asked]);
      expect(closed.length).toBe(1);
    }
  });

  it('a new knot is made by a good name only', async () => {
    const fixture = open(NewKnotDialog, undefined);
    const http = TestBed.inject(HttpTestingController);
    for (const bad of ['', '  ', 'x'.repeat(81)]) {
      type(fixture, 'name', bad);
      await submit(fixture);
      expect(alert(fixture)).toContain('cannot be used');
    }
    type(fixture, 'name', '  Bowline ');
    await submit(fixture);
    const request = http.expectOne('/api/knots');
    expect(request.request.body).toEqual({ name: 'Bowline' });
    request.flush({ card: cardOf({ name: 'Bowline' }) }, { status: 201, statusText: 'Created' });
    expect(closed[0]).toEqual({ card: jasmine.objectContaining({ name: 'Bowline' }), toWalk: false });
  });

  it('a new knot begins from the pattern book, under the name of the pattern or its own', async () => {
    const fixture = open(NewKnotDialog, undefined);
    const http = TestBed.inject(HttpTestingController);
    const { form } = fixture.componentInstance as unknown as {
      form: FormGroup<{ name: FormControl<string>; pattern: FormControl<Beginning | undefined> }>;
    };
    const from = (name: string): Beginning => beginnings().find((b) => b.name === name)!;
    const page = fixture.nativeElement as HTMLElement;
    while (!page.querySelector('mat-select')) {
      await new Promise((done) => setTimeout(done, 10));
      await fixture.whenStable();
    }
    // A way to tie it is none of its names.
    form.controls.pattern.setValue(from('Bowline: flipped from a slip knot'));
    expect(form.controls.name.value).toBe('Bowline');
    form.controls.name.setValue('Bowline for the bridle');
    form.controls.pattern.setValue(from('Sheet bend: as a bowline is tied'));
    expect(form.controls.name.value).toBe('Bowline for the bridle');
    await submit(fixture);
    let [asked] = http.match('/api/knots');
    while (!asked) {
      await new Promise((done) => setTimeout(done, 30));
      [asked] = http.match('/api/knots');
    }
    const { document } = asked.request.body as {
      document: { name: string; ropes: unknown[]; method: { name: string; finish: unknown[] }; others: unknown[] };
    };
    expect(document.name).toBe('Bowline for the bridle');
    expect(document.ropes.length).toBe(2);
    // It goes on to be dressed, set and checked; the way that was chosen is the first, the other stays.
    expect(document.method.finish.length).toBeGreaterThan(0);
    expect(document.method.name).toBe('As a bowline is tied');
    expect(document.others.length).toBe(1);
  });

  it('signing in says what was wrong, and offers the demo only when it is loaded', async () => {
    const fixture = open(SignInForm, undefined);
    const http = TestBed.inject(HttpTestingController);
    const page = fixture.nativeElement as HTMLElement;
    let signedIn = 0;
    fixture.componentInstance.signedIn.subscribe(() => (signedIn += 1));
    await submit(fixture);
    http.expectNone('/api/session');
    type(fixture, 'name', 'Ada');
    type(fixture, 'password', 'wrong');
    await submit(fixture);
    http
      .expectOne('/api/session')
      .flush(
        { error: { code: 'c', place: 'p', reason: 'The name or the password is not right.', remedy: 'Check.' } },
        { status: 401, statusText: 'Unauthorized' },
      );
    await fixture.whenStable();
    expect(alert(fixture)).toContain('not right');
    expect(page.querySelector('.demo')).toBeNull();
    const house = { ...SESSION.house, name: 'H' };
    TestBed.inject(SessionService).load().subscribe();
    http.expectOne('/api/session').flush({ account: null, house, demo: true });
    await fixture.whenStable();
    expect(page.querySelector('.demo')!.textContent).toContain('README');
    type(fixture, 'password', 'right');
    await submit(fixture);
    http
      .expectOne('/api/session')
      .flush({ account: { id: cardOf().id, name: 'Wren', role: 'author' }, house, demo: true });
    expect(signedIn).toBe(1);
  });
});
