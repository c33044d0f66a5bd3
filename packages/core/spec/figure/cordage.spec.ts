/**
 * Ropes as things: diameter, colour, construction, and the two sides of flat webbing.
 */
import fc from 'fast-check';
import {
  backView,
  change,
  composeStep,
  CONSTRUCTIONS,
  crossingsOf,
  curveOf,
  DEFAULT_TAIL_RULE,
  diameterOf,
  drawFigure,
  findingsOf,
  FIRST_LAYOUT,
  layoutsOf,
  lightness,
  methodFor,
  methodsOf,
  mirror,
  mixed,
  nearestOn,
  PAPER_LOOK,
  readKnot,
  ROPE_COLOURS,
  sideAt,
  STOCK,
  strokesOf,
  tailsOf,
  toSvg,
  vocabularyFor,
  wordedOf,
  windingAbout,
  withRopeNames,
  WORKSHOP_CHOICE,
  SHIPPED_GLOSSARY,
  WORKSHOP_WORDS,
  writeKnot,
  applyEdit,
  type Cordage,
  type Edit,
  type Figure,
  type KnotDocument,
  type Method,
  type Point,
} from '../../src/index.js';
import { anyFigure, drawnKnot, EMPTY, go, openKnot, rope, SPAR } from '../support/figures.js';

const cordageOf = (rope: string, cordage: Cordage | undefined): Edit => ({ kind: 'set-cordage', rope, cordage });
const WEBBING: Cordage = { construction: 'flat webbing', diameter: 1.4 };
const rules = { tail: DEFAULT_TAIL_RULE, cordMm: 10, words: WORKSHOP_WORDS };
const codes = (method: Method): string[] =>
  findingsOf(method, { ...rules, words: withRopeNames(WORKSHOP_WORDS, method.figure.ropes) }).map((f) => f.code);
const withCordage = (knot: KnotDocument, id: string, cordage: Cordage | undefined): KnotDocument => {
  const done = change(knot, FIRST_LAYOUT, { kind: 'set-cordage', rope: id, cordage });
  if (!done.ok) throw new Error(done.reason);
  return done.value;
};
const anyCordage: fc.Arbitrary<Cordage> = fc.constantFrom(...STOCK.map((s) => s.cordage));
/** Turns of a rope round a spar. */
const turns = (thick: number): Figure =>
  go(
    EMPTY,
    SPAR,
    { kind: 'add-rope', rope: { ...rope('a', [[-2, 20], [-2, 6]]), cordage: { diameter: thick } } }, // prettier-ignore
    { kind: 'wrap', rope: 'a', about: [{ strand: 'spar', at: 0.5 }], turns: 3 },
  );
/** How far the crossings of the turns reach along the spar. */
const breadth = (figure: Figure): number => {
  const x = crossingsOf(figure).map((c) => c.point[0]);
  return Math.max(...x) - Math.min(...x);
};

