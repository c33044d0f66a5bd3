import fc from 'fast-check';
import {
  hostIsClosed,
  hostOf,
  besidePlaces,
  crossingsOf,
  drawFigure,
  drawStep,
  escapeXml,
  finishedFigure,
  heartBox,
  heartWith,
  labelPlaces,
  markSize,
  methodFor,
  passagesOf,
  toSvg,
  wholeBox,
  distance,
} from '../../src/index.js';
import { anyFigure, demoFiles, demoKnot } from '../support/figures.js';

describe('a drawing', () => {
  it('cuts every strand where it passes under, and only there', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        const drawing = drawFigure(figure);
        for (const s of [...figure.ropes, ...figure.hosts]) {
          // A post is seen from the end: there is no line of it to be cut, nor to cut anything.
          const isPost = (id: string): boolean => hostOf(figure, id)?.kind === 'post';
          if (isPost(s.id)) continue;
          const under = passagesOf(figure, s.id).filter((p) => !p.over && !isPost(p.other.strand)).length;
          const runs = drawing.runs.filter((r) => r.strand === s.id);
          // Cut n times, a rope is n + 1 pieces and a ring n.
          const ring = 'closed' in s ? s.closed : hostIsClosed(s);
          expect(runs.length).toBeGreaterThanOrEqual(ring ? Math.max(1, under) : under + 1);
          expect(runs.some((r) => r.clips.length > 0)).toBe(under > 0);
        }
      }),
    );
  });
  it('shows no more rope than is laid', () => {
    for (const file of demoFiles) {
      const { method } = demoKnot(file);
      method.halts.forEach((_, k) => expect(drawStep(method, k).tips.length).toBeGreaterThan(0));
      expect(
        drawStep(method, 0)
          .runs.filter((r) => r.kind === 'rope')
          .every((r) => r.working),
      )
        .withContext(file)
        .toBeTrue();
    }
  });
  it('puts a number beside every crossing, apart from the others', () => {
    for (const file of demoFiles) {
      const { figure } = demoKnot(file).method;
      const labels = labelPlaces(figure);
      expect(labels.map((l) => l.crossing)).toEqual(crossingsOf(figure).map((c) => c.number));
      labels.forEach((l, i) =>
        labels.slice(i + 1).forEach((m) => expect(distance(l.point, m.point)).withContext(file).toBeGreaterThan(1.2)),
      );
    }
  });
  it('has a frame that holds its heart', () => {
    for (const file of demoFiles) {
      const { figure } = demoKnot(file).method;
      const [whole, heart] = [wholeBox(figure), heartBox(figure)];
      expect(heart[0] >= whole[0] && heart[1] >= whole[1] && heart[2] <= whole[2] && heart[3] <= whole[3]).toBeTrue();
    }
  });
  it('of nothing is an empty board', () => {
    expect(drawStep(methodFor({ ropes: [], hosts: [] }), 0).runs).toEqual([]);
  });
});

describe('SVG', () => {
  it('carries a title and a description, with markup escaped', () => {
    const svg = toSvg(drawFigure(demoKnot('overhand.json').method.figure), {
      title: '<Knot> & "knot"',
      description: "it's",
    });
    expect(svg).toContain('<title id="clip-title">&lt;Knot&gt; &amp; &quot;knot&quot;</title>');
    expect(svg).toContain('it&#39;s</desc>');
    expect(escapeXml('a\u0000b\u0007')).toBe('ab');
  });
});

describe('marks beside a figure', () => {
  it('stand clear of every crossing and of each other, and point at what they mark', () => {
    for (const file of demoFiles) {
      const figure = finishedFigure(demoKnot(file).method);
      const radius = markSize(heartBox(figure));
      const places = crossingsOf(figure)
        .slice(0, 4)
        .map((c) => c.point);
      const marks = besidePlaces(figure, places, radius);
      const away = (p: readonly [number, number], q: readonly [number, number]): number =>
        Math.hypot(p[0] - q[0], p[1] - q[1]);
      marks.forEach((m, i) => {
        expect(m.at).toEqual(places[i]!);
        for (const c of crossingsOf(figure)) expect(away(c.point, m.point)).withContext(file).toBeGreaterThan(radius);
        for (const n of marks.slice(i + 1))
          expect(away(n.point, m.point))
            .withContext(file)
            .toBeGreaterThan(2 * radius);
      });
      const [l, t, r, b] = heartWith(figure, [[900, 0]], 2);
      expect(r).toBe(902);
      expect([l, t, b]).toEqual([0, 1, 3].map((i) => heartBox(figure)[i]!));
    }
  });
});
