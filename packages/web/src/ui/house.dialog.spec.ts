import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatDialogRef } from '@angular/material/dialog';
import type { House, HouseChange, Session } from '@foxtrail/contract';
import { of, type Observable } from 'rxjs';
import { SessionService } from '../data/session';
import { SESSION } from '../testing/knots';
import { ClassName } from './class-name';
import { HouseDialog } from './house.dialog';

class FakeSessions {
  readonly session = signal<Session>(SESSION);
  changeHouse(change: HouseChange): Observable<House> {
    const house = { ...this.session().house, ...change };
    this.session.update((s) => ({ ...s, house }));
    return of(house);
  }
}

describe('the house', () => {
  let sessions: FakeSessions;
  let closed = false;
  beforeEach(() => {
    sessions = new FakeSessions();
    closed = false;
    TestBed.configureTestingModule({
      providers: [
        { provide: SessionService, useValue: sessions },
        { provide: MatDialogRef, useValue: { close: () => (closed = true) } },
      ],
    });
  });

  it('changes its words for classes, and every class is worded anew', async () => {
    const words = TestBed.runInInjectionContext(() => new ClassName());
    expect(words.transform('bend')).toBe('bend');
    const fixture = TestBed.createComponent(HouseDialog);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    page.querySelectorAll<HTMLInputElement>('input[type=radio]')[1]!.click();
    await fixture.whenStable();
    page.querySelector('form')!.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
    expect(closed).toBeTrue();
    expect(words.transform('bend')).toBe('joining knot');
  });
  it('without a name is refused, and stays open', async () => {
    const fixture = TestBed.createComponent(HouseDialog);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const input = page.querySelector<HTMLInputElement>('input[formcontrolname=name]')!;
    input.value = '';
    input.dispatchEvent(new Event('input'));
    page.querySelector('form')!.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')!.textContent).toContain('a name is needed');
    expect(closed).toBeFalse();
  });
});
