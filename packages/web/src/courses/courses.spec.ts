import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { courseSchema, type Course, type LessonFacts } from '@foxtrail/core/course';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { WordsService } from '../data/words';
import { SESSION, signedIn } from '../testing/knots';
import { Icons } from '../ui/icons';
import { CourseDesk } from './desk';

@Component({ template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Nowhere {}

const ID = '00000000-0000-4000-8000-0000000000c1';
const REF = (n: number): string => `knot:00000000-0000-4000-8000-00000000000${n}`;
const text = (e: Element | null | undefined): string => (e?.textContent ?? '').replace(/\s+/g, ' ').trim();
const button = (e: HTMLElement, name: string): HTMLButtonElement =>
  [...e.querySelectorAll('button')].find((b) => text(b) === name || b.getAttribute('aria-label') === name)!;
const fact = (ref: string, name: string, more: Partial<LessonFacts> = {}): LessonFacts => ({
  ref,
  name,
  state: 'there',
  slug: name,
  pattern: null,
  words: [],
  introduces: [],
  seconds: 90,
  uses: [],
  ...more,
});

describe('A course on its desk', () => {
  let http: HttpTestingController;
  beforeEach(() => localStorage.clear());
  afterEach(() => localStorage.clear());

  async function open(
    course: Course,
    facts: readonly LessonFacts[],
  ): Promise<[ComponentFixture<CourseDesk>, HTMLElement]> {
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        provideRouter([{ path: '**', component: Nowhere }]),
        signedIn(SESSION),
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    const ropes = TestBed.inject(RopesService);
    for (const kind of ['courses', 'assemblies', 'ropes', 'ties'] as const) {
      (ropes[kind] as typeof ropes.ropes).load().subscribe();
      http.expectOne(`/api/kept/${kind}`).flush(kind === 'courses' ? [{ id: ID, revision: 1, is: course }] : []);
    }
    TestBed.inject(KinService).load().subscribe();
    http.expectOne('/api/kin').flush({ families: [], knots: [], relations: [] });
    TestBed.inject(WordsService)
      .load()
      .subscribe({ error: () => undefined });
    const fixture = TestBed.createComponent(CourseDesk);
    fixture.componentRef.setInput('course', ID);
    fixture.detectChanges();
    for (const asked of http.match('/api/lesson-facts')) asked.flush({ facts });
    await fixture.whenStable();
    fixture.detectChanges();
    return [fixture, fixture.nativeElement as HTMLElement];
  }
  const course = (refs: readonly (readonly [string, string])[]): Course =>
    courseSchema.parse({ name: 'First season', items: refs.map(([ref, name]) => ({ ref, name, practice: 10 })) });
  const names = (e: HTMLElement): string[] => [...e.querySelectorAll('li h2 a')].map(text);

  it('tells what comes too early, and puts it in the proposed order; a step back undoes it', async () => {
    const [fixture, e] = await open(
      course([
        [REF(1), 'Granny'],
        [REF(2), 'Reef'],
      ]),
      [fact(REF(1), 'Granny', { words: ['knot-reef'] }), fact(REF(2), 'Reef', { pattern: 'reef' })],
    );
    expect(text(e.querySelector('aside article'))).toContain('Granny comes before Reef');
    expect(text(e.querySelector('aside h3'))).toBe('In all 23 min');
    button(e, 'Put them in the proposed order').click();
    fixture.detectChanges();
    expect(names(e)).toEqual(['Reef', 'Granny']);
    expect(e.querySelector('aside article')).toBeNull();
    button(e, 'Undo').click();
    fixture.detectChanges();
    expect(names(e)).toEqual(['Granny', 'Reef']);
  });

  it('takes minutes as they are written, a film’s where none are, and says where nothing is known', async () => {
    const [fixture, e] = await open(course([[REF(1), 'Reef']]), [fact(REF(1), 'Reef', { seconds: null })]);
    expect(text(e.querySelector('aside h3'))).toContain('and 1 whose showing is not known');
    const showing = e.querySelector<HTMLInputElement>('[aria-label="Minutes of showing Reef"]')!;
    for (const [written, all] of [
      ['2,5', 'In all 13 min'],
      ['', 'In all 10 min and 1 whose showing is not known'],
      ['soon', 'In all 10 min and 1 whose showing is not known'],
      ['900', 'In all 10 h 10 min'],
    ] as const) {
      showing.value = written;
      showing.dispatchEvent(new Event('change'));
      fixture.detectChanges();
      expect(text(e.querySelector('aside h3'))).toBe(all);
    }
  });

  it('one that is withdrawn or gone is told where it stands', async () => {
    const [, e] = await open(
      course([
        [REF(1), 'Reef'],
        [REF(2), 'Bowline'],
      ]),
      [fact(REF(1), 'Reef', { slug: null }), fact(REF(2), '', { state: 'gone' })],
    );
    const found = [...e.querySelectorAll('aside article h4')].map(text);
    expect(found).toEqual(['Reef is not published', 'Bowline is not there any more']);
    expect([...e.querySelectorAll('li.bad h2 a')].map(text)).toEqual(['Bowline']);
  });
});
