import {
  crossingsOf,
  curveOf,
  distance,
  finishedFigure,
  mirror,
  pointAt,
  type Figure,
  type Point,
} from '@foxtrail/core';
import {
  decidedBy,
  evenWay,
  judgeTrace,
  tracedFigure,
  tracing,
  type TraceVerdict,
  type Traced,
} from '@foxtrail/core/drill';
import { patternKeys, patternOf, patterns } from '../src/index.js';

/** A figure traced by a steady hand, seen larger: the same ways, and at each crossing the strand over that lies over there. */
function trace(seen: Figure, like: Figure, wrong: readonly number[] = []): Figure {
  const placed = ([x, y]: Point): Point => [1.7 * x + 3, 1.7 * y - 5];
  const way = (id: string): Point[] => {
    const host = seen.hosts.find((h) => h.id === id);
    if (host?.kind === 'post') return [placed(host.points[Math.floor(host.points.length / 2)]!)];
    const strand = host ?? seen.ropes.find((r) => r.id === id)!;
    return evenWay(curveOf(strand).line.map(placed));
  };
  const bare = [...like.hosts, ...like.ropes].map(({ id }): Traced => ({
    strand: id,
    points: way(id).map((point) => ({ point, under: false })),
    turned: [],
  }));
  const eyes = seen.ropes.flatMap((r) =>
    (r.eyes ?? []).map((at) => ({ rope: r.id, point: placed(pointAt(curveOf(r), at)) })),
  );
  const all = crossingsOf(seen);
  const turned = (strand: string): number[] =>
    crossingsOf(tracedFigure(like, bare, eyes)).flatMap((c) => {
      const own = decidedBy(like, bare, c);
      if (own.strand !== strand) return [];
      const [near] = all
        .filter((s) => s.first.strand === c.first.strand && s.second.strand === c.second.strand)
        .sort((a, b) => distance(placed(a.point), c.point) - distance(placed(b.point), c.point));
      const isOther = near !== undefined && (near.over === near.first) !== (c.over === c.first);
      return isOther !== wrong.includes(near?.number ?? 0) ? [own.at] : [];
    });
  return tracedFigure(
    like,
    bare.map((t) => ({ ...t, turned: turned(t.strand) })),
    eyes,
  );
}

function judged(id: string, seen: (figure: Figure) => Figure = (f) => f, wrong: readonly number[] = []): TraceVerdict {
  const { knot } = patternOf(id)!;
  const figure = finishedFigure(knot.method);
  const found = judgeTrace(trace(seen(figure), figure, wrong), { id, name: knot.name, figure }, patternKeys());
  if (!found.ok) throw new Error(found.reason);
  return found.value;
}

describe('A knot that a learner traces', () => {
  it('is the knot, for every pattern of the book', () => {
    for (const { id } of patterns()) expect(judged(id).verdict.state).withContext(id).toBe('holds');
  });

  it('is its mirror image where it is that, and so is told', () => {
    for (const id of ['overhand', 'bowline', 'sheet-bend', 'clove-hitch'])
      expect(judged(id, mirror).verdict.state).withContext(id).toBe('mirrored');
  });

  it('is told where it lies the wrong way: turned over there, it is the knot', () => {
    for (const id of ['bowline', 'reef', 'figure-eight', 'sheet-bend', 'clove-hitch']) {
      const figure = finishedFigure(patternOf(id)!.knot.method);
      for (const { number } of crossingsOf(figure)) {
        const { verdict, repairs } = judged(id, undefined, [number]);
        if (verdict.state !== 'fails') continue;
        // Drawn the same way, its crossings bear the same numbers.
        expect(repairs).withContext(`${id} ${number}`).toContain([number]);
      }
    }
  });

  it('is traced strand by strand: what it is tied to, its ropes, and each loop that stays', () => {
    const kinds = (id: string): string[] => tracing(finishedFigure(patternOf(id)!.knot.method)).map((t) => t.kind);
    expect(kinds('clove-hitch')).toEqual(['host', 'rope']);
    expect(kinds('reef')).toEqual(['rope', 'rope']);
    expect(kinds('bowline')).toEqual(['rope', 'eye']);
  });
});
