/**
 * The prover: tries stated relations on the knots' present figures, in a process of its own, so that the server goes on answering. What it
 * finds is kept with the revisions it was found on; a relation whose knots have moved on is tried again.
 */
import type { KinProof } from '@foxtrail/core';
import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { inBackground } from './claims.js';
import { updateRows } from './columns.js';
import type { Queryable } from './database.js';

/** What the process is given: each knot as a figure file or a pattern's id. */
export interface ProofRequest {
  readonly id: number;
  readonly kind: string;
  readonly turns: number;
  readonly from: ProofSide;
  readonly to: ProofSide;
}
export type ProofSide = { readonly pattern: string } | { readonly document: unknown };
export interface ProofAnswer {
  readonly id: number;
  readonly proof: KinProof;
}

/** Time after which a relation is left open, in milliseconds: what takes longer is no drawing of a knot that people tie. */
const PATIENCE = 20_000;
/** The process is let go when nothing has been tried for so long, in milliseconds. */
const IDLE = 30_000;

let prover: ChildProcess | undefined;
let idle: NodeJS.Timeout | undefined;
let next = 0;
const waiting = new Map<number, (proof: KinProof) => void>();

const gaveUp = (why: string): KinProof => ({ state: 'open', compared: why });

function letGo(why: string): void {
  const left = prover;
  prover = undefined;
  for (const answer of waiting.values()) answer(gaveUp(why));
  waiting.clear();
  left?.kill();
}

function running(): ChildProcess {
  if (prover) return prover;
  // It has the loader that this process was started with, and goes away with it.
  const made = fork(fileURLToPath(new URL('./prover-process.ts', import.meta.url)), {
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  made.unref();
  made.channel?.unref();
  made.on('message', ({ id, proof }: ProofAnswer) => {
    waiting.get(id)?.(proof);
    waiting.delete(id);
  });
  for (const end of ['error', 'exit'])
    made.on(end, () => {
      if (prover === made) letGo('The comparison stopped with an error of its own.');
    });
  prover = made;
  return made;
}

/** Proves one relation in the other process. */
export function proveAside(request: Omit<ProofRequest, 'id'>): Promise<KinProof> {
  clearTimeout(idle);
  return new Promise<KinProof>((resolve) => {
    const id = (next += 1);
    const late = setTimeout(
      () => letGo('The comparison took too long and was stopped: the drawings are very large.'),
      PATIENCE,
    );
    waiting.set(id, (proof) => {
      clearTimeout(late);
      clearTimeout(idle);
      idle = setTimeout(() => letGo('It was stopped.'), IDLE).unref();
      resolve(proof);
    });
    running().send({ ...request, id } satisfies ProofRequest);
  });
}

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

const side = (pattern: string | null, document: unknown): ProofSide => (pattern === null ? { document } : { pattern });

async function tryRow(db: Queryable, row: StaleRow): Promise<void> {
  const proof = await proveAside({
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
