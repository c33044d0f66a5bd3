import * as laurent from '../../src/topology/laurent.js';
import fc from 'fast-check';
import {
  closest,
  DRAWN_TIGHT,
  crossingsOf,
  curveOf,
  gaussOf,
  gaussOfPd,
  gaussText,
  layOut,
  mapPosition,
  nearestOn,
  passagesOf,
  pdJones,
  pdOf,
  pointAt,
  readGauss,
  sayGauss,
  signatureOf,
  tangleOf,
  tidy,
  tidying,
  type Figure,
  type PdCode,
  type Result,
} from '../../src/index.js';
import { anyFigure, drawnFiles, drawnKnot, oneRope } from '../support/figures.js';

function value<T>(r: Result<T>): T {
  if (!r.ok) throw new Error(`${r.place}: ${r.reason}`);
  return r.value;
}
const key = (f: Figure): string => value(signatureOf(f)).key;

describe('Tidy', () => {
  it('keeps the extended Gauss code and the signature of 200 figures drawn anyhow, or leaves them as they are', () => {
    let [tidied, even] = [0, 0];
    fc.assert(
      fc.property(anyFigure, (f) => {
        const done = tidy(f, { rounds: 14 });
        if (!done.ok) {
          // Refused, with a reason that says what to do; nothing has changed.
          expect(done.remedy.length).toBeGreaterThan(10);
          return;
        }
        tidied += 1;
        const { figure } = done.value;
        expect(gaussText(figure)).toBe(gaussText(f));
        expect(key(figure)).toBe(key(f));
        if (closest(figure) >= closest(f) - 0.3) even += 1;
      }),
      { numRuns: 200 },
    );
    expect(tidied).toBeGreaterThan(190);
    // About two of three are; the bound is far enough off that no draw of 200 figures misses it by chance.
    expect(even).toBeGreaterThan(100);
  });
  it('draws the demo’s knots more evenly, and keeps what lies between two crossings between them', () => {
    for (const file of drawnFiles) {
      const f = drawnKnot(file).method.figure;
      const { figure, mapping } = value(tidy(f, { rounds: 60 }));
      expect(gaussText(figure)).withContext(file).toBe(gaussText(f));
      for (const r of f.ropes) {
        const [was, is] = [passagesOf(f, r.id), passagesOf(figure, r.id)];
        was.forEach((p, i) => {
          const next = was[i + 1];
          if (!next) return;
          const at = mapPosition(mapping, { strand: r.id, at: (p.at + next.at) / 2 })!.at;
          expect(at).toBeGreaterThan(is[i]!.at);
          expect(at).toBeLessThan(is[i + 1]!.at);
        });
      }
      for (const h of f.hosts) expect(figure.hosts).toContain(h);
    }
  });
  it('tells how far it is, shows the figure on its way, and can be left at any moment', () => {
    const f = drawnKnot(drawnFiles[0]!).method.figure;
    const shares: number[] = [];
    let shown = 0;
    for (const p of tidying(f)) {
      shares.push(p.done);
      if (p.figure) {
        shown += 1;
        expect(gaussText(p.figure)).toBe(gaussText(f));
      }
      if (shares.length > 40) break;
    }
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shown).toBeGreaterThan(3);
  });
  it('has nothing to do on an empty board', () => {
    expect(tidy({ ropes: [], hosts: [] }).ok).toBeFalse();
  });
});

describe('Extended Gauss code', () => {
  it('is read as it is written', () => {
    fc.assert(
      fc.property(anyFigure, (f) => {
        if (crossingsOf(f).length === 0) return;
        expect(sayGauss(value(readGauss(gaussText(f))))).toBe(gaussText(f));
      }),
      { numRuns: 40 },
    );
  });
  it('laid out in the plane and read off again is the same code; the drawing is one a person can read', () => {
    fc.assert(
      fc.property(oneRope, (f) => {
        const code = gaussOf(f);
        const drawn = layOut(code);
        if (!drawn.ok) {
          expect(drawn.reason).toContain('could not be drawn');
          return;
        }
        expect(gaussText(drawn.value)).toBe(sayGauss(code));
        expect(key(drawn.value).length).toBe(40);
      }),
      { numRuns: 8 },
    );
  });
  it('draws the textbook knots', () => {
    const trefoil = value(layOut(value(readGauss('O1- U2- O3- U1- O2- U3-'))));
    const eight = value(layOut(value(readGauss('(O1+ U2+ O3- U4- O2+ U1+ O4- U3-)'))));
    expect(crossingsOf(trefoil).map((c) => c.sign)).toEqual([-1, -1, -1]);
    expect(eight.ropes[0]!.closed).toBeTrue();
    expect(closest(trefoil)).toBeGreaterThan(1.8);
    expect(curveOf(trefoil.ropes[0]!).line.length).toBeGreaterThan(20);
    // Two slings linked once, and a rope that crosses nothing beside them.
    const link = value(layOut(value(readGauss('(O1+ U2+) / (U1+ O2+) / '))));
    expect(link.ropes.length).toBe(2);
  });
  it('refuses bad input with its place', () => {
    const reason = (text: string): string => {
      const read = readGauss(text);
      return read.ok ? 'read' : `${read.place}: ${read.reason}`;
    };
    expect(reason('')).toContain('no passage');
    expect(reason('O1+ U1')).toContain('strand 1, passage 2');
    expect(reason('O1+ X2+')).toContain('“X”');
    expect(reason('O1+ U2+')).toContain('passed once');
    expect(reason('O1+ O1+')).toContain('say the same');
    expect(reason('O1+ U1-')).toContain('signs differ');
    // Every crossing twice, and yet no drawing in the plane.
    const virtual = layOut(value(readGauss('(O1+ O2+ U1+ U2+)')));
    expect(virtual.ok).toBeFalse();
    expect(virtual.ok ? '' : virtual.reason).toContain('No drawing in the plane');
  });
});

