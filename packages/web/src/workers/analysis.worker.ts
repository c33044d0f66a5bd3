/**
 * Computes findings, closure and windings away from the page.
 */
import {
  figureClosure,
  finishedFigure,
  findingsOf,
  laurent,
  readKnot,
  sayJones,
  windingAbout,
  type KnotDocument,
} from '@foxtrail/core';
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
  const knot = read.value;
  const figure = finishedFigure(knot.method);
  const windings = figure.ropes.flatMap((r) =>
    figure.hosts
      .filter((h) => h.kind === 'spar')
      .map((h) => ({ rope: r.id, host: h.id, turns: windingAbout(figure, r.id, h.id) })),
  );
  postMessage({
    id: data.id,
    findings: findingsOf(knot.method, {
      tail: data.tail,
      cordMm: knot.entry.cord.diameterMm,
      words: data.words,
      pull: knot.entry.pull,
    }),
    closure: closure(knot),
    windings,
    took: performance.now() - began,
  } satisfies Analysis);
});
