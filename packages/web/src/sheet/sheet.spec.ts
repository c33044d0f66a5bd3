import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Finding } from '@foxtrail/core';
import { FakeBench } from '../testing/fake-bench';
import { cardOf, signedIn } from '../testing/knots';
import { Icons } from '../ui/icons';
import { SheetPage } from './sheet';

describe('Sheet', () => {
  let bench: FakeBench;
  let fixture: ComponentFixture<SheetPage>;
  let page: HTMLElement;
  beforeEach(async () => {
    bench = new FakeBench();
    TestBed.configureTestingModule({
      providers: [provideRouter([]), bench.provided, signedIn()],
    });
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(SheetPage);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  });
  const button = (text: string): HTMLButtonElement | undefined =>
    [...page.querySelectorAll('button')].find((b) => b.textContent.trim() === text);

  it('is seen as it is printed: every step, no player, in black and white if wanted', async () => {
    expect(getComputedStyle(page.querySelector('.player')!).display).not.toBe('none');
    button('See it on paper')!.click();
    await fixture.whenStable();
    expect(getComputedStyle(page.querySelector('.player')!).display).toBe('none');
    expect(page.querySelectorAll('.all li').length).toBe(2);
    const preview = page.querySelector('.preview')!;
    expect(getComputedStyle(preview).filter).toBe('none');
    page.querySelector<HTMLInputElement>('mat-checkbox input')!.click();
    await fixture.whenStable();
    expect(getComputedStyle(preview).filter).toBe('grayscale(1)');
    button('Back to the page')!.click();
    await fixture.whenStable();
    expect(getComputedStyle(page.querySelector('.player')!).display).not.toBe('none');
  });
  it('publishes and withdraws', async () => {
    button('Publish')!.click();
    await fixture.whenStable();
    expect(page.querySelector('.address')?.textContent).toContain('/learn/overhand');
    button('Withdraw the page')!.click();
    await fixture.whenStable();
    expect(bench.asked).toEqual(['publish', 'withdraw']);
    expect(button('Publish')).toBeDefined();
  });
  it('does not publish with an open error, and says which', async () => {
    const finding: Finding = {
      code: 'tail-short',
      severity: 'error',
      title: 'The tail is 2 d short',
      why: 'w',
      remedy: 'r.',
    };
    bench.insight.analysis.set({ findings: [finding], closure: {}, windings: [], took: 0 });
    await fixture.whenStable();
    expect(button('Publish')!.disabled).toBeTrue();
    expect(page.textContent).toContain('The tail is 2 d short');
  });
  it('tells when the page or its clip is behind the bench', async () => {
    await bench.shelf.publish();
    bench.shelf.clips.set([
      {
        revision: 1,
        method: 0,
        size: 1,
        duration: 4,
        pace: 'normal',
        reel: null,
        createdAt: '2026-05-01T10:00:00.000Z',
      },
    ]);
    await fixture.whenStable();
    expect(page.textContent).not.toContain('ahead');
    bench.shelf.card.set(cardOf({ revision: 2 }));
    await fixture.whenStable();
    expect(page.textContent).toContain('the bench is ahead of it');
    expect(page.textContent).toContain('before your last changes');
    expect(button('Publish the current version')!.disabled).toBeFalse();
  });
  it('shows what the learner will see', () => {
    expect(page.querySelector('ft-lesson .cautions')).not.toBeNull();
  });
});
