/**
 * The outbox: what is on the bench and not yet on the server, kept in the browser so that nothing is lost.
 */
import { Injectable } from '@angular/core';
import type { FigureFile } from '@foxtrail/core';
import { openDB, type IDBPDatabase } from 'idb';

export interface Unsaved {
  readonly knot: string;
  /** The revision it was made from. */
  readonly base: number;
  readonly document: FigureFile;
  readonly at: number;
}

@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly db: Promise<IDBPDatabase> = openDB('foxtrail', 1, {
    upgrade: (db) => void db.createObjectStore('outbox', { keyPath: 'knot' }),
  });

  async put(entry: Unsaved): Promise<void> {
    await (await this.db).put('outbox', entry);
  }

  async get(knot: string): Promise<Unsaved | undefined> {
    return (await (await this.db).get('outbox', knot)) as Unsaved | undefined;
  }

  async remove(knot: string): Promise<void> {
    await (await this.db).delete('outbox', knot);
  }
}
