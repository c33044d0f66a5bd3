/**
 * Reviews of revisions, and the log of a knot.
 */
import type { Account, KnotReview, LogLine, Review, ReviewVerdict } from '@foxtrail/contract';
import { needsForPeople, reviewItems, wordedOf, type KnotDocument, type Need, type ReviewItem } from '@foxtrail/core';
import type pg from 'pg';
import { insertRow, NOW, putRow, updateRows } from './columns.js';
import { cardRow, type CardRow } from './cards.js';
import { transaction, type Queryable } from './database.js';
import { HttpProblem, notFound } from './problem.js';
import { examinedCard } from './recount.js';
import { readSaved, revisionDocument } from './revisions.js';
import { vocabularyOfKnot } from './words.js';

interface ReviewRow {
  id: string;
  knot_id: string;
  revision: number;
  reviewer: string;
  reviewer_name: string;
  state: Review['state'];
  begun_at: Date;
  settled_at: Date | null;
}

const REVIEW = `
  select v.id, v.knot_id, v.revision, v.reviewer, a.name as reviewer_name, v.state, v.begun_at, v.settled_at
    from review v join account a on a.id = v.reviewer`;

/** Whether a revision has been accepted by somebody else than who saved it. */
export async function isReviewed(db: Queryable, knot: string, revision: number): Promise<boolean> {
  const latest = await latestOf(db, knot, revision);
  return latest?.state === 'accepted';
}

async function latestOf(db: Queryable, knot: string, revision: number): Promise<ReviewRow | undefined> {
  const found = await db.query<ReviewRow>(
    `${REVIEW} where v.knot_id = $1 and v.revision = $2 order by v.begun_at desc limit 1`,
    [knot, revision],
  );
  return found.rows[0];
}

async function toReview(db: Queryable, row: ReviewRow): Promise<Review> {
  const items = await db.query<{
    key: string;
    verdict: 'accepted' | 'returned';
    remark: string;
    crossing: number | null;
  }>('select key, verdict, remark, crossing from review_item where review_id = $1 order by at, key', [row.id]);
  return {
    id: row.id,
    revision: row.revision,
    reviewer: row.reviewer_name,
    own: false,
    state: row.state,
    begunAt: row.begun_at.toISOString(),
    settledAt: row.settled_at?.toISOString() ?? null,
    verdicts: items.rows,
  };
}

/** Who saved a revision: nobody reviews their own work. */
async function savedBy(db: Queryable, knot: string, revision: number): Promise<{ id: string; name: string }> {
  const found = await db.query<{ id: string; name: string }>(
    'select a.id, a.name from revision r join account a on a.id = r.saved_by where r.knot_id = $1 and r.number = $2',
    [knot, revision],
  );
  const row = found.rows[0];
  if (!row) throw notFound('revision');
  return row;
}

async function itemsOf(db: Queryable, row: CardRow): Promise<{ knot: KnotDocument; items: ReviewItem[] }> {
  const knot = readSaved(await revisionDocument(db, row.id, row.revision));
  return { knot, items: reviewItems(knot, await vocabularyOfKnot(db, wordedOf(knot))) };
}

/** What a knot still needs before people may depend on it; the errors are those last counted. */
export async function needsOf(db: Queryable, row: CardRow, knot: KnotDocument): Promise<Need[]> {
  const errors = Array.from({ length: row.errors }, () => ({ severity: 'error' as const }));
  return needsForPeople(knot, errors, await isReviewed(db, row.id, row.revision));
}

/** The state of a knot's review: of its present revision, and the last one that was settled before. */
export async function reviewOf(db: Queryable, account: Account, id: string): Promise<KnotReview> {
  const row = await examinedCard(db, id);
  const { knot, items } = await itemsOf(db, row);
  const current = await latestOf(db, id, row.revision);
  const before = await db.query<ReviewRow>(
    `${REVIEW} where v.knot_id = $1 and v.revision < $2 and v.state <> 'open' order by v.begun_at desc limit 1`,
    [id, row.revision],
  );
  const author = await savedBy(db, id, row.revision);
  const last = before.rows[0];
  return {
    revision: row.revision,
    savedBy: author.name,
    mayReview: account.role !== 'reader' && author.id !== account.id,
    items,
    current: current ? { ...(await toReview(db, current)), own: current.reviewer === account.id } : null,
    before: last ? await toReview(db, last) : null,
    needs: row.use_grade === 'people depend on it' ? await needsOf(db, row, knot) : [],
    log: await logOf(db, id),
  };
}

