/**
 * What the house's knots are: signature keys and the verdict, computed when a knot is examined and kept in indexed columns, so that a
 * drawing is looked up among all of them at once.
 */
import type { Identified, Identify, KnotCard } from '@foxtrail/contract';
import { sayRefusal } from '@foxtrail/core';
import type { ProofPiece } from '@foxtrail/pattern-book';
import { cardRow, cardsOf, toCard } from './cards.js';
import type { Columns } from './columns.js';
import type { Queryable } from './database.js';

export interface StoredIdentity {
  readonly keys?: Omit<Identify, 'except'>;
  readonly state: NonNullable<KnotCard['verdict']>['state'];
  readonly headline: string;
}

/** The columns of the table `knot` that hold it. */
export const identityColumns = ({ keys, state, headline }: StoredIdentity): Columns => ({
  signature_key: keys?.key ?? null,
  mirror_key: keys?.mirrorKey ?? null,
  body_key: keys?.body ?? null,
  mirror_body_key: keys?.mirrorBody ?? null,
  lay_keys: keys?.lays ?? [],
  verdict_state: state,
  verdict: headline,
});

/** Keys and verdict of a knot, as its proof has them of its first method. */
export function identityIn(pieces: Iterable<ProofPiece>): StoredIdentity {
  for (const { part, method, identity, declined } of pieces) {
    if (part !== 'identity' || method !== 0) continue;
    if (declined) return { state: 'declined', headline: sayRefusal(declined) };
    if (identity) {
      const { keys, verdict } = identity;
      return { keys: { ...keys, lays: [...keys.lays] }, state: verdict.state, headline: verdict.headline };
    }
  }
  throw new Error('a proof without its identity');
}

/** Most knots named in one answer. */
const MOST_MATCHES = 50;

/** The knots on the shelf that a figure is or is kin to, the closest first: one look-up by the stored keys. */
export async function matchesOf(
  db: Queryable,
  keys: Omit<Identify, 'except'>,
  except?: string,
): Promise<Identified['matches']> {
  const found = await db.query<Identified['matches'][number]>(
    `select id, name, case when signature_key = $1 then 'same'
                           when signature_key = $2 then 'mirror'
                           when lay_keys && $3 then 'same, a tail laid to the other side'
                           else 'same body, other ends' end as relation
       from knot
      where archived_at is null and id is distinct from $6
        and (signature_key in ($1, $2) or lay_keys && $3 or body_key in ($4, $5) or mirror_body_key = $4)
      order by array_position(array['same', 'mirror', 'same, a tail laid to the other side', 'same body, other ends'],
                              case when signature_key = $1 then 'same' when signature_key = $2 then 'mirror'
                                   when lay_keys && $3 then 'same, a tail laid to the other side' else 'same body, other ends' end), name
      limit ${MOST_MATCHES}`,
    [keys.key, keys.mirrorKey, keys.lays, keys.body, keys.mirrorBody, except ?? null],
  );
  return found.rows;
}

/** Cards of the knots drawn like one on the shelf, the closest first; the one itself leads. */
export async function listLike(db: Queryable, id: string): Promise<{ knots: KnotCard[]; total: number }> {
  const own = toCard(await cardRow(db, id));
  const found = await db.query<{
    signature_key: string | null;
    mirror_key: string;
    lay_keys: string[];
    body_key: string;
    mirror_body_key: string;
  }>('select signature_key, mirror_key, lay_keys, body_key, mirror_body_key from knot where id = $1', [id]);
  const row = found.rows[0];
  if (row?.signature_key == null) return { knots: [own], total: 1 };
  const matches = await matchesOf(
    db,
    {
      key: row.signature_key,
      mirrorKey: row.mirror_key,
      lays: row.lay_keys,
      body: row.body_key,
      mirrorBody: row.mirror_body_key,
    },
    id,
  );
  const cards = await cardsOf(
    db,
    matches.map((m) => m.id),
  );
  return { knots: [own, ...cards], total: cards.length + 1 };
}
