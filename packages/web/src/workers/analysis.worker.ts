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
import { practised } from '@foxtrail/pattern-book';
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

/** Where keepers begin, when the drawing is the knot it claims and has one. */
function keeperStarts(knot: KnotDocument): ReadonlyMap<string, number> | undefined {
  const { keeper } = practised(knot);
  return keeper && new Map([[keeper.rope, keeper.from]]);
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
      tailFrom: data.beforeKeeper ? keeperStarts(knot) : undefined,
      cordMm: knot.entry.cord.diameterMm,
      words: data.words,
      pull: knot.entry.pull,
    }),
    closure: closure(knot),
    windings,
    took: performance.now() - began,
  } satisfies Analysis);
});
