/**
 * The outbox: what is on the bench and not yet on the server, kept in the browser so that nothing is lost.
 */
import { Injectable } from '@angular/core';
import type { FigureFile } from '@foxtrail/core';
import { kept, OUTBOX } from './kept';

export interface Unsaved {
  readonly knot: string;
  /** The revision it was made from. */
  readonly base: number;
  readonly document: FigureFile;
  readonly at: number;
}

@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly db = kept();

  async put(entry: Unsaved): Promise<void> {
    await (await this.db).put(OUTBOX, entry);
  }

  async get(knot: string): Promise<Unsaved | undefined> {
    return (await (await this.db).get(OUTBOX, knot)) as Unsaved | undefined;
  }

  async remove(knot: string): Promise<void> {
    await (await this.db).delete(OUTBOX, knot);
  }
}
