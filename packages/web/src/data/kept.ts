/**
 * What is kept in this browser: work that is not yet on the server, and the pictures that are traced.
 */
import { openDB, type IDBPDatabase } from 'idb';

export const DRAFTS = 'drafts';
export const TRACES = 'traces';
/** Where drafts were until they were kept by knot and tab. */
const EARLIER = 'outbox';

let opened: Promise<IDBPDatabase> | undefined;

/** The browser's database, opened once. */
export const kept = (): Promise<IDBPDatabase> =>
  (opened ??= openDB('foxtrail', 3, {
    upgrade: (db, _from, _to, change) => {
      if (!db.objectStoreNames.contains(TRACES)) db.createObjectStore(TRACES, { keyPath: 'knot' });
      const drafts = db.createObjectStore(DRAFTS, { keyPath: 'key' });
      if (!db.objectStoreNames.contains(EARLIER)) return;
      void change
        .objectStore(EARLIER)
        .getAll()
        .then(async (earlier: { readonly knot: string }[]) => {
          await Promise.all(earlier.map((d) => drafts.put({ ...d, key: d.knot, account: '' })));
          db.deleteObjectStore(EARLIER);
        });
    },
  }));
