import fc from 'fast-check';
import {
  crossingsOf,
  curveOf,
  diameterOf,
  distance,
  drawFigure,
  gaussText,
  lengthOf,
  mapPosition,
  mirror,
  passagesOf,
  settle,
  settling,
  sharpBends,
  signatureOf,
  weaveFigure,
  type Figure,
  type Host,
  type Point,
  type Result,
} from '../../src/index.js';
import { anyFigure, drawnFiles, drawnKnot, rope } from '../support/figures.js';

function value<T>(r: Result<T>): T {
  if (!r.ok) throw new Error(`${r.place}: ${r.reason}`);
  return r.value;
}
const key = (f: Figure): string => value(signatureOf(f)).key;
const length = (f: Figure): number => f.ropes.reduce((sum, r) => sum + lengthOf(curveOf(r)), 0);
const share = (f: Figure): number => {
  const [l, t, r, b] = drawFigure(f).box;
  return Math.min(...f.ropes.map(diameterOf)) / Math.hypot(r - l, b - t);
};

describe('Settle', () => {
  it('keeps the code and the signature of figures drawn anyhow, or refuses them and says what to do', () => {
    let settled = 0;
    const most = 40;
    fc.assert(
      fc.property(anyFigure, (f) => {
        const done = settle(f);
        if (!done.ok) {
          expect(done.remedy.length).toBeGreaterThan(10);
          return;
        }
        settled += 1;
        expect(gaussText(done.value.figure)).toBe(gaussText(f));
        expect(key(done.value.figure)).toBe(key(f));
      }),
      { numRuns: most },
    );
    expect(settled).toBeGreaterThan(0.8 * most);
  });

  it('draws knots that were drawn by hand with thicker rope, less of it, and no kink', () => {
    for (const file of drawnFiles) {
      const before = drawnKnot(file).method.figure;
      const { figure } = value(settle(before));
      expect(share(figure))
        .withContext(file)
        .toBeGreaterThan(1.3 * share(before));
      expect(length(figure)).withContext(file).toBeLessThan(length(before));
      expect(sharpBends(figure)).withContext(file).toEqual([]);
    }
  });

  it('counts what it leaves out of a tail, so that none becomes shorter', () => {
    for (const file of drawnFiles) {
      const before = drawnKnot(file).method.figure;
      const after = value(settle(before)).figure;
      for (const r of before.ropes) {
        const tail = (f: Figure): number => {
          const own = f.ropes.find((x) => x.id === r.id)!;
          const last = passagesOf(f, r.id).at(-1)!.at;
          const points = curveOf(own);
          const whole = lengthOf(points);
          const counted = (own.breaks ?? []).filter((b) => b.at > last).reduce((sum, b) => sum + b.counts, 0);
          const drawn = whole - lengthOf(curveOf({ ...own, points: own.points.slice(0, Math.ceil(last) + 1) }));
          return drawn / diameterOf(own) + counted;
        };
        if (r.ends[1] === 'tail')
          expect(tail(after))
            .withContext(`${file} ${r.id}`)
            .toBeGreaterThan(tail(before) - 4);
      }
    }
  });

  it('gives a tail one break however often it is settled, and one that a file may have', () => {
    const reef = drawnKnot('reef.json').method.figure;
    const again = value(settle(value(settle(reef)).figure)).figure;
    for (const r of again.ropes) expect(r.breaks!.length).toBe(1);
    const [a, b] = reef.ropes;
    const [x, y] = a!.points.at(-1)!;
    const long = weaveFigure({ ...reef, ropes: [{ ...a!, points: [...a!.points, [x - 900, y]] }, b!] }, () => true);
    expect(value(settle(long)).figure.ropes[0]!.breaks).toEqual([jasmine.objectContaining({ counts: 200 })]);
  });

  it('leaves a ring where it is, and settles what goes round it', () => {
    const ring: Host = {
      id: 'ring',
      kind: 'ring',
      points: Array.from({ length: 8 }, (_, i): Point => [
        6 * Math.cos((i * Math.PI) / 4),
        6 * Math.sin((i * Math.PI) / 4),
      ]),
    };
    const round = rope('a', [
      [-25, 14],
      [-8, 9],
      [0, 2],
      [8, -4],
      [16, 0],
      [9, 6],
      [0, 12],
      [-4, 5],
      [-20, -9],
    ]);
    const f = weaveFigure({ ropes: [round], hosts: [ring] }, ({ point }) => point[0] > 3);
    const { figure } = value(settle(f));
    expect(figure.hosts).toEqual(f.hosts);
    expect(length(figure)).toBeLessThan(length(f));
  });

  it('leaves every crossing between the places of the trail that it lay between', () => {
    for (const file of drawnFiles) {
      const before = drawnKnot(file).method.figure;
      const { figure, mapping } = value(settle(before));
      const after = crossingsOf(figure);
      crossingsOf(before).forEach((c, i) => {
        const place = mapPosition(mapping, c.over)!;
        const same = after.find((d) =>
          [d.first, d.second].some((p) => p.strand === place.strand && Math.abs(p.at - place.at) < 1e-3),
        );
        expect(same)
          .withContext(`${file}, crossing ${i + 1}`)
          .toBeDefined();
      });
    }
  });

  it('draws a mirrored figure as the mirror of what it draws', () => {
    const f = drawnKnot('figure-eight.json').method.figure;
    const [straight, turned] = [value(settle(f)).figure, value(settle(mirror(f))).figure];
    const middle = (g: Figure): readonly [number, number] => {
      const all = crossingsOf(g).map((c) => c.point);
      return [all.reduce((s, p) => s + p[0], 0) / all.length, all.reduce((s, p) => s + p[1], 0) / all.length];
    };
    const [m, n] = [middle(straight), middle(turned)];
    crossingsOf(straight).forEach(({ point: [x, y] }, i) => {
      const [u, v] = crossingsOf(turned)[i]!.point;
      expect(distance([-(x - m[0]), y - m[1]], [u - n[0], v - n[1]])).toBeLessThan(0.1);
    });
  });

  it('finds the same drawing each time', () => {
    const f = drawnKnot('reef.json').method.figure;
    expect(settle(f)).toEqual(settle(f));
  });

  it('lets turns slide along a straight spar, and draws the spar no longer than it need be', () => {
    const f = drawnKnot('clove-hitch.json').method.figure;
    const { figure } = value(settle(f));
    const [was, now] = [f.hosts[0]!, figure.hosts[0]!];
    expect(distance(now.points[0]!, now.points[1]!)).toBeLessThan(0.5 * distance(was.points[0]!, was.points[1]!));
    const onSpar = crossingsOf(figure).filter((c) => c.second.strand === now.id);
    expect(onSpar.length).toBe(crossingsOf(f).filter((c) => c.second.strand === was.id).length);
    for (const c of onSpar) expect(Math.abs(c.point[1] - now.points[0]![1])).toBeLessThan(1e-6);
  });

  it('tells how far it is, shows the figure on its way, and can be left at any moment', () => {
    const work = settling(drawnKnot('bowline.json').method.figure);
    const shown: Figure[] = [];
    let told = 0;
    for (let step = work.next(); step.done !== true && told < 0.1; step = work.next()) {
      expect(step.value.done).toBeGreaterThanOrEqual(told);
      told = step.value.done;
      if (step.value.figure) shown.push(step.value.figure);
    }
    expect(shown.length).toBeGreaterThan(0);
    for (const f of shown) expect(key(f)).toBe(key(drawnKnot('bowline.json').method.figure));
  });

  it('says so when there is nothing to settle, and lays a rope that crosses nothing straight', () => {
    const none = settle({ ropes: [], hosts: [] });
    expect(!none.ok && none.reason).toContain('no rope');
    const bent: Figure = {
      ropes: [
        rope('a', [
          [0, 0],
          [6, 5],
          [12, 0],
        ]),
      ],
      hosts: [],
    };
    const { figure } = value(settle(bent));
    const [own] = figure.ropes;
    expect(lengthOf(curveOf(own!))).toBeLessThan(1.15 * distance(own!.points[0]!, own!.points.at(-1)!));
  });
});
