/**
 * Computes findings, closure and windings away from the page.
 */
import {
  figureClosure,
  finishedFigure,
  knotByMethod,
  laurent,
  readKnot,
  sayJones,
  windingAbout,
  type KnotDocument,
} from '@foxtrail/core';
import { findingsIn, proofOf } from '@foxtrail/pattern-book';
import type { Analysis, AnalysisRequest, ClosureReport } from '../data/analysis';

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

addEventListener('message', ({ data }: MessageEvent<AnalysisRequest>) => {
  const began = performance.now();
  const read = readKnot(data.document);
  const empty: Analysis = { id: data.id, findings: [], closure: {}, windings: [], took: 0 };
  if (!read.ok) {
    postMessage({ ...empty, closure: { reason: read.reason } });
    return;
  }
  const { method, practice, words } = data;
  const knot = knotByMethod(read.value, method);
  const figure = finishedFigure(knot.method);
  const windings = figure.ropes.flatMap((r) =>
    figure.hosts
      .filter((h) => h.kind === 'spar')
      .map((h) => ({ rope: r.id, host: h.id, turns: windingAbout(figure, r.id, h.id) })),
  );
  postMessage({
    id: data.id,
    findings: findingsIn(proofOf(read.value, { practice, words }, { methods: [method], parts: ['drawing'] })),
    closure: closure(knot),
    windings,
    took: performance.now() - began,
  } satisfies Analysis);
});
