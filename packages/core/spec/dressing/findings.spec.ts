import fc from 'fast-check';
import {
  WORKSHOP_WORDS,
  changeMethod,
  composeStep,
  crossingsOf,
  drawFigure,
  figureClosure,
  findingsOf,
  methodFor,
  placeInWords,
  readMap,
  readWeave,
  requiredTail,
  sayLength,
  tailsOf,
  weaveFigure,
  type Figure,
  type FindingCode,
  type Method,
} from '../../src/index.js';
import { drawnFiles, drawnKnot, rope } from '../support/figures.js';

const rules = { tail: { diameters: 8, millimetres: 60 }, cordMm: 10, words: WORKSHOP_WORDS };
const codes = (m: Method): FindingCode[] => findingsOf(m, rules).map((f) => f.code);
const withHalt = (figure: Figure, at: number): Method => {
  const done = changeMethod(methodFor(figure), 0, { kind: 'place-halt', leader: 0, at });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
};
/** A loop whose end goes on by `more` diameters beyond its one crossing. */
const loop = (more: number): Figure =>
  weaveFigure(
    {
      ropes: [
        rope(
          'a',
          [
            [-20, 0],
            [0, 0],
            [10, 0],
            [10, -10],
            [0, -10],
            [0, more],
          ],
          { curve: 'straight' },
        ),
      ],
      hosts: [],
    },
    () => false,
  );

describe('tails', () => {
  it('are measured from the last crossing to the end', () => {
    expect(tailsOf(loop(7.5))[0]).toEqual(jasmine.objectContaining({ rope: 'a', inside: false }));
    expect(tailsOf(loop(7.5))[0]!.length).toBeCloseTo(7.5, 6);
  });
  it('are asked for in diameters or millimetres, whichever is more', () => {
    expect(requiredTail({ diameters: 8, millimetres: 60 }, 10)).toBe(8);
    expect(requiredTail({ diameters: 8, millimetres: 60 }, 6)).toBe(10);
    expect(sayLength(12, 11)).toBe('12 d (132 mm)');
  });
  it('that are short are found, with an edit that mends it', () => {
    const m = withHalt(loop(5), 5);
    const finding = findingsOf(m, rules).find((f) => f.code === 'tail-short');
    expect(finding?.title).toBe('The tail is 3 d short');
    const mended = changeMethod(m, finding!.fix!.layout, finding!.fix!.edit);
    expect(mended.ok && codes(mended.value)).not.toContain('tail-short');
  });
  it('that end inside the knot are found', () => {
    const figure = weaveFigure(
      {
        ropes: [
          rope(
            'a',
            [
              [-20, 0],
              [10, 0],
              [10, -12],
              [0, -12],
              [0, 4],
              [5, 4],
              [5, -6],
            ],
            { curve: 'straight' },
          ),
        ],
        hosts: [],
      },
      () => true,
    );
    expect(codes(withHalt(figure, 6))).toContain('tail-inside');
  });
});