describe('A rope’s cordage', () => {
  it('is the same in every layout of every method, is kept in a file, and is taken back whole', () => {
    const knot = drawnKnot('reef.json');
    const ropes = (k: KnotDocument): string =>
      JSON.stringify(methodsOf(k).map(({ method }) => layoutsOf(method).map((l) => l.figure.ropes)));
    for (const { cordage } of STOCK) {
      const set = withCordage(knot, 'b', cordage);
      for (const { method } of methodsOf(set))
        for (const { figure } of layoutsOf(method)) expect(figure.ropes[1]!.cordage).toEqual(cordage);
      const read = readKnot(JSON.parse(JSON.stringify(writeKnot(set))));
      expect(read.ok && JSON.stringify(writeKnot(read.value))).toBe(JSON.stringify(writeKnot(set)));
      expect(ropes(withCordage(set, 'b', undefined)) === ropes(knot)).toBeTrue();
    }
  });
  it('changes no crossing of a figure drawn anyhow', () => {
    fc.assert(
      fc.property(anyFigure, anyCordage, (figure, cordage) => {
        const next = go(figure, cordageOf('a', cordage));
        expect(next.ropes.map((r) => r.weave)).toEqual(figure.ropes.map((r) => r.weave));
      }),
      { numRuns: 60 },
    );
  });
  it('is refused outside its bounds, with what they are', () => {
    for (const diameter of [0, 0.1, 4, Infinity, Number.NaN]) {
      const done = applyEdit(go(EMPTY, { kind: 'add-rope', rope: rope('a', [[0, 0], [9, 0]]) }), cordageOf('a', { diameter })); // prettier-ignore
      expect(done.ok ? '' : done.remedy).toContain('from 0.3 to 3');
    }
    expect(applyEdit(EMPTY, cordageOf('a', {})).ok).toBeFalse();
    const file = writeKnot(openKnot('overhand.json'));
    const wrong = (cordage: unknown): boolean =>
      readKnot({ ...file, ropes: file.ropes.map((r) => ({ ...r, cordage })) }).ok;
    expect([{ colour: 'red' }, { construction: 'wire' }, { name: '<b>' }, { diameter: 9 }].some(wrong)).toBeFalse();
    expect(wrong({ colour: '#00ff00', kept: 'by others' })).toBeTrue();
  });
  it('sets how far apart turns are laid, and how wide round a thick rope; they wind as often as they did', () => {
    const [thin, usual, thick] = [turns(0.5), turns(1), turns(2)];
    for (const figure of [thin, usual, thick])
      expect(Math.abs(windingAbout(figure, 'a', 'spar'))).toBeCloseTo(Math.abs(windingAbout(usual, 'a', 'spar')), 3);
    expect(breadth(thin) / breadth(usual)).toBeCloseTo(0.5, 1);
    expect(breadth(thick) / breadth(usual)).toBeCloseTo(2, 1);
    // Said afterwards, it comes to the same.
    for (const figure of [thin, thick]) {
      const later = go(usual, cordageOf('a', figure.ropes[0]!.cordage));
      expect(breadth(later)).toBeCloseTo(breadth(figure), 6);
      expect(later.ropes[0]!.weave).toBe(usual.ropes[0]!.weave);
    }
  });
  it('measures tails and bends in the rope’s own diameters', () => {
    const { method } = openKnot('overhand.json');
    const [tail] = tailsOf(method.figure);
    const thin = go(method.figure, cordageOf('a', { diameter: 0.5 }));
    expect(tailsOf(thin)[0]!.length).toBeCloseTo(2 * tail!.length, 6);
    // A bend of 1.6 diameters: easy for a rope, a kink for one as thick again, and for a stiff one.
    const bend = (cordage: Cordage): boolean => {
      const arc = Array.from({ length: 9 }, (_, i): Point => [1.2 * Math.sin((i * Math.PI) / 8), -1.2 * Math.cos((i * Math.PI) / 8)]); // prettier-ignore
      const figure = go(EMPTY, { kind: 'add-rope', rope: { ...rope('a', [[-9, -1.2], ...arc, [-9, 1.2]]), cordage } });
      return codes(methodFor(figure)).includes('sharp-bend');
    };
    expect([{}, { diameter: 2 }, { stiffness: 'stiff' as const }, { diameter: 0.6 }].map(bend)).toEqual([
      false,
      true,
      true,
      false,
    ]);
  });
  it('is drawn as broad as it is, with lines of its construction that lie within it', () => {
    fc.assert(
      fc.property(anyFigure, fc.constantFrom(...CONSTRUCTIONS), fc.double({ min: 0.4, max: 2, noNaN: true }), (figure, construction, diameter) => {
        const next = go(figure, cordageOf('a', { construction, diameter }));
        const curve = curveOf(next.ropes[0]!);
        for (const run of drawFigure(next).runs.filter((r) => r.strand === 'a')) {
          expect(run.width).toBe(diameter);
          for (const stroke of strokesOf(PAPER_LOOK, run)) expect(stroke.width).toBeLessThanOrEqual(diameter);
          for (const [, x, y] of (run.texture ?? '').matchAll(/(-?[\d.]+) (-?[\d.]+)/g))
            expect(nearestOn(curve, [Number(x), Number(y)]).away).toBeLessThan(diameter / 2);
        }
        expect(toSvg(drawFigure(next), { title: 't', description: 'd' })).not.toContain('NaN');
      }),
      { numRuns: 30 },
    ); // prettier-ignore
  });
  it('names its rope in the composed text, and “strap” is no wrong word then', () => {
    const knot = withCordage(openKnot('sheet-bend.json'), 'b', { name: 'strap' });
    const words = vocabularyFor(wordedOf(knot), WORKSHOP_CHOICE, SHIPPED_GLOSSARY);
    const texts = knot.method.halts.map((_, i) => composeStep(knot.method, i, words).text).join(' ');
    expect(texts).toContain('strap');
    expect(texts).not.toContain('dark rope');
    const seen = (cordage: Cordage): string =>
      vocabularyFor({ words: undefined, ropes: [{ cordage }] }, WORKSHOP_CHOICE, SHIPPED_GLOSSARY).ropes[0]!;
    expect(seen({ colour: '#8f2f35' })).toBe('red rope');
    expect(seen({ colour: '#8f2f35', diameter: 0.5 })).toBe('red cord');
    expect(seen({ construction: 'flat webbing' })).toBe('pale webbing');
    expect(seen({ colour: '#123456' })).toBe('pale rope');
  });
});

