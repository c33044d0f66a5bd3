/**
 * Deriving knots and discovering kin, told as it is found.
 */
import {
  accept,
  deriving,
  derivingTurns,
  discovering,
  kinKnot,
  readKnot,
  writeKnot,
  type Derived,
  type KinEntry,
} from '@foxtrail/core';
import { patternKeys, patternKin } from '@foxtrail/pattern-book';
import type { Made } from '../../data/kin-work';
import type { Job } from './protocol';

/** Time between two looks at what has been made so far; in milliseconds. */
const SHOWN = 250;

const madeOf = (d: Derived): Made => ({
  derivation: d.derivation,
  kin: d.kin,
  turns: d.derivation.kind === 'keeper' ? d.derivation.turns : (d.count ?? 1),
  says: d.says,
  name: d.knot.name,
  document: writeKnot(d.knot),
  proof: d.proof,
});

const share = (done: number): number => done;

export const derive: Job<'derive'> = async ({ document, words }, { tell, drive }) => {
  const read = readKnot(document);
  if (!read.ok) return read;
  let shown = 0;
  const all = await drive(
    deriving(read.value, patternKeys(), words, (found) => {
      if (performance.now() - shown < SHOWN) return;
      shown = performance.now();
      tell({ made: found.map(madeOf) });
    }),
    share,
  );
  tell({ made: all.map(madeOf) });
  return accept(undefined);
};

export const turns: Job<'turns'> = async ({ document, words, once, more }, { tell, drive }) => {
  const [read, known] = [readKnot(document), readKnot(once.document)];
  if (!read.ok) return read;
  if (!known.ok) return known;
  const first: Derived = { ...once, knot: known.value };
  const done = await drive(derivingTurns(read.value, first, more, patternKeys(), words), share);
  if (!done.ok) return done;
  tell({ made: [madeOf(done.value)] });
  return accept(undefined);
};

export const discover: Job<'discover'> = async ({ entries }, { tell, drive }) => {
  const knots = entries.flatMap(({ ref, name, document }): KinEntry[] => {
    if (!document) {
      const known = patternKin(ref.replace(/^pattern:/, ''));
      return known ? [{ ...known, ref }] : [];
    }
    const read = readKnot(document);
    return read.ok ? [{ ...kinKnot(name, read.value.method), ref }] : [];
  });
  await drive(
    discovering(knots, (offer) => tell({ offer })),
    share,
  );
  return accept(undefined);
};
