import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { Component, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { provideRouter } from '@angular/router';
import { entrySchema, type Entry } from '@foxtrail/core';
import { KinService } from '../data/kin';
import { KIN, REEF, relation, relationId } from '../testing/kin';
import { signedIn } from '../testing/knots';
import { BehaviourDialog } from './behaviour.dialog';
import { FamiliesPage } from './families';
import { RelationsPage } from './relations';
import { StateKinDialog } from './state.dialog';
import { chooseIn } from '../testing/choosing';

@Component({ template: '' })
class Nowhere {}

describe('Kin', () => {
  let http: HttpTestingController;
  let closed: unknown;

  function open<T>(type: Type<T>, data: unknown = {}): [ComponentFixture<T>, HTMLElement] {
    closed = undefined;
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', component: Nowhere }]),
        signedIn(),
        { provide: MAT_DIALOG_DATA, useValue: data },
        { provide: MatDialogRef, useValue: { close: (value: unknown) => (closed = value ?? null) } },
      ],
    });
    http = TestBed.inject(HttpTestingController);
    TestBed.inject(KinService).load().subscribe();
    http.expectOne('/api/kin').flush(KIN);
    const fixture = TestBed.createComponent(type);
    return [fixture, fixture.nativeElement as HTMLElement];
  }
  const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();
  const button = (page: HTMLElement, name: string): HTMLButtonElement =>
    [...page.querySelectorAll('button')].find((b) => text(b) === name || b.getAttribute('aria-label') === name)!;

  it('puts a knot of the shelf in the place of its pattern, with the pattern’s kin', () => {
    open(Nowhere);
    const kin = TestBed.inject(KinService);
    expect(kin.node('pattern:reef')).toBeUndefined();
    expect(kin.node('pattern:thief')?.ofBook).toBeTrue();
    expect(kin.neighbours(`knot:${REEF}`).map((n) => [kin.nameOf(n.ref), n.difference])).toEqual([
      ['Thief knot', 'other ends loaded'],
      ['Granny', 'the mirror image'],
    ]);
  });

  it('lists relations, the refuted ones first, with what was compared; and judges one', async () => {
    const [fixture, page] = open(RelationsPage);
    await fixture.whenStable();
    const [first, second] = [...page.querySelectorAll('li.card')];
    expect(text(first)).toContain('The granny is the mirror image of the our reef. refuted');
    expect(text(first)).toContain('Mirrored, it is not.');
    expect(text(second)).toContain('proved');
    fixture.componentRef.setInput('only', 'proved');
    await fixture.whenStable();
    expect(page.querySelectorAll('li.card').length).toBe(1);
  });

  it('shows the tree with how many knots each has, and those of the family that is chosen', async () => {
    const [fixture, page] = open(FamiliesPage);
    await fixture.whenStable();
    const rows = [...page.querySelectorAll<HTMLButtonElement>('.pick')];
    expect(text(rows[0])).toBe('Flat knots1 + 1');
    expect(text(page.querySelector('.knots'))).toContain('Our reef');
    rows[1]!.click();
    await fixture.whenStable();
    expect(text(page.querySelector('.knots'))).toContain('Granny');
    expect(text(page.querySelector('.members h2'))).toBe('Round knots 1');
  });

  it('adds a family, and says when its name is taken', async () => {
    const [fixture, page] = open(FamiliesPage);
    await fixture.whenStable();
    button(page, 'New').click();
    await fixture.whenStable();
    const field = page.querySelector<HTMLInputElement>('[aria-label="Name of the new family"]')!;
    field.value = 'Line laundry';
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    const request = http.expectOne('/api/kin/families');
    expect(request.request.body).toEqual({ name: 'Line laundry', parent: null });
    request.flush(
      { error: { code: 'name-taken', place: 'x', reason: 'There is a family of that name.', remedy: 'Give another.' } },
      { status: 409, statusText: 'Conflict' },
    );
    await fixture.whenStable();
    expect(document.body.textContent).toContain('There is a family of that name.');
    // What was typed is not lost.
    expect(page.querySelector<HTMLInputElement>('[aria-label="Name of the new family"]')?.value).toBe('Line laundry');
  });

  it('states kin and tells at once what the core made of it; taken back it is gone', async () => {
    const [fixture, page] = open(StateKinDialog, { from: `knot:${REEF}` });
    await fixture.whenStable();
    expect(button(page, 'State and try it').disabled).toBeTrue();
    const dialog = fixture.componentInstance as unknown as { sides: readonly { at: { set(v: string): void } }[] };
    dialog.sides[1]!.at.set('pattern:carrick-bend');
    await fixture.whenStable();
    expect(text(page.querySelector('.says'))).toBe('The carrick bend is the our reef with one more turn.');
    button(page, 'State and try it').click();
    const made = relation({ id: relationId(7), to: 'pattern:carrick-bend', kind: 'one more turn' });
    http.expectOne('/api/kin/relations').flush(made, { status: 201, statusText: 'Created' });
    await fixture.whenStable();
    expect(text(page.querySelector('[role="status"]'))).toContain('refuted');
    button(page, 'Take it back').click();
    http.expectOne(`/api/kin/relations/${relationId(7)}`).flush(null);
    expect(closed).toBeNull();
    expect(
      TestBed.inject(KinService)
        .links()
        .some((l) => l.id === relationId(7)),
    ).toBeFalse();
  });

  it('keeps what was judged and tested in the entry, and asks what a trial rests on', async () => {
    const [fixture, page] = open(BehaviourDialog, { entry: entrySchema.parse({}) });
    await fixture.whenStable();
    await chooseIn(fixture, 'Comes undone by hand after load', 'no');
    button(page, 'Add a row').click();
    await fixture.whenStable();
    button(page, 'Done').click();
    await fixture.whenStable();
    expect(text(page.querySelector('[role="alert"]'))).toContain('say what it rests on');
    const rests = page.querySelector<HTMLInputElement>('[aria-label="What it rests on"]')!;
    rests.value = 'Fifty shakes in 8 mm line.';
    rests.dispatchEvent(new Event('input'));
    button(page, 'Done').click();
    const entry = closed as Entry;
    expect(entry.judged?.comesUndone).toBeFalse();
    expect(entry.behaviour).toEqual([
      { trial: 'shake it', does: 'holds', by: 'tested', why: 'Fifty shakes in 8 mm line.' },
    ]);
  });
});
