/**
 * Findings, closure and windings of the method in hand.
 */
import * as laurent from '@foxtrail/core/laurent';
import {
  accept,
  figureClosure,
  finishedFigure,
  knotByMethod,
  readKnot,
  sayJones,
  windingAbout,
  type KnotDocument,
} from '@foxtrail/core';
import { findingsIn, proofOf } from '@foxtrail/pattern-book';
import type { ClosureReport } from '../../data/analysis';
import type { Job } from './protocol';

function closure(knot: KnotDocument): ClosureReport {
  const found = figureClosure(finishedFigure(knot.method));
  if (!found.ok) return { reason: found.reason };
  return {
    jones: sayJones(found.jones),
    // The value of as many separate plain rings as there are closed curves.
    trivial: laurent.equal(found.jones, laurent.loops(found.components - 1)),
    components: found.components,
    writhe: found.writhe,
  };
}

export const analysis: Job<'analysis'> = ({ document, method, practice, words }) => {
  const began = performance.now();
  const read = readKnot(document);
  if (!read.ok) return read;
  const knot = knotByMethod(read.value, method);
  const figure = finishedFigure(knot.method);
  return accept({
    findings: findingsIn(proofOf(read.value, { practice, words }, { methods: [method], parts: ['drawing'] })),
    closure: closure(knot),
    windings: figure.ropes.flatMap((r) =>
      figure.hosts
        .filter((h) => h.kind === 'spar')
        .map((h) => ({ rope: r.id, host: h.id, turns: windingAbout(figure, r.id, h.id) })),
    ),
    took: performance.now() - began,
  });
};