describe('findings', () => {
  it('say what is missing on an empty board and a method without halts', () => {
    expect(codes(methodFor({ ropes: [], hosts: [] }))).toEqual(['no-rope']);
    expect(codes(methodFor(loop(9)))).toContain('no-halt');
  });
  it('find three strands at one point and strands that touch', () => {
    const three = weaveFigure(
      {
        ropes: [
          rope(
            'a',
            [
              [-20, 0],
              [20, 0],
            ],
            { curve: 'straight' },
          ),
          rope(
            'b',
            [
              [-10, -10],
              [10, 10.3],
            ],
            { curve: 'straight' },
          ),
          rope(
            'c',
            [
              [-10, 10.2],
              [10, -10],
            ],
            { curve: 'straight' },
          ),
        ],
        hosts: [],
      },
      () => true,
    );
    expect(codes(methodFor(three))).toContain('three-strands');
    const touch: Figure = {
      ropes: [
        rope(
          'a',
          [
            [-20, 0],
            [20, 0],
          ],
          { curve: 'straight' },
        ),
        rope(
          'b',
          [
            [-20, 5],
            [-5, 0.3],
            [5, 0.3],
            [20, 5],
          ],
          { curve: 'straight' },
        ),
      ],
      hosts: [],
    };
    expect(codes(methodFor(touch))).toContain('strands-touch');
  });
  it('offer to move a strand aside where three meet in one point, which makes the figure one that can be saved', () => {
    const spread = fc.tuple(
      fc.integer({ min: 0, max: 25 }),
      fc.integer({ min: 45, max: 75 }),
      fc.integer({ min: 95, max: 150 }),
    );
    fc.assert(
      fc.property(spread, fc.integer({ min: 0, max: 359 }), (angles, turned) => {
        const figure = weaveFigure(
          {
            ropes: angles.map((angle, i) => {
              const a = ((angle + turned) * Math.PI) / 180;
              const [x, y] = [20 * Math.cos(a), 20 * Math.sin(a)];
              return rope('abc'.charAt(i), [
                [-x, -y],
                [0, 0],
                [x, y],
              ]);
            }),
            hosts: [],
          },
          (_, i) => i > 0,
        );
        expect(readWeave(figure).ok).toBeFalse();
        const [found] = findingsOf(methodFor(figure), rules).filter((f) => f.code === 'three-strands');
        const { edit, layout } = found!.fix!;
        const after = changeMethod(methodFor(figure), layout, edit);
        if (!after.ok) throw new Error(after.reason);
        expect(readWeave(after.value.figure).ok).toBeTrue();
        expect(crossingsOf(after.value.figure).length).toBe(3);
        // Pale, dark and third say it as they look on the screen.
        const refused = readWeave(figure);
        const place = refused.ok ? '' : placeInWords(refused.place, figure.ropes, WORKSHOP_WORDS);
        expect(place).toMatch(/^the (pale|dark|third) rope/);
      }),
      { numRuns: 25 },
    );
  });
  it('find a step that passes too much, one without text, and rope after the last halt', () => {
    const { method } = drawnKnot('figure-eight.json');
    const one: Method = { ...method, halts: [{ leader: 0, at: 20 }] };
    expect(codes(one)).toContain('step-passes-too-much');
    expect(codes(one)).toContain('rope-after-last-halt');
    const blank: Method = { ...method, halts: method.halts.map((h, i) => (i === 0 ? { ...h, text: '  ' } : h)) };
    const finding = findingsOf(blank, rules).find((f) => f.code === 'step-without-text');
    expect(finding?.step).toBe(0);
    const mended = changeMethod(blank, finding!.fix!.layout, finding!.fix!.edit);
    expect(mended.ok && codes(mended.value)).not.toContain('step-without-text');
  });
  it('have nothing against the demo', () => {
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      expect(findingsOf(knot.method, { ...rules, cordMm: knot.entry.cord.diameterMm }))
        .withContext(file)
        .toEqual([]);
    }
  });
  it('name a kink, a strand that lies on another for nothing, a bend too sharp and doubled strands that cross', () => {
    const found = (f: Figure): string[] => codes(methodFor(f));
    expect(found(loop(9))).toContain('needless-crossing');
    const sharp: Figure = {
      ropes: [
        rope('a', [
          [-12, 0],
          [0, 0],
          [0.4, 0.9],
          [0, 1.8],
          [-12, 3],
        ]),
      ],
      hosts: [],
    };
    expect(found(sharp)).toContain('sharp-bend');
    const doubled = weaveFigure(
      {
        ropes: [
          rope('a', [
            [-20, 0],
            [-6, 0],
            [6, 2],
            [20, 2],
          ]),
          rope('b', [
            [-20, 2],
            [-6, 2],
            [6, 0],
            [20, 0],
          ]),
        ],
        hosts: [],
      },
      () => true,
    );
    expect(found(doubled)).toContain('doubles-cross');
  });
  it('put errors before warnings and always say why and what to do', () => {
    const all = findingsOf(methodFor(loop(1)), rules);
    const severities = all.map((f) => f.severity);
    expect(new Set(severities).size).toBe(2);
    expect(severities.lastIndexOf('error')).toBeLessThan(severities.indexOf('warning'));
    for (const f of all) expect(f.why.length * f.remedy.length).toBeGreaterThan(0);
  });
});

describe('degenerate drawings', () => {
  const lattice = fc.tuple(fc.integer({ min: -6, max: 6 }), fc.integer({ min: -6, max: 6 }));
  const line = (least: number): fc.Arbitrary<[number, number][]> =>
    fc
      .array(lattice, { minLength: least, maxLength: 8 })
      .filter((l) => l.every((p, i) => i === 0 || p[0] !== l[i - 1]![0] || p[1] !== l[i - 1]![1]));

  it('are answered, never thrown: strands on each other, ends on strands, three at one point', () => {
    fc.assert(
      fc.property(line(3), line(2), fc.constantFrom('smooth', 'straight'), fc.boolean(), (a, b, curve, flip) => {
        const ropes = [rope('a', a, { curve }), rope('b', b, { curve })];
        const figure = weaveFigure(
          {
            ropes,
            hosts: [
              {
                id: 's',
                kind: 'spar',
                points: [
                  [-20, 0],
                  [20, 0],
                ],
              },
            ],
          },
          (_, i) => (i % 2 === 0) === flip,
        );
        const method = withHalt(figure, a.length - 1);
        const found = findingsOf(method, rules);
        if (!readMap(figure).ok) {
          expect(
            found.some((f) => f.severity === 'error' && (f.code === 'degenerate' || f.code === 'three-strands')),
          ).toBeTrue();
        }
        expect(typeof composeStep(method, 0, WORKSHOP_WORDS).text).toBe('string');
        expect(drawFigure(figure, { labels: true }).runs.length).toBeGreaterThan(0);
        if (crossingsOf(figure).length < 20) expect(typeof figureClosure(figure).ok).toBe('boolean');
      }),
      { numRuns: 150 },
    );
  });
  it('are pointed at, with what mends them', () => {
    const a = rope('a', [
      [-2, 5],
      [-2, 1],
      [-2, 2],
      [-1, -1],
      [-2, 2],
    ]);
    const b = rope('b', [
      [1, 1],
      [-2, -5],
      [-6, 2],
      [-1, 2],
      [6, 4],
    ]);
    const figure = weaveFigure({ ropes: [a, b], hosts: [] }, () => true);
    const read = readMap(figure);
    expect(read).toEqual(jasmine.objectContaining({ ok: false, remedy: 'Move one of the strands aside.' }));
    expect(figureClosure(figure)).toEqual(jasmine.objectContaining({ ok: false }));
    expect(findingsOf(methodFor(figure), rules)[0]?.severity).toBe('error');
  });
});
