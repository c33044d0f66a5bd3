/**
 * What the worker reports of an overhand, computed here by the same core, for web unit tests.
 */
import {
  atlasOf,
  KeyBook,
  keysOf,
  marksOf,
  pairCrossings,
  repairOf,
  verdictOf,
  writeKnot,
  type Figure,
} from '@foxtrail/core';
import { verdictFinding } from '@foxtrail/pattern-book';
import type { IdentityReport } from '../data/identity';
import { overhand } from './knots';

function reportOf(figure: Figure): IdentityReport {
  const pattern = overhand();
  const known = { id: 'overhand', name: 'Overhand knot', figure: pattern.method.figure };
  const keys = keysOf(known.figure);
  const own = keysOf(figure);
  if (!keys.ok || !own.ok) throw new Error('the overhand has no keys');
  const book = new KeyBook([{ id: known.id, name: known.name, ...keys.value }]);
  const verdict = verdictOf(figure, known, book);
  const atlas = atlasOf(figure, book);
  const repairs = repairOf(figure, keys.value);
  if (!verdict.ok || !atlas.ok) throw new Error('the overhand has no verdict');
  return {
    verdict: verdict.value,
    finding: verdictFinding(verdict.value),
    keys: { ...own.value, lays: [...own.value.lays] },
    beside: [
      {
        id: known.id,
        name: known.name,
        document: writeKnot(pattern),
        pairing: pairCrossings(figure, known.figure),
        marks: marksOf(figure, known.figure, known.name),
      },
    ],
    ...(repairs.ok ? { repairs: repairs.value } : {}),
    atlas: atlas.value,
    patterns: [{ id: known.id, name: known.name }],
  };
}

export const identityOfOverhand = reportOf;

/** A wrong overhand's only nearest repair that is tried here is the crossing that was swapped. */
export function slippedOverhand(figure: Figure): IdentityReport {
  const report = reportOf(figure);
  const own = report.repairs?.repairs.filter((r) => r.crossings.join() === '2') ?? [];
  return { ...report, ...(report.repairs ? { repairs: { ...report.repairs, repairs: own } } : {}) };
}
