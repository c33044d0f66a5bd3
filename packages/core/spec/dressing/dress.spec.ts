import fc from 'fast-check';
import {
  backView,
  crossingsOf,
  curveOf,
  exitRelation,
  exitsOf,
  hitchesAbout,
  inspectionMarks,
  loosestFace,
  markPoints,
  mirror,
  parallelRuns,
  sayCrossing,
  sayExits,
  sharpBends,
  tailIsInLoop,
  weaveFigure,
  windingAbout,
  windingOfSpan,
  WORKSHOP_WORDS,
  type Exit,
  type Figure,
  type Point,
} from '../../src/index.js';
import { anyFigure, drawnFiles, drawnKnot, rope } from '../support/figures.js';

const demo = (file: string): Figure => drawnKnot(file).method.figure;

describe('Exits', () => {
  const exit = (direction: Point): Exit => ({ rope: 'a', end: 'tail', point: [0, 0], direction });
  it('together, opposite or across, by the angle between them', () => {
    const at = (degrees: number): Exit =>
      exit([Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 359 }), fc.integer({ min: -39, max: 39 }), (a, by) => {
        expect(exitRelation(at(a), at(a + by))).toBe('together');
        expect(exitRelation(at(a), at(a + 180 + by))).toBe('opposite');
      }),
    );
    expect(exitRelation(at(0), at(90))).toBe('across');
  });
  it('of any figure are its open ends that cross something, each pointing away by a unit vector', () => {
    fc.assert(
      fc.property(anyFigure, (f) => {
        const exits = exitsOf(f);
        expect(exits.length).toBeLessThanOrEqual(2 * f.ropes.length);
        for (const e of exits) expect(Math.hypot(...e.direction)).toBeCloseTo(1, 6);
      }),
      { numRuns: 20 },
    );
  });
  it('are said of a clove hitch and a reef as they lie', () => {
    expect(sayExits(demo('clove-hitch.json'))).toEqual(['The tail leaves opposite to its standing part.']);
    expect(sayExits(demo('reef.json')).at(-1)).toBe('The two tails leave on the same side.');
  });
  it('know a tail inside the loop from one outside, and only where there is a loop', () => {
    const bowline = demo('bowline.json');
    expect(tailIsInLoop(bowline, bowline.ropes[0]!)).toBeTrue();
    const overhand = demo('overhand.json');
    expect(tailIsInLoop(overhand, overhand.ropes[0]!)).toBeFalse();
  });
});

describe('Parallel runs', () => {
  const beside = (gap: number, turn = 0): Figure => ({
    ropes: [
      rope('a', [
        [-15, 0],
        [15, 0],
      ]),
      rope('b', [
        [-15, gap],
        [15, gap + turn],
      ]),
    ],
    hosts: [],
  });
  it('are found between strands that keep together, along their whole length', () => {
    const [run, ...more] = parallelRuns(beside(2));
    expect(more).toEqual([]);
    expect(run!.length).toBeGreaterThan(25);
    expect(run!.point[1]).toBeCloseTo(1, 6);
  });
  it('are not found between strands that are far, or run apart', () => {
    expect(parallelRuns(beside(5))).toEqual([]);
    expect(parallelRuns(beside(2, 25))).toEqual([]);
  });
  it('of a followed knot are long', () => {
    expect(parallelRuns(demo('water-knot.json'))[0]!.length).toBeGreaterThan(10);
  });
});

describe('Bends and gaps', () => {
  it('of a circle have its radius: sharp below one diameter, not above', () => {
    const arc = (r: number): Figure => ({
      ropes: [
        rope(
          'a',
          Array.from({ length: 33 }, (_, i): Point => [
            r * Math.cos((i * Math.PI) / 20),
            r * Math.sin((i * Math.PI) / 20),
          ]),
        ),
      ],
      hosts: [],
    });
    expect(sharpBends(arc(3))).toEqual([]);
    expect(sharpBends(arc(1.3))).toEqual([]);
    const [bend] = sharpBends(arc(0.7));
    expect(bend!.radius).toBeGreaterThan(0.5);
    expect(bend!.radius).toBeLessThan(0.8);
  });
  it('are the widest where the strands leave most room, the eye left out', () => {
    const bowline = demo('bowline.json');
    const { eyes: _, ...cut } = bowline.ropes[0]!;
    const whole: Figure = { ...bowline, ropes: [cut] };
    expect(loosestFace(bowline)!.across).toBeLessThan(loosestFace(whole)!.across);
    expect(
      loosestFace({
        ropes: [
          rope('a', [
            [-9, 0],
            [9, 0],
          ]),
        ],
        hosts: [],
      }),
    ).toBeUndefined();
  });
});