/** Begins a review of the present revision, or goes on with the one begun. */
export async function beginReview(pool: pg.Pool, account: Account, id: string): Promise<void> {
  await transaction(pool, async (client) => {
    await client.query('select 1 from knot where id = $1 for update', [id]);
    const row = await cardRow(client, id);
    const author = await savedBy(client, id, row.revision);
    if (author.id === account.id)
      throw new HttpProblem(
        403,
        'own-work',
        row.name,
        'You saved this revision yourself.',
        'Ask somebody else to review it: a second pair of eyes is the point.',
      );
    if (row.steps === 0)
      throw new HttpProblem(409, 'no-steps', row.name, 'There is nothing to review yet.', 'Place its halts first.');
    const latest = await latestOf(client, id, row.revision);
    if (latest?.state === 'open') {
      if (latest.reviewer === account.id) return;
      throw new HttpProblem(
        409,
        'under-review',
        row.name,
        `${latest.reviewer_name} is reviewing this revision.`,
        'Wait until they have settled it.',
      );
    }
    await insertRow(client, 'review', { knot_id: id, revision: row.revision, reviewer: account.id });
    await note(client, id, account.id, 'review begun', row.revision);
  });
}

/** The open review of a knot that an account is doing, on its present revision. */
async function ownOpen(client: Queryable, account: Account, id: string): Promise<{ row: CardRow; review: ReviewRow }> {
  const row = await cardRow(client, id);
  const review = await latestOf(client, id, row.revision);
  if (review?.state !== 'open' || review.reviewer !== account.id)
    throw new HttpProblem(
      409,
      'no-review',
      row.name,
      'You have no open review of its present revision: it may have been changed meanwhile.',
      'Open it again and begin the review of what it is now.',
    );
  return { row, review };
}

/** Accepts or returns one item. */
export async function judgeItem(
  pool: pg.Pool,
  account: Account,
  id: string,
  key: string,
  { verdict, remark, crossing }: ReviewVerdict,
): Promise<void> {
  await transaction(pool, async (client) => {
    const { row, review } = await ownOpen(client, account, id);
    const { items } = await itemsOf(client, row);
    if (!items.some((i) => i.key === key)) throw notFound('item');
    if (crossing !== null && crossing > row.crossings)
      throw new HttpProblem(
        400,
        'refused',
        `crossing ${crossing}`,
        `It has ${row.crossings} crossings.`,
        'Name one of them.',
      );
    await putRow(client, 'review_item', { review_id: review.id, key }, { verdict, remark, crossing }, { at: NOW });
  });
}

/** Settles a review: accepted when every item is, returned when one is. */
export async function settleReview(pool: pg.Pool, account: Account, id: string): Promise<void> {
  await transaction(pool, async (client) => {
    await client.query('select 1 from knot where id = $1 for update', [id]);
    const { row, review } = await ownOpen(client, account, id);
    const { items } = await itemsOf(client, row);
    const { verdicts } = await toReview(client, review);
    const returned = verdicts.some((v) => v.verdict === 'returned');
    const left = items.filter((i) => !verdicts.some((v) => v.key === i.key));
    if (!returned && left.length > 0)
      throw new HttpProblem(
        409,
        'not-all-seen',
        row.name,
        `${left.length} of ${items.length} have not been looked at: ${left
          .slice(0, 3)
          .map((i) => i.title)
          .join(', ')}${left.length > 3 ? ' …' : ''}.`,
        'Accept or return each of them.',
      );
    const state = returned ? 'returned' : 'accepted';
    await updateRows(client, 'review', { state, settled_at: NOW }, { id: review.id });
    await note(client, id, account.id, `review ${state}`, row.revision);
  });
}

/** Writes a line of the log. */
export const note = (
  db: Queryable,
  knot: string,
  account: string,
  kind: LogLine['kind'],
  revision: number,
): Promise<unknown> => insertRow(db, 'log_entry', { knot_id: knot, account_id: account, kind, revision });

/** Most lines of the log sent at once. */
const LOG_LIMIT = 200;

/** Who did what to a knot, the latest first. */
async function logOf(db: Queryable, id: string): Promise<LogLine[]> {
  const found = await db.query<{ kind: LogLine['kind']; revision: number; who: string; at: Date; name: string | null }>(
    `select kind, revision, who, at, name from (
       select 'saved' as kind, r.number as revision, a.name as who, r.saved_at as at, r.name
         from revision r join account a on a.id = r.saved_by where r.knot_id = $1
       union all
       select l.kind, l.revision, a.name, l.at, null from log_entry l join account a on a.id = l.account_id where l.knot_id = $1
     ) as lines order by at desc, revision desc limit ${LOG_LIMIT}`,
    [id],
  );
  return found.rows.map(({ at, ...line }) => ({ ...line, at: at.toISOString() }));
}
