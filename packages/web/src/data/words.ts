/**
 * The words of the house: its glossary, what it has chosen from it, and what the check of texts needs. Read once, and again whenever
 * somebody has changed them.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import type { HouseWords, ImportedWords, LessonTerm, RemarkedKnots, Words } from '@foxtrail/contract';
import {
  choiceFor,
  conceptOf,
  lessonCheck,
  NO_WORDS,
  TAKEN_AS_KNOWN,
  vocabularyFor,
  wordFor,
  WORKSHOP_CHOICE,
  type Concept,
  type Disputes,
  type FigureFile,
  type LessonCheck,
  type Resolution,
  type School,
  type Vocabulary,
  type Worded,
} from '@foxtrail/core';
import { catchError, forkJoin, map, of, tap, throwError, type Observable } from 'rxjs';
import { Api } from './api';
import { troubleOf } from './problem';
import { SessionService } from './session';

@Injectable({ providedIn: 'root' })
export class WordsService {
  private readonly api = inject(Api);
  private readonly sessions = inject(SessionService);
  private readonly state = signal<Words | undefined>(undefined);
  readonly words = this.state.asReadonly();
  readonly glossary = computed(() => this.state()?.glossary ?? NO_WORDS);
  readonly choice = computed(() => this.state()?.choice ?? WORKSHOP_CHOICE);
  readonly known = computed(() => this.state()?.known ?? TAKEN_AS_KNOWN);

  load(): Observable<Words> {
    return this.api.words().pipe(tap((w) => this.state.set(w)));
  }

  /** The words a knot is written in; until the glossary is there, those of the house. */
  vocabulary(entry: Worded): Vocabulary | undefined {
    if (!this.state()) return this.sessions.session()?.house.vocabulary;
    return vocabularyFor(entry, this.choice(), this.glossary());
  }

  /** What a knot's texts are checked with; with no glossary there is nothing to be said of them. */
  check(entry: Worded): LessonCheck {
    return lessonCheck(entry, this.choice(), this.glossary(), this.known());
  }

  /** What the house calls a concept; what others call it where the house has no word. */
  wordFor = (id: string): string =>
    wordFor(this.glossary(), this.choice(), id) ?? conceptOf(this.glossary(), id)?.labels[0]?.text ?? id;

  schoolName = (id: string | null): string =>
    id === null ? 'every school' : (this.glossary().schools.find((s) => s.id === id)?.name ?? id);

  choose(words: HouseWords): Observable<Words> {
    return this.changed(this.api.chooseWords({ ...words, revision: this.revision() })).pipe(
      // Composed texts everywhere follow.
      tap(() => this.sessions.load().subscribe({ error: () => undefined })),
    );
  }

  writeConcept(concept: Concept): Observable<Words> {
    return this.changed(this.api.writeConcept(concept, this.revision()));
  }

  removeConcept(id: string): Observable<Words> {
    return this.changed(this.api.removeConcept(id, this.revision()));
  }

  writeSchool(school: School): Observable<Words> {
    return this.changed(this.api.writeSchool(school, this.revision()));
  }

  removeSchool(id: string): Observable<Words> {
    return this.changed(this.api.removeSchool(id, this.revision()));
  }

  /** The words a lesson explains to its learners, each with its figure. */
  terms(entry: Worded): Observable<LessonTerm[]> {
    const choice = choiceFor(entry, this.choice());
    const concepts = (entry.words?.introduces ?? []).flatMap((id) => conceptOf(this.glossary(), id) ?? []);
    if (concepts.length === 0) return of([]);
    return forkJoin(
      concepts.map(({ id, definition }) =>
        this.figure(id).pipe(
          catchError(() => of(null)),
          map((figure) => ({
            id,
            word: wordFor(this.glossary(), choice, id) ?? id,
            definition,
            figure: figure as LessonTerm['figure'],
          })),
        ),
      ),
    );
  }

  figure(id: string): Observable<FigureFile> {
    return this.api.conceptFigure(id);
  }

  setFigure(id: string, figure: FigureFile | null): Observable<Words> {
    return this.changed(this.api.setConceptFigure(id, figure));
  }

  /** Reads a file, or with `apply` takes it in. */
  import(
    format: 'ttl' | 'jsonld' | 'csv',
    text: string,
    answers: Readonly<Record<string, Resolution>>,
    apply: boolean,
  ): Observable<ImportedWords> {
    return this.api.importWords({ format, text, answers: { ...answers }, apply }).pipe(
      tap(({ applied }) => {
        if (applied) this.load().subscribe({ error: () => undefined });
      }),
    );
  }

  disputes(): Observable<Disputes> {
    return this.api.wordDisputes();
  }

  remarked(after?: string): Observable<RemarkedKnots> {
    return this.api.remarkedKnots(after);
  }

  private revision(): number {
    return this.state()?.revision ?? 1;
  }

  /** What the server has after a change; when somebody else was first, theirs is read before the trouble is told. */
  private changed(answer: Observable<Words>): Observable<Words> {
    return answer.pipe(
      tap((w) => this.state.set(w)),
      catchError((error: unknown) => {
        if (troubleOf(error).status === 412) this.load().subscribe({ error: () => undefined });
        return throwError(() => error);
      }),
    );
  }
}
