/**
 * The prover: tries stated relations on the knots' present figures, aside. What it
 * finds is kept with the revisions it was found on; a relation whose knots have moved on is tried again.
 */
import type { KinProof } from '@foxtrail/core';
import { aside, TooLong } from './aside.js';
import type { KinSide, StatedKin } from './aside-jobs.js';
import { inBackground } from './claims.js';
import { updateRows } from './columns.js';
import type { Queryable } from './database.js';

/** Proves one relation aside; one that takes too long is left open: it is no drawing of a knot that people tie. */
const prove = (stated: StatedKin): Promise<KinProof> =>
  aside('kin', stated).catch((error: unknown): KinProof => {
    if (error instanceof TooLong)
      return {
        state: 'open',
        compared: 'The comparison took too long and was stopped: the drawings are very large.',
      };
    throw error;
  });

interface StaleRow {
  readonly id: string;
  readonly kind: string;
  readonly turns: number;
  readonly from_pattern: string | null;
  readonly to_pattern: string | null;
  readonly from_document: unknown;
  readonly to_document: unknown;
  readonly from_revision: number | null;
  readonly to_revision: number | null;
}

const STALE = `
  select r.id, r.kind, r.turns, r.from_pattern, r.to_pattern, f.document as from_document, t.document as to_document,
         a.revision as from_revision, b.revision as to_revision
    from kin_relation r
    left join knot a on a.id = r.from_knot left join revision f on f.knot_id = a.id and f.number = a.revision
    left join knot b on b.id = r.to_knot left join revision t on t.knot_id = b.id and t.number = b.revision
   where (r.proof_state is null or r.tried_from is distinct from a.revision or r.tried_to is distinct from b.revision)`;

const side = (pattern: string | null, document: unknown): KinSide => (pattern === null ? { document } : { pattern });

async function tryRow(db: Queryable, row: StaleRow): Promise<void> {
  const proof = await prove({
    kind: row.kind,
    turns: row.turns,
    from: side(row.from_pattern, row.from_document),
    to: side(row.to_pattern, row.to_document),
  });
  await updateRows(
    db,
    'kin_relation',
    {
      proof_state: proof.state,
      compared: proof.compared,
      tried_from: row.from_revision,
      tried_to: row.to_revision,
    },
    { id: row.id },
  );
}

/** Tries one relation now, if its knots have moved on since it was tried. */
export async function tryRelation(db: Queryable, id: string): Promise<void> {
  const found = await db.query<StaleRow>(`${STALE} and r.id = $1`, [id]);
  if (found.rows[0]) await tryRow(db, found.rows[0]);
}

/** Tries every relation that has not been tried on its knots' present figures; tells how many. */
export const tryStale = inBackground({
  kind: 'kin',
  stale: `select q.id from (${STALE}) as q join kin_relation o using (id) order by o.created_at`,
  work: tryRelation,
});
