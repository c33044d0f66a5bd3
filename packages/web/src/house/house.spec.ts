import { HttpErrorResponse } from '@angular/common/http';
import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { House, HouseChange, Session } from '@foxtrail/contract';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { SessionService } from '../data/session';
import { SESSION } from '../testing/knots';
import { HousePage } from './house';
import { chooseIn } from '../testing/choosing';

describe('House rules', () => {
  let saved: HouseChange | undefined;
  let answer: () => Observable<unknown>;
  let counts: Subject<number>;
  const state = signal<Session>(SESSION);

  async function open(
    session: Session = SESSION,
  ): Promise<[() => Promise<unknown>, HTMLElement, ComponentFixture<HousePage>]> {
    saved = undefined;
    answer = () => of({});
    counts = new Subject();
    state.set(session);
    TestBed.configureTestingModule({
      providers: [
        {
          provide: SessionService,
          useValue: {
            session: state,
            mayWrite: () => state().account?.role === 'author',
            changeHouse: (change: HouseChange) => {
              saved = change;
              return answer();
            },
            counting: () => counts,
            presentHouse: () => of({ ...SESSION.house, name: 'Their yard', revision: 5 }),
            takeHouse: (house: House) => state.update((now) => ({ ...now, house })),
          },
        },
      ],
    });
    const fixture = TestBed.createComponent(HousePage);
    await fixture.whenStable();
    return [() => fixture.whenStable(), fixture.nativeElement as HTMLElement, fixture];
  }
  const field = (page: HTMLElement, label: string): HTMLInputElement =>
    page.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
  const change = (e: HTMLInputElement, value: string, event = 'change'): void => {
    e.value = value;
    e.dispatchEvent(new Event(event));
  };
  const button = (page: HTMLElement, name: string): HTMLButtonElement =>
    [...page.querySelectorAll('button')].find((b) => b.textContent.trim() === name)!;

  it('changes a rule with its reason, and asks for one that is missing', async () => {
    const [settled, page, fixture] = await open();
    expect(button(page, 'Save').disabled).toBeTrue();
    await chooseIn(fixture, 'Tail of the bowline', 'inside the loop');
    await settled();
    button(page, 'Save').click();
    await settled();
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('Tail of the bowline: say why');
    expect(saved).toBeUndefined();
    change(field(page, 'Why the house differs on: Tail of the bowline'), 'We film it so.', 'input');
    await settled();
    button(page, 'Save').click();
    expect(saved?.practice.changes['bowline-tail']).toEqual({ value: 'inside the loop', reason: 'We film it so.' });
  });

  it('drops a change that is what the school says, and follows another school in all else', async () => {
    const [settled, page, fixture] = await open();
    const turns = 'Riding turns of the rolling hitch, least';
    change(field(page, turns), '4');
    await settled();
    expect(field(page, 'Why the house differs on: Riding turns of the rolling hitch')).not.toBeNull();
    change(field(page, turns), '2');
    await settled();
    expect(field(page, 'Why the house differs on: Riding turns of the rolling hitch')).toBeNull();
    await chooseIn(fixture, 'Begins from the school', 'Rescue and access');
    expect(field(page, turns).value).toBe('3');
    // The tails of the tests' house are its own and stay.
    expect(field(page, 'Tail, light duty, diameters').value).toBe('8');
    button(page, 'Undo changes').click();
    await settled();
    expect(field(page, turns).value).toBe('2');
  });

  it('says when the server refuses, and keeps what was entered', async () => {
    const [settled, page] = await open();
    change(page.querySelector<HTMLInputElement>('.named input')!, 'Other yard', 'input');
    await settled();
    answer = () => throwError(() => new Error('no'));
    button(page, 'Save').click();
    await settled();
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('no');
    expect(page.querySelector<HTMLInputElement>('.named input')?.value).toBe('Other yard');
  });

  it('tells how many knots are still to be counted by what was saved', async () => {
    const [settled, page] = await open();
    change(page.querySelector<HTMLInputElement>('.named input')!, 'Other yard', 'input');
    await settled();
    button(page, 'Save').click();
    counts.next(12);
    await settled();
    expect(page.querySelector('[role="status"]')?.textContent).toContain('12 knots are still being counted');
    counts.next(0);
    await settled();
    expect(page.querySelector('[role="status"]')).toBeNull();
  });

  it('overwrites nothing that somebody else saved meanwhile, unless told to', async () => {
    const [settled, page] = await open();
    const name = (): HTMLInputElement => page.querySelector<HTMLInputElement>('.named input')!;
    const error = { code: 'rules-moved-on', place: 'house', reason: 'Somebody changed the rules.', remedy: 'Look.' };
    const late = (): Observable<never> => throwError(() => new HttpErrorResponse({ status: 412, error: { error } }));
    const saveLate = async (): Promise<void> => {
      answer = late;
      change(name(), 'My yard', 'input');
      await settled();
      button(page, 'Save').click();
      await settled();
      expect(page.querySelector('[role="alert"]')?.textContent).toContain('Somebody changed the rules.');
      expect(name().value).toBe('My yard');
    };
    await saveLate();
    expect(saved?.revision).toBe(SESSION.house.revision);
    button(page, 'Look at theirs').click();
    await settled();
    expect(name().value).toBe('Their yard');
    state.set(SESSION);
    await settled();
    await saveLate();
    answer = () => of({});
    button(page, 'Put mine in their place').click();
    await settled();
    expect([saved?.name, saved?.revision]).toEqual(['My yard', 5]);
    expect(page.querySelector('[role="alert"]')).toBeNull();
  });

  it('is read by a reviewer and not changed', async () => {
    const [, page] = await open({ ...SESSION, account: { ...SESSION.account!, role: 'reviewer' } });
    expect(page.querySelector('table ft-select, table input')).toBeNull();
    expect(page.textContent).toContain('So the tests want it.');
  });
});
