/**
 * Cards show a knot as it lies in the hand. To set one takes about a second, which nobody waits for: it is done in the background, once an
 * author has paused, and kept with the revision that it was made from.
 */
import { inBackground } from './claims.js';
import { insertRow } from './columns.js';
import type { Queryable } from './database.js';
import { inHand } from './hand.js';
import { readSaved, revisionDocument } from './revisions.js';

/** Seconds without a save after which a knot that is worked on is set. */
const PAUSE_SECONDS = 20;

const STALE = `
  select k.id
    from knot k left join formed f on f.knot_id = k.id
   where k.archived_at is null and f.revision is distinct from k.revision
     and (k.revision = 1 or k.updated_at < now() - interval '${PAUSE_SECONDS} seconds')
   order by k.updated_at desc`;

/** Most characters of a card's picture, which is sent at about a tenth: what is larger, as a long whipping, keeps its drawing. */
const CARD_MOST = 70_000;

/** Sets one knot at its present revision. */
async function formOne(db: Queryable, id: string): Promise<void> {
  const found = await db.query<{ revision: number }>('select revision from knot where id = $1', [id]);
  const revision = found.rows[0]?.revision;
  if (revision === undefined) return;
  const knot = readSaved(await revisionDocument(db, id, revision));
  const pictures = await inHand(knot, 'right');
  const card = pictures.ok ? pictures.value.card : null;
  await insertRow(
    db,
    'formed',
    { knot_id: id, revision, svg: card !== null && card.length <= CARD_MOST ? card : null },
    'on conflict (knot_id) do update set revision = excluded.revision, svg = excluded.svg',
  );
}

/** A copy of a knot lies in the hand as the knot does: what is known of its present revision is not worked out again. */
export const copyFormed = (db: Queryable, from: string, to: string): Promise<unknown> =>
  db.query(
    `insert into formed (knot_id, revision, svg)
     select c.id, c.revision, f.svg
       from formed f join knot k on k.id = f.knot_id and k.revision = f.revision, knot c
      where k.id = $1 and c.id = $2
     on conflict (knot_id) do nothing`,
    [from, to],
  );

/** The card's picture of a revision: null where it cannot be set, undefined while it is not set yet. */
export async function formedCard(db: Queryable, id: string, revision: number): Promise<string | null | undefined> {
  const found = await db.query<{ svg: string | null }>('select svg from formed where knot_id = $1 and revision = $2', [
    id,
    revision,
  ]);
  return found.rows[0]?.svg;
}

/** Sets every knot whose present revision has not been set yet; tells how many. */
export const formStale = inBackground({ kind: 'form', stale: STALE, work: formOne });
