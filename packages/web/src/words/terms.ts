/**
 * The terms: every concept of the glossary, found by any of its names, and one of them in full.
 */
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { Notices } from '../ui/notices';
import { Router, RouterLink } from '@angular/router';
import {
  conceptOf,
  CONCEPT_KINDS,
  narrowerOf,
  preferredLabel,
  sameName,
  type Concept,
  type ConceptKind,
  type LabelStatus,
} from '@foxtrail/core';
import { catchError, of, startWith, switchMap } from 'rxjs';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';
import { ConceptFigure } from '../ui/concept-figure';
import { ConceptDialog } from './concept.dialog';
import { FigureDialog } from './figure.dialog';
import { SearchField } from '../ui/search-field';
import { Select } from '../ui/select';

/** The first concept one sees: the word most often misheard. */
const FIRST = 'bight';

interface Entry {
  readonly id: string;
  readonly word: string;
  readonly kind: ConceptKind;
  /** By which other name it was found. */
  readonly by?: string;
}

@Component({
  selector: 'ft-terms-page',
  imports: [RouterLink, MatButtonModule, MatIconModule, ConceptFigure, SearchField, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './terms.html',
  styleUrl: './terms.scss',
})
export class TermsPage {
  readonly concept = input<string>();
  private readonly words = inject(WordsService);
  private readonly sessions = inject(SessionService);
  private readonly dialog = inject(MatDialog);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  protected readonly kinds = CONCEPT_KINDS;
  protected readonly query = signal('');
  protected readonly kind = signal<ConceptKind | ''>('');
  protected readonly mayWrite = this.sessions.mayWrite;
  protected readonly total = computed(() => this.words.glossary().concepts.length);

  /** The concepts asked for, those whose own word fits before those found by another name. */
  protected readonly list = computed((): readonly Entry[] => {
    const asked = sameName(this.query());
    const entries = this.words.glossary().concepts.flatMap((c): (Entry & { rank: number })[] => {
      if (this.kind() !== '' && c.kind !== this.kind()) return [];
      const word = this.words.wordFor(c.id);
      const entry = { id: c.id, word, kind: c.kind };
      if (asked === '' || sameName(word).includes(asked))
        return [{ ...entry, rank: sameName(word).startsWith(asked) ? 0 : 1 }];
      const by = c.labels.find((l) => sameName(l.text).includes(asked));
      return by ? [{ ...entry, by: by.text, rank: 2 }] : [];
    });
    return entries.sort((a, b) => a.rank - b.rank || a.word.localeCompare(b.word, 'en'));
  });

  protected readonly shown = computed((): Concept | undefined => {
    const glossary = this.words.glossary();
    return (
      conceptOf(glossary, this.concept() ?? FIRST) ?? (this.concept() === undefined ? glossary.concepts[0] : undefined)
    );
  });
  protected readonly word = computed(() => this.words.wordFor(this.shown()?.id ?? ''));
  private readonly drawn = signal(0);
  protected readonly figure = toSignal(
    toObservable(computed(() => ({ id: this.shown()?.id, times: this.drawn() }))).pipe(
      switchMap(({ id }) =>
        id === undefined
          ? of(undefined)
          : this.words.figure(id).pipe(
              catchError(() => of(undefined)),
              startWith(undefined),
            ),
      ),
    ),
  );
  protected readonly links = computed(() => {
    const shown = this.shown();
    if (!shown) return [];
    const named = (ids: readonly string[]): { id: string; word: string }[] =>
      ids.map((id) => ({ id, word: this.words.wordFor(id) }));
    return [
      { name: 'A kind or part of', to: named(shown.broader) },
      { name: 'Narrower', to: named(narrowerOf(this.words.glossary(), shown.id).map((c) => c.id)) },
      { name: 'See also', to: named(shown.related) },
    ].filter((l) => l.to.length > 0);
  });
  /** What each school says, the house's school first. */
  protected readonly schools = computed(() => {
    const shown = this.shown();
    if (!shown) return [];
    const own = this.words.choice().school;
    return [...this.words.glossary().schools]
      .sort((a, b) => Number(b.id === own) - Number(a.id === own))
      .map((s) => {
        const of = (status: LabelStatus): Concept['labels'] =>
          shown.labels.filter((l) => l.school === s.id && l.status === status);
        return {
          ...s,
          house: s.id === own,
          preferred: preferredLabel(shown, s.id)?.text,
          also: of('also used').map((l) => l.text),
          discouraged: of('discouraged').filter((l) => !this.avoided().some((a) => a.text === l.text)),
        };
      });
  });
  /** Names that every school warns of are told once. */
  protected readonly avoided = computed(() => {
    const { schools } = this.words.glossary();
    const of = (this.shown()?.labels ?? []).filter((l) => l.status === 'discouraged');
    const texts = [...new Map(of.map((l) => [l.text, l])).values()];
    return texts.filter((t) => schools.every((s) => of.some((l) => l.school === s.id && l.text === t.text)));
  });
  protected readonly someDiscourage = computed(() => this.schools().some((s) => s.discouraged.length > 0));
  protected readonly houseWord = computed(() => this.words.choice().own[this.shown()?.id ?? '']);
  protected readonly misheard = computed(() => [
    ...new Set((this.shown()?.labels ?? []).filter((l) => l.status === 'misheard').map((l) => l.text)),
  ]);

  protected edit(concept: Concept | undefined): void {
    this.dialog
      .open<ConceptDialog, Concept | undefined, string>(ConceptDialog, {
        data: concept,
        width: '860px',
        maxWidth: '94vw',
      })
      .afterClosed()
      .subscribe((id) => {
        if (id !== undefined) void this.router.navigate(['/words/terms', id]);
      });
  }

  protected draw(concept: Concept): void {
    this.dialog
      .open<FigureDialog, Concept, boolean>(FigureDialog, { data: concept, width: '640px' })
      .afterClosed()
      .subscribe((done) => {
        if (done === true) this.drawn.update((n) => n + 1);
      });
  }

  /** Takes a concept out, and puts it back if that was a slip. */
  protected remove(concept: Concept): void {
    const word = this.words.wordFor(concept.id);
    this.words.removeConcept(concept.id).subscribe({
      next: () => {
        void this.router.navigate(['/words/terms']);
        this.notices.done(
          `“${word}” is taken out of the glossary.`,
          () => void this.words.writeConcept(concept).subscribe({ error: this.notices.trouble }),
        );
      },
      error: this.notices.trouble,
    });
  }
}
