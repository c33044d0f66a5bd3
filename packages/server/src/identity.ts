/**
 * What the house's knots are: signature keys and the verdict, computed when a knot is saved and kept in indexed columns, so that a
 * drawing is looked up among all of them at once.
 */
import type { Identified, Identify, KnotCard } from '@foxtrail/contract';
import {
  classOf,
  type Match,
  finishedFigure,
  keysOf,
  readKnot,
  sayRefusal,
  verdictOf,
  type Finding,
  type FigureFile,
  type KnotDocument,
  type Refusal,
} from '@foxtrail/core';
import { claimOf, gradeFinding, patternKeys, verdictFinding } from '@foxtrail/pattern-book';
import type pg from 'pg';
import { cardRow, toCard } from './cards.js';
import type { Queryable } from './database.js';

export interface StoredIdentity {
  readonly keys?: Omit<Identify, 'except'>;
  readonly state: NonNullable<KnotCard['verdict']>['state'];
  readonly headline: string;
}

/** Columns of the table `knot`, in the order of `identityColumns`. */
export const IDENTITY_COLUMNS = [
  'signature_key',
  'mirror_key',
  'body_key',
  'mirror_body_key',
  'lay_keys',
  'verdict_state',
  'verdict',
] as const;

export const identityColumns = ({ keys, state, headline }: StoredIdentity): unknown[] => [
  keys?.key ?? null,
  keys?.mirrorKey ?? null,
  keys?.body ?? null,
  keys?.mirrorBody ?? null,
  keys?.lays ?? [],
  state,
  headline,
];

/** Keys and verdict of a knot, and the finding that the verdict gives rise to. */
export function identityOf(
  knot: KnotDocument,
): StoredIdentity & { readonly finding?: Finding; readonly grade?: Finding } {
  const figure = finishedFigure(knot.method);
  const classified = classOf(figure);
  const gradeOf = (matches?: readonly Match[]): { grade?: Finding } => {
    const grade = gradeFinding(knot, { matches, class: classified.ok ? classified.value.class : undefined });
    return grade ? { grade } : {};
  };
  const declined = (r: Refusal): StoredIdentity & { grade?: Finding } => ({
    state: 'declined',
    headline: sayRefusal(r),
    ...gradeOf(),
  });
  const keys = keysOf(figure);
  if (!keys.ok) return declined(keys);
  const claim = claimOf(knot);
  const known = claim && { id: claim.id, name: claim.knot.name, figure: finishedFigure(claim.knot.method) };
  const verdict = verdictOf(figure, known, patternKeys());
  if (!verdict.ok) return declined(verdict);
  const finding = verdictFinding(verdict.value, knot.entry);
  return {
    keys: { ...keys.value, lays: [...keys.value.lays] },
    state: verdict.value.state,
    headline: verdict.value.headline,
    ...(finding ? { finding } : {}),
    ...gradeOf(verdict.value.matches),
  };
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
  const cards = await Promise.all(matches.map(async (m) => toCard(await cardRow(db, m.id))));
  return { knots: [own, ...cards], total: cards.length + 1 };
}

/** Computes keys and verdict of knots that were saved before there were any; tells how many. */
export async function signUnsigned(pool: pg.Pool): Promise<number> {
  const found = await pool.query<{ id: string; document: FigureFile }>(
    'select k.id, r.document from knot k join revision r on r.knot_id = k.id and r.number = k.revision where k.verdict_state is null',
  );
  for (const { id, document } of found.rows) {
    const read = readKnot(document);
    if (!read.ok) continue;
    await pool.query(
      `update knot set ${IDENTITY_COLUMNS.map((c, i) => `${c} = $${2 + i}`).join(', ')} where id = $1 and verdict_state is null`,
      [id, ...identityColumns(identityOf(read.value))],
    );
  }
  return found.rows.length;
}