describe('Windings', () => {
  it('turn their sign in the mirror, keep it from behind, and add up along a rope', () => {
    const clove = demo('clove-hitch.json');
    const turns = windingAbout(clove, 'a', 'spar');
    expect(windingAbout(mirror(clove), 'a', 'spar')).toBe(-turns);
    expect(windingAbout(backView(clove), 'a', 'spar')).toBe(turns);
    const about = { strand: 'spar', from: 0, to: Infinity };
    const part = (from: number, to: number): number => windingOfSpan(clove, { strand: 'a', from, to }, about);
    expect(part(0, 8) + part(8, Infinity)).toBe(turns);
  });
  it('that go once to and fro are reversed, those that go on are not', () => {
    const zigzag = (over: (i: number) => boolean): Figure => {
      const f: Figure = {
        ropes: [
          rope(
            'a',
            [
              [-8, 9],
              [-6, -4],
              [-2, 4],
              [2, -4],
              [6, 4],
              [8, -9],
            ],
            { curve: 'straight' },
          ),
          rope(
            'b',
            [
              [-20, 0.1],
              [20, 0],
            ],
            { ends: ['standing', 'standing'] },
          ),
        ],
        hosts: [],
      };
      let i = 0;
      return weaveFigure(f, () => over(i++));
    };
    const way = (f: Figure): string | undefined =>
      hitchesAbout(f, { strand: 'a', from: 0, to: Infinity }, { strand: 'b', from: 0, to: Infinity })?.way;
    // Over going one way and under coming back is a turn; four such passes in step are two turns the same way round.
    expect(way(zigzag((i) => i % 2 === 0))).toBe('the same way');
    expect(way(zigzag(() => true))).toBe('reversed');
  });
});

describe('Inspection marks', () => {
  it('have ids of their own, words, and a place on the figure', () => {
    for (const file of drawnFiles) {
      const figure = demo(file);
      const marks = inspectionMarks(figure, WORKSHOP_WORDS);
      expect(new Set(marks.map((m) => m.id)).size)
        .withContext(file)
        .toBe(marks.length);
      for (const m of marks) {
        expect(m.text.length).toBeGreaterThan(10);
        expect(markPoints(figure, m).length).withContext(`${file} ${m.id}`).toBe(m.places.length);
      }
      for (const side of ['front', 'back'] as const) {
        const told = marks.filter((m) => m.kind === 'cross' && m.side === side);
        // Every crossing stands in a row of its own face, and no two rows say the same.
        const numbers = new Set(told.flatMap((m) => m.crossings ?? []));
        expect(numbers.size).toBe(crossingsOf(figure).length);
        expect(new Set(told.map((m) => m.text)).size).toBe(told.length);
      }
    }
  });
  it('say of a crossing from behind the contrary of what they say from in front', () => {
    for (const file of drawnFiles) {
      const figure = demo(file);
      for (const c of crossingsOf(figure)) {
        const [front, back] = (['front', 'back'] as const).map((s) => sayCrossing(figure, c.number, WORKSHOP_WORDS, s));
        const [top, under] = front!.split(' lies over ');
        expect(back).toBe(`${under!} lies over ${top!}`);
      }
    }
    expect(sayCrossing(demo('overhand.json'), 99, WORKSHOP_WORDS)).toBe('');
  });
  it('have no place once the figure has lost it', () => {
    const figure = demo('overhand.json');
    const beyond = { place: { strand: 'a', at: curveOf(figure.ropes[0]!).pieces.length + 5 } };
    expect(markPoints(figure, { places: [beyond.place] })).toEqual([]);
    expect(markPoints(figure, { places: [{ strand: 'gone', at: 1 }] })).toEqual([]);
  });
});
