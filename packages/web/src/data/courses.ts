/** Courses: what is known of their lessons and assemblies, fetched once each, and what must come before what. */
import { computed, inject, Injectable, signal } from '@angular/core';
import { COURSE_ROUTES, type CoursePublication } from '@foxtrail/contract/courses';
import { COURSE_LIMITS, type CourseHouse, type LessonFacts, type LessonFactsOf } from '@foxtrail/core/course';
import { patternOfConcept } from '@foxtrail/pattern-book';
import { map, tap, type Observable } from 'rxjs';
import { Api } from './api';
import { KinService } from './kin';
import { WordsService } from './words';

@Injectable({ providedIn: 'root' })
export class CoursesService {
  private readonly api = inject(Api);
  private readonly kin = inject(KinService);
  private readonly words = inject(WordsService);
  private readonly known = signal<ReadonlyMap<string, LessonFacts>>(new Map());
  readonly facts = computed((): LessonFactsOf => {
    const known = this.known();
    return (ref) => known.get(ref);
  });

  /** What a course is held against in this house. */
  readonly house = computed((): CourseHouse => {
    const known = new Set(this.words.known());
    // What was refuted is no kinship.
    const kin = (this.kin.kin()?.relations ?? []).filter((r) => r.proof?.state !== 'refuted');
    return { facts: this.facts(), kin, wordOf: this.words.wordFor, patternOfConcept, isKnown: (c) => known.has(c) };
  });

  /** Fetches what is not known yet of some items. */
  ask(refs: readonly string[]): Observable<unknown> | undefined {
    const wanted = [...new Set(refs)].filter((r) => !this.known().has(r)).slice(0, COURSE_LIMITS.items);
    if (wanted.length === 0) return undefined;
    return this.api
      .call(COURSE_ROUTES.facts, { body: { refs: wanted } })
      .pipe(tap(({ facts }) => this.known.update((m) => new Map([...m, ...facts.map((f) => [f.ref, f] as const)]))));
  }

  publication(course: string): Observable<CoursePublication | null> {
    return this.api
      .call(COURSE_ROUTES.publication, { parameters: { kept: course } })
      .pipe(map(({ publication }) => publication));
  }
  publish(course: string, revision: number): Observable<CoursePublication> {
    return this.api.call(COURSE_ROUTES.publish, { parameters: { kept: course }, body: { revision } });
  }
  withdraw(course: string): Observable<unknown> {
    return this.api.call(COURSE_ROUTES.withdraw, { parameters: { kept: course } });
  }

  /** Lessons may have changed meanwhile: what is known is asked for anew. */
  forget(): void {
    this.known.set(new Map());
  }
}
