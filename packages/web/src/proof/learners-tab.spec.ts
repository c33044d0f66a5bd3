import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { signal } from '@angular/core';
import { WORKSHOP_WORDS } from '@foxtrail/core';
import type { LearnerClass } from '@foxtrail/contract/classes';
import type { AnswerCount } from '@foxtrail/core/drill';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { FormingService } from '../data/forming';
import { FakeForming } from '../testing/forming';
import { overhand } from '../testing/knots';
import { HandCard } from './hand-card';
import { LearnersTab } from './learners-tab';

const ID = '5f0c3f0e-0000-4000-8000-000000000001';
const ADDRESS = `/api/knots/${ID}/answers`;

describe('where learners slip', () => {
  let fixture: ComponentFixture<LearnersTab>;
  let page: HTMLElement;
  let http: HttpTestingController;
  let classes: readonly LearnerClass[];
  const open = async (counts: readonly AnswerCount[]): Promise<void> => {
    fixture = TestBed.createComponent(LearnersTab);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    http.expectOne('/api/classes').flush({ classes });
    http.expectOne(ADDRESS).flush({ counts });
    await fixture.whenStable();
  };
  const rows = (): string[] =>
    [...page.querySelectorAll('tbody tr')].map((tr) =>
      [...tr.children].map((cell) => cell.textContent.replace(/\s+/g, ' ').trim()).join(' '),
    );

  beforeEach(() => {
    classes = [];
    // Nothing is set here.
    TestBed.overrideComponent(HandCard, {
      set: { providers: [{ provide: FormingService, useClass: FakeForming }] },
    });
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        {
          provide: ShelfFacts,
          useValue: { card: signal({ id: ID }), publication: signal({ slug: 'overhand' }) },
        },
        {
          provide: BenchStore,
          useValue: {
            method: signal(overhand().method),
            knot: signal({ name: 'Overhand' }),
            mayWrite: signal(true),
            vocabulary: signal(WORKSHOP_WORDS),
          },
        },
      ],
    });
    http = TestBed.inject(HttpTestingController);
  });
  afterEach(() => http.verify());

  it('says that nothing has been told yet, and leads to the practice', async () => {
    await open([]);
    expect(page.querySelector('.empty')?.textContent).toContain('No answer has been told yet');
    expect(page.querySelector('a')?.getAttribute('href')).toBe('/learn/overhand/practice');
  });

  it('shows what was missed on its crossing and by question, the most missed first, beside the edition before', async () => {
    await open([
      { revision: 2, question: 'judge:slip-2', right: 2, wrong: 38 },
      { revision: 4, question: 'judge:slip-2', right: 36, wrong: 4 },
      { revision: 4, question: 'judge:slip-1', right: 5, wrong: 5 },
      { revision: 4, question: 'which:1', right: 9, wrong: 1 },
    ]);
    expect(page.querySelector('ft-hand-card')).not.toBeNull();
    expect(rows().map((r) => r.slice(0, 24))).toEqual([
      'slip at crossing 1 50 % ',
      'slip at crossing 2 10 % ',
      'which of four, 1 10 % (2',
    ]);
    expect(rows()[1]).toContain('95 %');
    expect(rows()[1]).toContain('better');
    expect(rows()[0]).toContain('not asked');
    expect([...page.querySelectorAll('.marks .heat')].length).toBe(2);
    // On the trail each crossing is passed twice.
    expect([...page.querySelectorAll('.strip .heat')].length).toBe(4);
    expect(page.querySelector('.strip')?.getAttribute('aria-label')).toContain('crossing 1, 50 % missed');
    expect([...page.querySelectorAll('.marks text')].map((t) => t.textContent)).toEqual(['1', '2']);
  });

  it('shows those of a class by themselves, and says so where it has told nothing', async () => {
    classes = [{ id: 'c1', name: 'Tuesday crew', code: 'ABCDEFGH', course: null, answers: 2 }];
    await open([{ revision: 1, question: 'which:1', right: 1, wrong: 1 }]);
    const tab = fixture.componentInstance as unknown as { choose(group: string): void };
    tab.choose('c1');
    http.expectOne(`${ADDRESS}?group=c1`).flush({ counts: [{ revision: 1, question: 'which:1', right: 0, wrong: 2 }] });
    await fixture.whenStable();
    expect(rows()[0]).toContain('of 2');
    tab.choose('c1');
    http.expectOne(`${ADDRESS}?group=c1`).flush({ counts: [] });
    await fixture.whenStable();
    expect(page.querySelector('.empty')?.textContent).toContain('No answer of this class');
    page.querySelector<HTMLButtonElement>('.empty button')?.click();
    http.expectOne(ADDRESS).flush({ counts: [] });
    await fixture.whenStable();
    expect(page.querySelector('.empty')?.textContent).toContain('No answer has been told yet');
  });

  it('forgets them only when that is said twice', async () => {
    await open([{ revision: 1, question: 'which:1', right: 1, wrong: 1 }]);
    const press = async (name: string): Promise<void> => {
      [...page.querySelectorAll('button')].find((b) => b.textContent.trim() === name)?.click();
      await fixture.whenStable();
    };
    await press('Forget these answers …');
    await press('Keep it');
    http.expectNone(ADDRESS);
    await press('Forget these answers …');
    await press('Forget it');
    http.expectOne({ method: 'DELETE', url: ADDRESS }).flush(null);
    await fixture.whenStable();
    expect(page.querySelector('.empty')).not.toBeNull();
  });

  it('says what went wrong, and asks again', async () => {
    fixture = TestBed.createComponent(LearnersTab);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    // Without the classes all learners are shown.
    http.expectOne('/api/classes').error(new ProgressEvent('error'));
    http.expectOne(ADDRESS).error(new ProgressEvent('error'));
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')?.textContent).toContain('The answers cannot be shown');
    page.querySelector<HTMLButtonElement>('[role=alert] button')?.click();
    http.expectOne(ADDRESS).flush({ counts: [] });
    await fixture.whenStable();
    expect(page.querySelector('.empty')).not.toBeNull();
  });
});
