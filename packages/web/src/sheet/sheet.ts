/**
 * Sheet: publish and withdraw the knot, and see what the learner will get.
 */
import { sayDifference, stepsOf, EMPTY_METHOD } from '@foxtrail/core';
import { differencesFor } from '@foxtrail/pattern-book';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { DatePipe } from '@angular/common';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { switchMap } from 'rxjs';
import { BenchStore } from '../knot/bench-store';
import { Insight } from '../knot/insight';
import { ShelfFacts } from '../knot/shelf-facts';
import { Saving } from '../knot/saving';
import { SessionService } from '../data/session';
import { WordsService } from '../data/words';
import { Lesson } from '../learn/lesson';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

@Component({
  selector: 'ft-sheet',
  imports: [MatButtonModule, MatCheckboxModule, MatIconModule, RouterLink, DatePipe, Lesson, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sheet.html',
  styleUrl: './sheet.scss',
})
export class SheetPage {
  protected readonly store = inject(BenchStore);
  private readonly insight = inject(Insight);
  protected readonly shelf = inject(ShelfFacts);
  private readonly saving = inject(Saving);
  private readonly sessions = inject(SessionService);
  protected readonly house = computed(() => this.sessions.session()?.house);
  private readonly words = inject(WordsService);
  /** The words the lesson explains, as its learners see them. */
  protected readonly terms = toSignal(
    toObservable(computed(() => ({ words: this.store.knot()?.entry.words, known: this.words.words() }))).pipe(
      switchMap((entry) => this.words.terms(entry)),
    ),
    { initialValue: [] },
  );
  protected readonly otherSchools = computed(() => {
    const knot = this.store.knot();
    if (knot?.entry.otherSchools !== true) return [];
    return differencesFor(knot, this.store.practice()).map(sayDifference);
  });
  /** The sheet is shown as it will be printed, in black and white if that is how it is printed. */
  protected readonly onPaper = signal(false);
  protected readonly grey = signal(false);
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  protected readonly errors = computed(() => this.insight.findings().filter((f) => f.severity === 'error'));
  protected readonly steps = computed(() => stepsOf(this.store.method() ?? EMPTY_METHOD).length);
  /** The published revision is not the one on the bench. */
  protected readonly behind = computed(() => {
    const p = this.shelf.publication();
    return p !== null && (p.revision !== this.shelf.card()?.revision || this.saving.state().kind === 'unsaved');
  });
  /** The clip of each method, where one is kept. */
  protected readonly clips = computed(() =>
    this.store.methods().map(({ name }, method) => {
      const clip = this.shelf.clips().find((c) => c.method === method);
      return { name, clip, isOld: clip !== undefined && clip.revision !== this.shelf.card()?.revision };
    }),
  );
  protected readonly address = computed(() => `/learn/${this.shelf.publication()?.slug ?? ''}`);
  protected readonly fullAddress = computed(() => location.origin + this.address());

  protected print(): void {
    window.print();
  }

  protected publish(): void {
    void this.attempt.run(this.shelf.publish());
  }

  protected withdraw(): void {
    void this.attempt.run(this.shelf.withdraw());
  }
}
