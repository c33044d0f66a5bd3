/**
 * What is kept in this browser: work that is not yet on the server, and the pictures that are traced.
 */
import { openDB, type IDBPDatabase } from 'idb';

export const OUTBOX = 'outbox';
export const TRACES = 'traces';

let opened: Promise<IDBPDatabase> | undefined;

/** The browser's database, opened once. */
export const kept = (): Promise<IDBPDatabase> =>
  (opened ??= openDB('foxtrail', 2, {
    upgrade: (db) => {
      for (const store of [OUTBOX, TRACES])
        if (!db.objectStoreNames.contains(store)) db.createObjectStore(store, { keyPath: 'knot' });
    },
  }));
