/**
 * Examines knots aside: what each is and what is found against it, by the house's present rules. One that was just saved at once; all of them
 * after a change of the rules, one by one; one that is about to be published or reviewed before that.
 */
import type { FigureFile } from '@foxtrail/core';
import { aside, TakenBack, TooLong } from './aside.js';
import { cardRow, type CardRow } from './cards.js';
import { inBackground } from './claims.js';
import { updateRows } from './columns.js';
import type { Queryable } from './database.js';
import { houseRules } from './house.js';
import { identityColumns } from './identity.js';
import { HttpProblem, refused } from './problem.js';
import { vocabularyOfKnot } from './words.js';

/** What `counted_by` is until a saved knot is examined; else the revision of the rules that it was examined by. */
export const NOT_EXAMINED = -1;

interface StaleRow {
  readonly id: string;
  readonly revision: number;
  readonly document: FigureFile;
}

const STALE = `
  from knot k join revision r on r.knot_id = k.id and r.number = k.revision
 where k.counted_by <> (select practice_revision from house)`;

async function examineRow(
  db: Queryable,
  { id, revision, document }: StaleRow,
  urgency: { readonly ahead: boolean; readonly signal: AbortSignal },
): Promise<void> {
  const { practice, revision: countedBy } = await houseRules(db);
  const words = await vocabularyOfKnot(db, { words: document.entry?.words, ropes: document.ropes });
  const found = await aside('examine', { document, practice, words }, urgency);
  if (!found.ok) throw refused(found);
  const { errors, warnings, identity, pattern } = found.value;
  // A knot saved meanwhile is examined by itself.
  await updateRows(
    db,
    'knot',
    { errors, warnings, counted_by: countedBy, pattern_id: pattern, ...identityColumns(identity) },
    { id, revision },
  );
}

/** Examinations that go on, by knot: who asks for the same one waits for it; one of an earlier revision is not begun any more. */
const going = new Map<string, { readonly key: string; readonly work: Promise<void>; readonly drop: AbortController }>();

/** Drawings that took too long, and until when nobody tries them again unasked. */
const late = new Map<string, { readonly error: TooLong; readonly until: number }>();
/** In milliseconds. */
const LATE_PAUSE = 600_000;

async function examineOne(db: Queryable, id: string, ahead: boolean): Promise<void> {
  const found = await db.query<StaleRow & { rules: number }>(
    `select k.id, k.revision, r.document, (select practice_revision from house) as rules ${STALE} and k.id = $1`,
    [id],
  );
  const row = found.rows[0];
  if (!row) return;
  const key = `${id} ${row.revision} ${row.rules}`;
  const known = going.get(id);
  if (known?.key === key) return known.work;
  known?.drop.abort();
  const before = late.get(key);
  if (before && !ahead && before.until > Date.now()) throw before.error;
  const drop = new AbortController();
  const work = examineRow(db, row, { ahead, signal: drop.signal })
    .catch((error: unknown) => {
      // It has been saved anew meanwhile, and that is examined.
      if (error instanceof TakenBack) return;
      if (error instanceof TooLong) late.set(key, { error, until: Date.now() + LATE_PAUSE });
      throw error;
    })
    .finally(() => {
      if (going.get(id)?.key === key) going.delete(id);
    });
  going.set(id, { key, work, drop });
  return work;
}

/** Examines one knot by the present rules, unless it is; somebody waits for it. */
export async function examineNow(db: Queryable, id: string): Promise<void> {
  try {
    await examineOne(db, id, true);
  } catch (error) {
    if (!(error instanceof TooLong)) throw error;
    throw new HttpProblem(
      503,
      'not-examined',
      'knot',
      `It could not be examined: ${error.message}`,
      'Try again when the server is less busy, or draw the knot with fewer crossings.',
    );
  }
}

/** How often a knot that is saved again and again is examined for one who waits. */
const MOST_TRIES = 5;

/** A knot's row with what its saved revision was found to be: one that is saved between its examination and this is examined again. */
export async function examinedCard(db: Queryable, id: string): Promise<CardRow> {
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    await examineNow(db, id);
    const row = await cardRow(db, id);
    if (row.examined) return row;
  }
  throw new HttpProblem(
    409,
    'being-saved',
    'knot',
    'It is being changed all the time, so that what is saved is never what was examined.',
    'Wait until whoever draws it pauses, then try again.',
  );
}

/** How many knots are still to be examined by the present rules. */
export async function leftToCount(db: Queryable): Promise<number> {
  const found = await db.query<{ left: number }>(`select count(*)::int as left ${STALE}`);
  return found.rows[0]?.left ?? 0;
}

/** Examines every knot that is not by the present rules; tells how many. */
export const countStale = inBackground({
  kind: 'count',
  stale: `select k.id ${STALE} order by k.updated_at desc`,
  work: (pool, id) => examineOne(pool, id, false),
});
