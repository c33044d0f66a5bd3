/** Opening a knot: what the server has of it, and what this browser kept of an earlier visit, laid on the bench. */
import { inject, Injectable, signal } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { troubleOf, type Trouble } from '../data/problem';
import { WordsService } from '../data/words';
import { BenchStore } from './bench-store';
import { Insight } from './insight';
import { Past } from './past';
import { Saving } from './saving';
import { ShelfFacts } from './shelf-facts';

@Injectable()
export class Opening {
  private readonly api = inject(Api);
  private readonly words = inject(WordsService);
  private readonly store = inject(BenchStore);
  private readonly saving = inject(Saving);
  private readonly shelf = inject(ShelfFacts);
  private readonly insight = inject(Insight);
  private readonly past = inject(Past);
  private readonly troubleNow = signal<Trouble | undefined>(undefined);
  /** Why the knot cannot be opened. */
  readonly trouble = this.troubleNow.asReadonly();

  async open(id: string): Promise<void> {
    // Without the glossary the bench works; its texts are not checked then.
    this.words.load().subscribe({ error: () => undefined });
    this.troubleNow.set(undefined);
    this.store.clear();
    const kept = await this.saving.kept(id);
    try {
      const { card, document, publication, clips, leftHanded, refutedKin } = await firstValueFrom(this.api.knot(id));
      this.shelf.publication.set(publication);
      this.shelf.clips.set(clips);
      this.shelf.leftHanded.set(leftHanded);
      this.insight.takeRefutedKin(refutedKin);
      const opened = this.saving.open(card, document);
      if (!opened.ok) this.troubleNow.set({ status: -1, code: 'unreadable', body: null, ...opened });
      else {
        await this.saving.recover(kept);
        this.past.open(card.id);
      }
    } catch (error) {
      this.troubleNow.set(troubleOf(error));
    }
  }
}
