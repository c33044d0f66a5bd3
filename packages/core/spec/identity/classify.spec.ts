import {
  applyEdit,
  backView,
  classOf,
  DEFAULT_TAIL_RULE,
  findingsOf,
  finishedFigure,
  grippingTurns,
  mirror,
  passagesOf,
  ridingTurns,
  spillTest,
  WORKSHOP_WORDS,
  type Classified,
  type Figure,
  type Point,
  type PullSide,
} from '../../src/index.js';
import { drawnKnot, openKnot, rope } from '../support/figures.js';

const classed = (f: Figure): Classified => {
  const found = classOf(f);
  if (!found.ok) throw new Error(found.reason);
  return found.value;
};

/** A noose as riggers tie it: an overhand of the end about the standing part, which runs through it. */
const NOOSE_POINTS: readonly Point[] = [
  [30.4, -2.2],
  [20.4, -1.5],
  [11.4, -1.15],
  [3.2, -1.15],
  [0, -1.15],
  [-5, -2.2],
  [-10, -4.8],
  [-15, -4.6],
  [-18, 0],
  [-15, 4.6],
  [-10, 4.8],
  [-5, 2.2],
  [0, 1.15],
  [3.2, 1.15],
  [7, 1.15],
  [10.4, -0.7],
  [10.8, -4.6],
  [7.8, -7.6],
  [3.2, -8.4],
  [0, -8.2],
  [-2.6, -6.4],
  [-1.6, -3.6],
  [2.07, 3.53],
  [3.2, 4],
  [4.33, 3.53],
  [5.8, -3.9],
  [7.6, -7],
  [10.4, -11.2],
  [15.4, -14.2],
  [22.4, -15.4],
];
const NOOSE_WEAVE = 'OOUUOUUOOUUO';
const noose: Figure = {
  ropes: [rope('a', NOOSE_POINTS, { weave: NOOSE_WEAVE, eyes: [8] })],
  hosts: [],
};

describe('The class of a knot', () => {
  it('of a noose says that its standing part runs through, and with its ends exchanged that its tail slips out', () => {
    expect(classed(noose)).toEqual(jasmine.objectContaining({ class: 'noose', runs: 'standing part' }));
    expect(classed(mirror(noose)).runs).toBe('standing part');
    const exchanged = applyEdit(noose, { kind: 'set-ends', rope: 'a', ends: ['tail', 'standing'] });
    if (!exchanged.ok) throw new Error(exchanged.reason);
    expect(classed(exchanged.value.figure)).toEqual(jasmine.objectContaining({ class: 'noose', runs: 'tail' }));
    // Without its eye it is the stopper that is tied in it, or nothing, as the ends lie.
    const { eyes: _eyes, ...bare } = noose.ropes[0]!;
    expect(classed({ ropes: [bare], hosts: [] }).class).not.toBe('noose');
  });
  it('of the demo’s knots is the one they are taught as', () => {
    const classes: Readonly<Record<string, string>> = {
      'bowline.json': 'loop in the end',
      'clove-hitch.json': 'hitch',
      'figure-eight.json': 'stopper',
      'reef.json': 'bend',
      'sheet-bend.json': 'bend',
      'rolling-hitch.json': 'hitch',
    };
    for (const [file, value] of Object.entries(classes))
      expect(classed(openKnot(file).method.figure).class)
        .withContext(file)
        .toBe(value as Classified['class']);
  });
  it('says of every host whether the knot spills without it', () => {
    expect(spillTest(drawnKnot('clove-hitch.json').method.figure).map((s) => s.spills)).toEqual([true]);
    expect(spillTest(noose)).toEqual([]);
  });
});

describe('Riding turns', () => {
  const { figure } = drawnKnot('rolling-hitch.json').method;
  const riding = (f: Figure): ReturnType<typeof ridingTurns> => ridingTurns(f, f.ropes[0]!, f.hosts[0]!);
  it('change their side in the mirror, and only that', () => {
    const [own, other] = [riding(figure), riding(mirror(figure))];
    expect(own).toBeDefined();
    expect(other!.count).toBe(own!.count);
    expect(new Set([own!.side, other!.side])).toEqual(new Set(['left', 'right']));
  });
  it('lie on the other side than the hitch that is laid after them', () => {
    for (const f of [figure, mirror(figure)]) {
      const onHost = passagesOf(f, f.ropes[0]!.id).filter((p) => p.other.strand === f.hosts[0]!.id);
      const [standing, hitch] = [onHost[0]!.crossing.point[0], onHost.at(-1)!.crossing.point[0]];
      expect(riding(f)!.side).toBe(hitch > standing ? 'left' : 'right');
    }
  });
});

describe('Turns that grip a standing part', () => {
  const { method } = drawnKnot('taut-line-hitch.json');
  const rules = { tail: DEFAULT_TAIL_RULE, cordMm: 10, words: WORKSHOP_WORDS };
  const slides = (pull: PullSide): string[] =>
    findingsOf(method, { ...rules, pull }).flatMap((f) => (f.code === 'riding-side' ? [f.title] : []));
  it('of the taut-line lie toward its spar, in the mirror and from behind too', () => {
    const figure = finishedFigure(method);
    for (const f of [figure, mirror(figure), backView(figure)])
      expect(grippingTurns(f, f.ropes[0]!)).toEqual(jasmine.objectContaining({ count: 2, side: 'toward' }));
  });
  it('hold a pull toward it, and an away pull is found', () => {
    expect(slides('toward')).toEqual([]);
    expect(slides('away')).toEqual(['The turns lie toward the spar, against the pull']);
    // Along a spar it is not pulled at all.
    expect(slides('left')).toEqual([]);
  });
  it('are none of a hitch about a spar, nor of a bend', () => {
    for (const file of ['clove-hitch.json', 'rolling-hitch.json', 'sheet-bend.json', 'overhand.json']) {
      const figure = finishedFigure(drawnKnot(file).method);
      for (const r of figure.ropes) expect(grippingTurns(figure, r)).withContext(file).toBeUndefined();
    }
  });
});
