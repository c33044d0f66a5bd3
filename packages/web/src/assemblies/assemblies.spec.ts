import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Kept } from '@foxtrail/contract/ropes';
import { WORKSHOP_WORDS } from '@foxtrail/core';
import type { Assembly, KnotFacts } from '@foxtrail/core/assembly';
import { BOOK_ASSEMBLIES, patternFacts } from '@foxtrail/pattern-book/assemblies';
import { FormingService } from '../data/forming';
import { PlacingService } from '../data/placing';
import { RopesService } from '../data/ropes';
import { Eats } from '../ropes/eats';
import { SESSION, signedIn } from '../testing/knots';
import { Icons } from '../ui/icons';
import { AssemblyDesk } from './desk';
import { Steps } from '../data/steps';
import { InspectPage } from './inspect';
import { Laying } from './laying';
import { dropTicks, leaveTicks, readTicks } from './ticks';

@Component({ template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Nowhere {}

const ID = '00000000-0000-4000-8000-0000000000a1';
const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();
const button = (e: HTMLElement, name: string): HTMLButtonElement =>
  [...e.querySelectorAll('button')].find((b) => text(b) === name || b.getAttribute('aria-label') === name)!;

describe('Assemblies', () => {
  let http: HttpTestingController;
  beforeEach(() => localStorage.clear());
  afterEach(() => localStorage.clear());

  const seat = (change: (a: Assembly) => Assembly = (a) => a): Kept<Assembly> => ({
    id: ID,
    revision: 3,
    is: change(BOOK_ASSEMBLIES['seat-upward']!()),
  });
  const granny = (a: Assembly): Assembly => ({
    ...a,
    knots: a.knots.map((k) => (k.id === 'sq' ? { ...k, ref: 'pattern:granny', name: 'Granny knot' } : k)),
  });

  async function open<T extends AssemblyDesk | InspectPage>(
    page: new () => T,
    kept: Kept<Assembly>,
  ): Promise<[ComponentFixture<T>, HTMLElement]> {
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', component: Nowhere }]),
        signedIn(SESSION),
        FormingService,
        PlacingService,
        Eats,
        Laying,
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    const ropes = TestBed.inject(RopesService);
    for (const kind of ['assemblies', 'ropes', 'things', 'bodies', 'ties'] as const) {
      (ropes[kind] as typeof ropes.ropes).load().subscribe();
      http.expectOne(`/api/kept/${kind}`).flush(kind === 'assemblies' ? [kept] : []);
    }
    const fixture = TestBed.createComponent(page);
    fixture.componentRef.setInput('assembly', ID);
    fixture.detectChanges();
    answerFacts();
    for (const asked of http.match((r) => r.url === '/api/inspections')) asked.flush({ inspections: [] });
    for (const asked of http.match('/api/kin')) asked.flush({ families: [], knots: [], relations: [] });
    await fixture.whenStable();
    fixture.detectChanges();
    return [fixture, fixture.nativeElement as HTMLElement];
  }
  function answerFacts(): void {
    for (const asked of http.match('/api/knot-facts')) {
      const { refs } = asked.request.body as { refs: string[] };
      const facts = refs.map((r): KnotFacts => patternFacts(r.slice('pattern:'.length), WORKSHOP_WORDS)!);
      asked.flush({ facts });
    }
  }

  it('a granny in the place of a square knot is told in the order of tying, on the board, and mended by a press', async () => {
    const [fixture, e] = await open(AssemblyDesk, seat(granny));
    const row = [...e.querySelectorAll('li')].find((li) => text(li).includes('Square knot at the side'))!;
    expect(text(row)).toContain('should be a reef knot and is a granny knot');
    expect(e.querySelectorAll('ft-assembly-board .knot.wrong').length).toBe(1);
    const tabs = [...e.querySelectorAll<HTMLElement>('[role=tab]')];
    tabs.find((t) => text(t).startsWith('Findings'))!.click();
    await fixture.whenStable();
    fixture.detectChanges();
    button(e, 'Put the reef knot of the book there').click();
    fixture.detectChanges();
    answerFacts();
    fixture.detectChanges();
    expect(e.querySelectorAll('ft-assembly-board .knot.wrong').length).toBe(0);
    expect(text(e.querySelector('.state'))).toContain('not kept yet');
    // A step back: the granny is there again.
    button(e, 'Undo').click();
    fixture.detectChanges();
    expect(e.querySelectorAll('ft-assembly-board .knot.wrong').length).toBe(1);
    button(e, 'Do it again').click();
    fixture.detectChanges();
    expect(e.querySelectorAll('ft-assembly-board .knot.wrong').length).toBe(0);
  });

  it('its board has every knot and thing as a button, moved by arrow keys and kept', async () => {
    jasmine.clock().install();
    try {
      const [fixture, e] = await open(AssemblyDesk, seat());
      const board = e.querySelector('ft-assembly-board')!;
      const names = [...board.querySelectorAll('[role=button]')].map((b) => b.getAttribute('aria-label'));
      expect(names).toContain('Waist');
      expect(names).toContain('3, Square knot at the side: Reef knot');
      const waist = board.querySelector<SVGGElement>('[aria-label=Waist]')!;
      // Twice before the board is drawn again: none is lost.
      const left = (): Event => new KeyboardEvent('keydown', { key: 'ArrowLeft', shiftKey: true, bubbles: true });
      waist.dispatchEvent(left());
      waist.dispatchEvent(left());
      fixture.detectChanges();
      jasmine.clock().tick(1000);
      await Promise.resolve();
      const saved = http.expectOne(`/api/kept/assemblies/${ID}`);
      const { revision, is } = saved.request.body as { revision: number; is: Assembly };
      expect(revision).toBe(3);
      expect(is.things.find((t) => t.id === 'w')!.x).toBe(500);
      saved.flush({ id: ID, revision: 4, is });
    } finally {
      jasmine.clock().uninstall();
    }
  });

  it('one that is gone is told as such', async () => {
    const [, e] = await open(AssemblyDesk, { ...seat(), id: '00000000-0000-4000-8000-0000000000b2' });
    expect(text(e.querySelector('h2'))).toBe('There is no such assembly');
  });

  it('its inspection is good only when all is right; what was ticked is there again, and recorded', async () => {
    const [fixture, e] = await open(InspectPage, seat());
    const verdict = (): string => text(e.querySelector('.verdict'));
    expect(button(e, 'Record it as Ada').disabled).toBeTrue();
    expect(verdict()).toContain('not finished');
    const rights = [...e.querySelectorAll<HTMLButtonElement>('.tick.right')];
    for (const right of rights) right.click();
    fixture.detectChanges();
    expect(verdict()).toBe(`${rights.length} of ${rights.length} looked at: good`);
    e.querySelector<HTMLButtonElement>('.tick.wrong')!.click();
    fixture.detectChanges();
    expect(verdict()).toContain('not good');
    expect(Object.values(readTicks(ID, 3).ticks).filter((t) => t === 'wrong').length).toBe(1);
    button(e, 'Record it as Ada').click();
    const sent = http.expectOne(`/api/kept/assemblies/${ID}/inspections`);
    const body = sent.request.body as { revision: number; items: { tick: string }[] };
    expect(body.revision).toBe(3);
    expect(body.items.length).toBe(rights.length);
    sent.flush({
      id: ID,
      assembly: ID,
      name: 'Seat',
      revision: 3,
      by: 'Ada',
      at: '2026-05-04T08:00:00.000Z',
      verdict: 'not good',
      items: body.items,
      remarks: '',
    });
    await fixture.whenStable();
    fixture.detectChanges();
    expect(text(e.querySelector('.records article'))).toContain('not good');
    expect(readTicks(ID, 3).ticks).toEqual({});
  });

  it('what is wrong by computation stands on the card before anybody ticks', async () => {
    const [, e] = await open(InspectPage, seat(granny));
    expect(text(e.querySelector('[role=alert]'))).toContain('An error is found');
    const section = [...e.querySelectorAll('section')].find((s) => text(s).includes('Square knot'))!;
    expect(text(section.querySelector('.found.bad'))).toContain('is a granny knot');
  });

  it('ticks of another revision do not count, and what cannot be read is none', () => {
    leaveTicks(ID, { revision: 1, ticks: { a: 'right' }, remarks: 'x' });
    expect(readTicks(ID, 1).ticks).toEqual({ a: 'right' });
    expect(readTicks(ID, 2).ticks).toEqual({});
    localStorage.setItem(`inspection ${ID}`, 'no');
    expect(readTicks(ID, 1).ticks).toEqual({});
    dropTicks(ID);
    expect(localStorage.length).toBe(0);
  });

  it('steps are undone and done again in order, and a new one ends what was undone', () => {
    const steps = new Steps<number>();
    expect(steps.undo(0)).toBeUndefined();
    steps.did(0);
    steps.did(1);
    expect(steps.undo(2)).toBe(1);
    expect(steps.undo(1)).toBe(0);
    expect(steps.redo(0)).toBe(1);
    steps.did(1);
    expect(steps.mayRedo()).toBeFalse();
    steps.clear();
    expect(steps.mayUndo()).toBeFalse();
  });
});