describe('Ropes told apart', () => {
  const pair = (a: Cordage | undefined, b: Cordage | undefined): string[] => {
    const { method } = openKnot('sheet-bend.json');
    return codes({ ...method, figure: go(method.figure, cordageOf('a', a), cordageOf('b', b)) }).filter(
      (c) => c === 'ropes-alike',
    );
  };
  it('by lightness or by construction, never by hue alone', () => {
    const [red, green] = [{ colour: '#8f2f35' }, { colour: '#31573f' }];
    expect(Math.abs(lightness(red.colour) - lightness(green.colour))).toBeLessThan(5);
    expect(pair(red, green).length).toBe(1);
    expect(pair(red, { ...green, construction: 'laid' })).toEqual([]);
    expect(pair(red, { colour: '#f6f4ee' })).toEqual([]);
    expect(pair(undefined, undefined)).toEqual([]);
    expect(pair({ name: 'line', colour: '#f6f4ee' }, { name: 'Line', colour: '#33383e' }).length).toBe(1);
  });
  it('by L*: black is 0, white 100, and greys in between keep their order', () => {
    expect([lightness('#000000'), lightness('#ffffff')]).toEqual([0, jasmine.anything()]);
    expect(lightness('#ffffff')).toBeCloseTo(100, 6);
    // CIELAB of sRGB #777777: L* 50.03.
    expect(lightness('#777777')).toBeCloseTo(50.03, 1);
    expect(mixed('#000000', '#ffffff', 0.5)).toBe('#808080');
    const steps = Array.from({ length: 9 }, (_, i) => lightness(mixed('#000000', '#ffffff', i / 8)));
    expect(steps).toEqual([...steps].sort((x, y) => x - y));
  });
  it('each colour of the palette keeps its edge: it is told from the ink round it, or its middle is', () => {
    for (const { colour } of ROPE_COLOURS) expect(lightness(colour) - lightness(PAPER_LOOK.ink)).toBeGreaterThan(8);
  });
});

describe('Flat webbing', () => {
  const band = (): Figure =>
    go(
      EMPTY,
      {
        kind: 'add-rope',
        rope: rope(
          'a',
          Array.from({ length: 9 }, (_, i): Point => [5 * i, Math.sin(i)]),
        ),
      },
      cordageOf('a', WEBBING),
    );
  const over = (at: number): Edit => ({ kind: 'turn-over', where: { strand: 'a', at } });
  const sides = (figure: Figure): string => [0.5, 2.5, 4.5, 6.5].map((at) => sideAt(figure.ropes[0]!, at)[0]).join('');
  it('shows its face or its back, by how often it has been turned over; a second turn at one place takes the first back', () => {
    expect(sides(band())).toBe('ffff');
    expect(sides(go(band(), over(1.5)))).toBe('fbbb');
    expect(sides(go(band(), over(1.5), over(5.5)))).toBe('fbbf');
    expect(sides(go(band(), over(1.5), over(1.6)))).toBe('ffff');
    const drawing = drawFigure(go(band(), over(1.5), over(5.5)));
    expect(drawing.lines.length).toBe(2);
    expect(drawing.runs.map((r) => r.side)).toEqual(['face', 'back', 'face']);
  });
  it('shows its other side from behind, the same in the mirror, and its own again from the other end', () => {
    const figure = go(band(), over(1.5), over(3.5), over(5.5));
    expect(sides(figure)).toBe('fbfb');
    expect(sides(backView(figure))).toBe('bfbf');
    expect(sides(backView(backView(figure)))).toBe(sides(figure));
    expect(sides(mirror(figure))).toBe(sides(figure));
    const turned = go(figure, { kind: 'reverse', rope: 'a' }).ropes[0]!;
    expect([0.5, 2.5, 4.5, 6.5].map((at) => sideAt(turned, 8 - at)[0]).join('')).toBe('fbfb');
  });
  it('keeps where it is turned over through edits, and loses it with its construction', () => {
    const figure = go(band(), over(3.5));
    const more = go(figure, { kind: 'insert-point', strand: 'a', at: 1.5 });
    expect(more.ropes[0]!.flips).toEqual([4.5]);
    expect(go(figure, cordageOf('a', { construction: 'laid' })).ropes[0]!.flips).toBeUndefined();
    expect(go(figure, cordageOf('a', { ...WEBBING, name: 'strap' })).ropes[0]!.flips).toEqual([3.5]);
    const round = applyEdit(go(band(), cordageOf('a', {})), over(3.5));
    expect(round.ok ? '' : round.reason).toContain('Only flat webbing');
  });
  it('that is turned over inside its knot is found, outside it is not', () => {
    const { method } = openKnot('overhand.json');
    const flat = go(method.figure, cordageOf('a', WEBBING));
    const [first, last] = [0, 1].map((i) => crossingsOf(flat)[i ? crossingsOf(flat).length - 1 : 0]!);
    const at = (first!.first.at + first!.second.at) / 2;
    expect(diameterOf(flat.ropes[0]!)).toBe(1.4);
    expect(codes({ ...method, figure: flat })).not.toContain('webbing-twisted');
    expect(codes({ ...method, figure: go(flat, over(at)) })).toContain('webbing-twisted');
    expect(codes({ ...method, figure: go(flat, over(first!.first.at / 2)) })).not.toContain('webbing-twisted');
    expect(last).toBeDefined();
  });
});

