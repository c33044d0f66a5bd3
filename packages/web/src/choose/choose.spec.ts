import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { choosable, judgedOf, patternOf } from '@foxtrail/pattern-book';
import { behaviourOf } from '@foxtrail/core';
import { ChooseService, type KnownKnot } from '../data/choose';
import { KinService } from '../data/kin';
import { signedIn } from '../testing/knots';
import { ChoosePage } from './choose';
import { ComparePage } from './compare';
import { chooseIn } from '../testing/choosing';

const known = (id: string): KnownKnot => {
  const { knot } = patternOf(id)!;
  return {
    ...choosable(`pattern:${id}`, knot),
    name: knot.name,
    class: knot.entry.class,
    useGrade: knot.entry.useGrade,
    crossings: 3,
    rope: 40.4,
    behaviour: behaviourOf(knot, judgedOf(knot)),
    cautions: knot.entry.cautions,
  };
};

describe('Choosing', () => {
  const service = {
    known: signal<readonly KnownKnot[] | undefined>(undefined),
    share: signal<number | undefined>(undefined),
    trouble: signal<string | undefined>(undefined),
    load: jasmine.createSpy('load'),
    stop: jasmine.createSpy('stop'),
  };
  beforeEach(() => {
    service.known.set(['reef', 'double-sheet-bend', 'butterfly', 'clove-hitch', 'false-bowline'].map(known));
    service.share.set(undefined);
    service.trouble.set(undefined);
    service.load.calls.reset();
    TestBed.configureTestingModule({
      providers: [
        provideRouter([]),
        { provide: ChooseService, useValue: service },
        signedIn(),
        {
          provide: KinService,
          useValue: { nameOf: (r: string) => r, node: () => undefined, familyName: () => 'a family' },
        },
      ],
    });
  });
  const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();

  it('ranks the knots by what is wished for, with the reasons and what they rest on, and rules out what a rule does', async () => {
    const fixture = TestBed.createComponent(ChoosePage);
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    await chooseIn(fixture, 'What it is to hold', 'another rope');
    page.querySelector<HTMLButtonElement>('[aria-label="Must stay tied when shaken"] button')!.click();
    await fixture.whenStable();
    const [first] = [...page.querySelectorAll('.answers > ul > li')];
    expect(text(first?.querySelector('h3'))).toBe('Double sheet bend 2 of 2 wishes');
    expect(text(first)).toContain('It stays tied when shaken judged: The second turn keeps it.');
    expect(text(first)).toContain('It joins another rope computed:');
    expect(text(page.querySelector('details'))).toContain('False bowline It is not to be used');
    // Pressed again, the wish is taken back.
    page.querySelector<HTMLButtonElement>('[aria-label="Must stay tied when shaken"] button')!.click();
    await fixture.whenStable();
    expect(text(page.querySelector('.answers > ul h3'))).toContain('1 of 1 wishes');
  });

  it('wants two to compare and keeps four', async () => {
    const fixture = TestBed.createComponent(ChoosePage);
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    const compare = [...page.querySelectorAll('button')].find((b) => text(b) === 'Compare these')!;
    expect(compare.disabled).toBeTrue();
    for (const b of [...page.querySelectorAll<HTMLButtonElement>('[aria-label^="Compare "]')].slice(0, 2)) b.click();
    await fixture.whenStable();
    expect(compare.disabled).toBeFalse();
    expect(text(page.querySelector('[role="status"]'))).toBe('2 of 4 picked');
  });

  it('says how far it is, stops, and offers to go on', async () => {
    service.known.set(undefined);
    service.share.set(0.4);
    const fixture = TestBed.createComponent(ChoosePage);
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    expect(service.load).toHaveBeenCalledTimes(1);
    expect(page.querySelector('[role="progressbar"]')?.getAttribute('aria-valuenow')).toBe('40');
    service.share.set(undefined);
    await fixture.whenStable();
    expect(text(page)).toContain('Stopped.');
    service.trouble.set('The server does not answer.');
    await fixture.whenStable();
    expect(text(page.querySelector('[role="alert"]'))).toContain('The server does not answer.');
  });

  it('sets knots side by side, row by row, and says what is not known', async () => {
    const fixture = TestBed.createComponent(ComparePage);
    fixture.componentRef.setInput('of', 'pattern:clove-hitch,pattern:butterfly,pattern:no-such');
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    const row = (name: string): string =>
      text([...page.querySelectorAll('tbody tr')].find((r) => text(r.querySelector('th')) === name));
    expect(page.querySelectorAll('thead th').length).toBe(2);
    expect(row('Take the object out')).toContain('spillscomputed:');
    expect(row('Take the object out')).toContain('not known');
    expect(row('Rope used, as drawn')).toContain('40 diameters');
    fixture.componentRef.setInput('of', 'pattern:clove-hitch');
    await fixture.whenStable();
    expect(text(page)).toContain('Pick two to four knots');
  });
});
