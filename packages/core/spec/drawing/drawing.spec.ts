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
  curveOf,
  lengthTo,
  lineBetween,
  outsideOf,
  pictureBox,
  placeOfStep,
  stepsOf,
  strokesOf,
  PAPER_LOOK,
  type Figure,
} from '../../src/index.js';
import { anyFigure, drawnFiles, drawnKnot, edited } from '../support/figures.js';

describe('a drawing', () => {
  it('casts shadows where it is filmed: before and after whatever passes above a strand, and on nothing else', () => {
    for (const file of drawnFiles) {
      const figure = finishedFigure(drawnKnot(file).method);
      const posts = figure.hosts.filter((h) => h.kind === 'post').map((h) => h.id);
      const [plain, filmed] = [drawFigure(figure), drawFigure(figure, { runs: true })];
      expect(plain.runs.every((r) => r.shadows === undefined)).toBeTrue();
      expect(filmed.runs.map((r) => [r.path, r.clips])).toEqual(plain.runs.map((r) => [r.path, r.clips]));
      for (const { id } of [...figure.ropes, ...figure.hosts]) {
        const beneath = passagesOf(figure, id).filter((p) => !p.over && !posts.includes(p.other.strand)).length;
        const own = filmed.runs.filter((r) => r.strand === id);
        const parts = own.reduce((sum, r) => sum + (r.shadows?.length ?? 0), 0);
        expect(parts).toBe(beneath * 2 * 3);
      }
      const dark = filmed.runs.flatMap((r) => strokesOf(PAPER_LOOK, r)).filter((s) => s.colour.length === 9);
      expect(dark.length).toBe(filmed.runs.reduce((sum, r) => sum + (r.shadows?.length ?? 0), 0));
    }
  });
  it('leaves a strand whole where it lies in front of a host, close beside where it came round behind it', () => {
    // Up aslant in front of a spar, round over it, and down aslant behind it close beside: read by its letters.
    const figure: Figure = {
      hosts: [
        {
          id: 'spar',
          kind: 'spar',
          points: [
            [-12, 0],
            [12, 0],
          ],
          size: 3,
        },
      ],
      ropes: [
        {
          id: 'a',
          curve: 'smooth',
          closed: false,
          ends: ['standing', 'standing'],
          weave: 'OU',
          points: [
            [-6, 6],
            [-4, 3.6],
            [0, 0.4],
            [4, -3],
            [5.4, -3.4],
            [5.2, -2],
            [1.4, 1.4],
            [-2, 4.4],
            [-4, 7],
          ],
        },
      ],
    };
    const [front, behind] = passagesOf(figure, 'a');
    expect([front?.over, behind?.over]).toEqual([true, false]);
    const runs = drawFigure(figure).runs.filter((r) => r.strand === 'a');
    const whole = runs.filter((r) => r.clips.length === 0);
    // The first run is not clipped, and goes on past where the strand is in front, half way to where it is behind.
    expect(whole[0]).toBe(runs[0]);
    expect(runs.length).toBe(3);
    expect(runs[1]?.clips.length).toBe(1);
    expect(runs[1]?.start).toBeGreaterThan(lengthTo(curveOf(figure.ropes[0]!), front!.at) + 2);
  });

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
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
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
    for (const file of drawnFiles) {
      const { figure } = drawnKnot(file).method;
      const labels = labelPlaces(figure);
      expect(labels.map((l) => l.crossing)).toEqual(crossingsOf(figure).map((c) => c.number));
      labels.forEach((l, i) =>
        labels.slice(i + 1).forEach((m) => expect(distance(l.point, m.point)).withContext(file).toBeGreaterThan(1.2)),
      );
    }
  });
  it('has a frame that holds its heart', () => {
    for (const file of drawnFiles) {
      const { figure } = drawnKnot(file).method;
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
    const svg = toSvg(drawFigure(drawnKnot('overhand.json').method.figure), {
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
    for (const file of drawnFiles) {
      const figure = finishedFigure(drawnKnot(file).method);
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

describe('the picture of a step', () => {
  it('seen so many times as near shows so much less of the figure, about where the step goes, and nothing beyond it', () => {
    for (const file of drawnFiles) {
      const { method } = drawnKnot(file);
      for (const { index, layout, stretch, of, telling } of stepsOf(method)) {
        if (!stretch || telling.view === 'back' || telling.callouts) continue;
        const place = placeOfStep(method, index);
        const [l, t, r, b] = pictureBox(
          edited(method, { kind: 'tell', index: place.index, telling: { closeUp: undefined } }, layout),
          index,
        );
        for (const closeUp of [1.25, 2, 4]) {
          const near = edited(method, { kind: 'tell', index: place.index, telling: { closeUp } }, layout);
          const box = pictureBox(near, index);
          const where = `${file}, step ${index + 1}, ${closeUp}`;
          expect(box[2] - box[0])
            .withContext(where)
            .toBeCloseTo((r - l) / closeUp, 6);
          expect(box[3] - box[1])
            .withContext(where)
            .toBeCloseTo((b - t) / closeUp, 6);
          expect(box[0] >= l - 1e-6 && box[1] >= t - 1e-6 && box[2] <= r + 1e-6 && box[3] <= b + 1e-6)
            .withContext(where)
            .toBeTrue();
          // Some of what the step lays is in the picture.
          const rope = of.figure.ropes.find((x) => x.id === stretch.rope)!;
          const laid = lineBetween(curveOf(rope), stretch.from, stretch.to);
          const seen = laid.some(([x, y]) => x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3]);
          // Four times as near a long bight can lie all round the picture.
          if (closeUp <= 2) expect(seen).withContext(where).toBeTrue();
        }
      }
    }
  });

  it('is cut out by a path that covers all round it, far beyond its box', () => {
    fc.assert(
      fc.property(fc.integer({ min: -200, max: 200 }), fc.integer({ min: -200, max: 200 }), (x, y) => {
        const path = outsideOf('M0 0Z', [x, y, x + 10, y + 10]);
        const [, l, t, r, b, back] = /^M(\S+) (\S+)H(\S+)V(\S+)H(\S+)ZM0 0Z$/.exec(path)!.map(Number);
        expect(back).toBe(l);
        expect([l! <= x - 20, t! <= y - 20, r! >= x + 30, b! >= y + 30]).toEqual([true, true, true, true]);
      }),
    );
  });
});