describe('A break', () => {
  const { method } = openKnot('overhand.json');
  const [tail] = tailsOf(method.figure);
  const at = (tail!.from + tail!.to) / 2;
  const broken = (counts: number | undefined, place = at): Edit => ({
    kind: 'set-break',
    where: { strand: 'a', at: place },
    counts,
  });
  const refused = (edit: Edit): string => {
    const done = applyEdit(method.figure, edit);
    return done.ok ? 'done' : done.reason;
  };
  it('on a tail counts what its author says, in the rope’s own diameters, and no crossing changes', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 200, noNaN: true }), fc.constantFrom(0.5, 1, 2), (counts, diameter) => {
        const plain = go(method.figure, cordageOf('a', { diameter }));
        const figure = go(plain, broken(counts));
        expect(tailsOf(figure)[0]!.length).toBeCloseTo(tailsOf(plain)[0]!.length + counts, 6);
        expect(figure.ropes[0]!.weave).toBe(plain.ropes[0]!.weave);
        expect(tailsOf(go(figure, broken(undefined)))[0]!.length).toBeCloseTo(tailsOf(plain)[0]!.length, 6);
      }),
      { numRuns: 20 },
    );
  });
  it('on the standing part lengthens no tail; within the knot there is none', () => {
    const first = crossingsOf(method.figure)[0]!.first.at;
    expect(tailsOf(go(method.figure, broken(30, first / 2)))[0]!.length).toBeCloseTo(tail!.length, 6);
    expect(refused(broken(30, (first + tail!.from) / 2))).toContain('as long as it is');
    expect([0, -1, 201, Infinity].map((n) => refused(broken(n)))).toEqual(
      [0, -1, 201, Infinity].map((n) => `A break cannot count ${n} diameters.`),
    );
  });
  it('is drawn as a gap with two edges, follows what is laid on, and is kept in a file', () => {
    const figure = go(method.figure, broken(30));
    const drawing = drawFigure(figure);
    expect(drawing.lines.length).toBe(2);
    expect(drawing.box).toEqual(drawFigure(method.figure).box);
    const more = go(figure, { kind: 'insert-point', strand: 'a', at: 0.5 });
    expect(more.ropes[0]!.breaks![0]!.at).toBeCloseTo(at + 1, 6);
    const knot = { ...openKnot('overhand.json'), method: { ...method, figure } };
    const read = readKnot(JSON.parse(JSON.stringify(writeKnot(knot))));
    expect(read.ok && read.value.method.figure.ropes[0]!.breaks).toEqual([{ at, counts: 30 }]);
  });
  it('goes where more rope is laid on and crosses the knot: a break lies on a standing part or a tail', () => {
    const figure = go(method.figure, broken(30));
    const [rope] = figure.ropes;
    const [x, y] = rope!.points.at(-1)!;
    const aside = go(figure, { kind: 'lay', rope: 'a', points: [[x + 4, y]], pass: 'O' });
    expect(aside.ropes[0]!.breaks!.length).toBe(1);
    const between = (rope!.points[0]![0] + rope!.points[2]![0]) / 2;
    const across: Point[] = [
      [between, y - 3],
      [between, 16],
    ];
    const crossed = go(figure, { kind: 'lay', rope: 'a', points: across, pass: 'OO' });
    expect(crossingsOf(crossed).length).toBeGreaterThan(crossingsOf(figure).length);
    expect(crossed.ropes[0]!.breaks).toBeUndefined();
  });
  it('is what mends a tail that lacks much; a trimmed end lacks nothing', () => {
    const asked = (figure: Figure): ReturnType<typeof findingsOf> =>
      findingsOf({ ...method, figure }, { ...rules, tail: { diameters: 60, millimetres: 0 } }).filter(
        (f) => f.code === 'tail-short',
      );
    const [finding] = asked(method.figure);
    expect(finding!.fix!.label).toBe('Break the tail');
    expect(asked(go(method.figure, finding!.fix!.edit as Edit))).toEqual([]);
    const trimmed = go(method.figure, {
      kind: 'set-ends',
      rope: 'a',
      ends: ['standing', 'tail'],
      trimmed: [false, true],
    });
    expect(asked(trimmed)).toEqual([]);
    expect(tailsOf(trimmed)).toEqual([]);
    const back = go(trimmed, { kind: 'reverse', rope: 'a' }).ropes[0]!;
    expect([back.ends, back.trimmed]).toEqual([
      ['tail', 'standing'],
      [true, false],
    ]);
  });
});
