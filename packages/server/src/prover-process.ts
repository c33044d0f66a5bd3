/**
 * The prover's process: figures in, proofs out.
 */
import { kinKnot, KIN_KINDS, proveKin, readKnot, sayRefusal, type KinKnot, type KinProof } from '@foxtrail/core';
import { patternKin } from '@foxtrail/pattern-book';
import type { ProofAnswer, ProofRequest, ProofSide } from './prover.js';

function knotOf(side: ProofSide): KinKnot | string {
  if ('pattern' in side)
    return patternKin(side.pattern) ?? `There is no pattern “${side.pattern}” in the book any more.`;
  const read = readKnot(side.document);
  return read.ok ? kinKnot(read.value.name, read.value.method) : sayRefusal(read);
}

function proofOf({ kind, turns, from, to }: ProofRequest): KinProof {
  const known = KIN_KINDS.find((k) => k === kind);
  const [a, b] = [knotOf(from), knotOf(to)];
  if (typeof a === 'string') return { state: 'open', compared: a };
  if (typeof b === 'string') return { state: 'open', compared: b };
  if (!known) return { state: 'open', compared: `Nothing is known of the kinship “${kind}”.` };
  return proveKin(known, a, b, turns);
}

process.on('message', (request: ProofRequest) => {
  process.send?.({ id: request.id, proof: proofOf(request) } satisfies ProofAnswer);
});
process.on('disconnect', () => process.exit(0));
