/** What the shelf knows of the open knot: its card, its page, its clip, its left-handed edition; and what is done with these. */
import { inject, Injectable, signal } from '@angular/core';
import type { ClipInfo, KnotCard, Publication } from '@foxtrail/contract';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { Saving } from './saving';

@Injectable()
export class ShelfFacts {
  private readonly api = inject(Api);
  private readonly saving = inject(Saving);

  readonly card = this.saving.card.asReadonly();
  readonly publication = signal<Publication | null>(null);
  /** The newest clip of each method. */
  readonly clips = signal<readonly ClipInfo[]>([]);
  /** Its left-handed edition, when there is one. */
  readonly leftHanded = signal<string | null>(null);

  /** The left-handed edition of what is on the bench: the one there is, or a new one. */
  async openLeftHanded(): Promise<KnotCard | undefined> {
    const id = await this.saved();
    if (id === undefined) return undefined;
    const edition = await firstValueFrom(this.api.act(id, 'leftHanded'));
    this.leftHanded.set(edition.id);
    return edition;
  }

  async publish(): Promise<void> {
    const id = await this.saved();
    if (id === undefined) return;
    const publication = await firstValueFrom(this.api.publish(id));
    this.publication.set(publication);
    this.saving.card.update((c) => c && { ...c, state: 'published', slug: publication.slug });
  }

  async withdraw(): Promise<void> {
    const id = this.card()?.id;
    if (id === undefined) return;
    await firstValueFrom(this.api.withdraw(id));
    this.publication.set(null);
    this.saving.card.update((c) => c && { ...c, state: 'draft', slug: null });
  }

  /** Keeps a clip of one of the knot's methods with the sheet. */
  async keepClip(
    blob: Blob,
    made: Pick<ClipInfo, 'method' | 'duration' | 'pace' | 'reel'>,
    poster: Promise<Blob | undefined>,
  ): Promise<void> {
    const id = await this.saved();
    if (id === undefined) return;
    const { base } = this.saving;
    const kept = await firstValueFrom(this.api.keepClip(id, { ...made, revision: base }, blob));
    const picture = await poster;
    if (picture) await firstValueFrom(this.api.keepPoster(id, kept.method, picture));
    this.clips.update((all) =>
      [...all.filter((c) => c.method !== kept.method), kept].sort((a, b) => a.method - b.method),
    );
    this.publication.update(
      (p) =>
        p && {
          ...p,
          clips: this.clips()
            .filter((c) => c.revision === p.revision)
            .map((c) => c.method),
        },
    );
  }

  /** The knot's id, once what is on the bench is on the server. */
  private async saved(): Promise<string | undefined> {
    await this.saving.flush();
    return this.card()?.id;
  }
}