describe('PD code', () => {
  const trefoil: PdCode = [
    [1, 5, 2, 4],
    [3, 1, 4, 6],
    [5, 3, 6, 2],
  ];
  it('laid out has the Jones polynomial of the code', () => {
    const figure = value(layOut(value(gaussOfPd(trefoil))));
    const open: Figure = { ...figure, ropes: figure.ropes.map((r) => ({ ...r })) };
    expect(crossingsOf(open).length).toBe(3);
    const writhe = crossingsOf(open).reduce((s, c) => s + c.sign, 0);
    expect(Math.abs(writhe)).toBe(3);
    const again = pdOf(tangleOf(open, 'held'), []);
    expect(laurent.equal(pdJones(again), pdJones(trefoil))).toBeTrue();
  });
  it('out and in again has the same signature', () => {
    for (const file of drawnFiles) {
      const f = drawnKnot(file).method.figure;
      if (f.hosts.length > 0 || f.ropes.length !== 1 || f.ropes[0]!.closed) continue;
      const bare: Figure = { ropes: f.ropes.map(({ eyes: _eyes, ...r }) => r), hosts: [] };
      const t = tangleOf(bare, new Map([['a', 'over' as const]]));
      const labels = t.rim.map((p) => p.label);
      const code = pdOf(t, [[labels[0]!, labels[1]!]]);
      const figure = value(layOut(value(gaussOfPd(code))));
      const back = pdOf(tangleOf(figure, 'held'), []);
      expect(laurent.equal(pdJones(back), pdJones(code)))
        .withContext(file)
        .toBeTrue();
    }
  });
  it('refuses what is not one', () => {
    expect(gaussOfPd([[1, 2, 3, 4]]).ok).toBeFalse();
    expect(
      gaussOfPd([
        [1, 5, 2, 4],
        [3, 1, 4, 6],
        [5, 3, 6, 2.5],
      ] as unknown as PdCode).ok,
    ).toBeFalse();
  });
});

describe('Drawing tight', () => {
  it('makes the knot smaller and leaves it the knot it was, its ends and eyes where they are', () => {
    for (const file of ['figure-eight.json', 'reef.json', 'sheet-bend.json', 'bowline.json']) {
      const f = drawnKnot(file).method.figure;
      const { figure } = value(tidy(f, DRAWN_TIGHT));
      expect(gaussText(figure)).withContext(file).toBe(gaussText(f));
      expect(key(figure)).withContext(file).toBe(key(f));
      const spread = (g: Figure): number => {
        const places = crossingsOf(g).map((c) => c.point);
        return Math.max(...places.map((p) => p[0])) - Math.min(...places.map((p) => p[0]));
      };
      expect(spread(figure)).withContext(file).toBeLessThan(spread(f));
      f.ropes.forEach((r, i) => {
        const drawn = figure.ropes[i]!;
        for (const at of [0, -1]) {
          const [p, q] = [r.points.at(at)!, drawn.points.at(at)!];
          expect(Math.hypot(p[0] - q[0], p[1] - q[1]))
            .withContext(file)
            .toBeLessThan(0.02);
        }
        for (const eye of r.eyes ?? [])
          expect(nearestOn(curveOf(drawn), pointAt(curveOf(r), eye)).away)
            .withContext(file)
            .toBeLessThan(0.3);
      });
      // The gaps still read: strands keep farther apart than a rope is thick.
      expect(closest(figure)).withContext(file).toBeGreaterThan(1);
    }
  });
});
