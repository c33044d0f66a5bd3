/**
 * Practice shows slips as they lie in the hand. To set a few takes seconds: it is done in the background for the revision that is published,
 * and kept with it. Until then, and where none can be set, practice does without.
 */
import type { KnotDocument } from '@foxtrail/core';
import { SLIPS_IN_HAND } from '@foxtrail/core/form';
import type pg from 'pg';
import { aside, TooLong } from './aside.js';
import { inBackground } from './claims.js';
import { insertRow } from './columns.js';
import { transaction, type Queryable } from './database.js';
import { readSaved, revisionDocument } from './revisions.js';

const STALE = `
  select p.knot_id as id
    from publication p left join slips_formed f on f.knot_id = p.knot_id
   where f.revision is distinct from p.revision
   order by p.published_at desc`;

/** Slips of a knot as they lie in the hand. One at a time, so that what somebody waits for is done between them. */
async function slipsOf(knot: KnotDocument): Promise<{ readonly slip: number; readonly svg: string }[]> {
  // Of what is taught as wrong nothing is asked.
  if (knot.entry.wrongWayOf !== undefined) return [];
  const tried = await aside('slips', { knot });
  const drawn: { slip: number; svg: string }[] = [];
  for (const slip of tried.ok ? tried.value : []) {
    if (drawn.length === SLIPS_IN_HAND.shown) break;
    const svg = await aside('slip', { knot, at: slip }).catch((error: unknown) => {
      if (error instanceof TooLong) return undefined;
      throw error;
    });
    if (svg !== undefined) drawn.push({ slip, svg });
  }
  return drawn;
}

/** Sets slips of one knot, of the revision that is published. */
async function setSlips(pool: pg.Pool, id: string): Promise<void> {
  const found = await pool.query<{ revision: number }>('select revision from publication where knot_id = $1', [id]);
  const revision = found.rows[0]?.revision;
  if (revision === undefined) return;
  const drawn = await slipsOf(readSaved(await revisionDocument(pool, id, revision)));
  await transaction(pool, async (db) => {
    await db.query('delete from slip_form where knot_id = $1', [id]);
    await insertRow(
      db,
      'slips_formed',
      { knot_id: id, revision },
      'on conflict (knot_id) do update set revision = excluded.revision',
    );
    for (const { slip, svg } of drawn) await insertRow(db, 'slip_form', { knot_id: id, slip, svg });
  });
}

/** The slips of a published knot whose pictures are there, by the numbers of their crossings. */
export async function slipsShown(db: Queryable, slug: string): Promise<number[]> {
  const found = await db.query<{ slip: number }>(
    `select s.slip from publication p
       join slips_formed f on f.knot_id = p.knot_id and f.revision = p.revision
       join slip_form s on s.knot_id = f.knot_id
      where p.slug = $1 order by s.slip`,
    [slug],
  );
  return found.rows.map((r) => r.slip);
}

/** The picture of a slip of a published knot; undefined where there is none. */
export async function slipPicture(db: Queryable, slug: string, slip: number): Promise<string | undefined> {
  const found = await db.query<{ svg: string }>(
    `select s.svg from publication p
       join slips_formed f on f.knot_id = p.knot_id and f.revision = p.revision
       join slip_form s on s.knot_id = f.knot_id
      where p.slug = $1 and s.slip = $2`,
    [slug, slip],
  );
  return found.rows[0]?.svg;
}

/** Sets slips of every published knot whose published revision has not been looked at; tells how many knots. */
export const slipsStale = inBackground({ kind: 'slips', stale: STALE, work: setSlips });
