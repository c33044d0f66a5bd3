/** A ring is gone through, and what is passed on both sides of it is said so. */
import {
  composeStep,
  crossingsOf,
  methodFor,
  movesIn,
  stepsOf,
  stretchesOf,
  weaveFigure,
  WORKSHOP_WORDS,
  type Figure,
  type Host,
  type Point,
} from '../../src/index.js';
import { edited } from '../support/figures.js';

const RING: Host = {
  id: 'ring',
  kind: 'ring',
  size: 1.2,
  points: Array.from({ length: 10 }, (_, i): Point => {
    const turn = (i * Math.PI) / 5;
    return [8 * Math.sin(turn), -8 * Math.cos(turn)];
  }),
};

/** A rope led straight across a ring: over its rim or under it, as the letters say, in the order in which it comes to them. */
function across(letters: string): Figure {
  const points: Point[] = [
    [-20, 0.4],
    [0, 0],
    [20, -0.4],
  ];
  const rope = { id: 'a', points, curve: 'smooth', closed: false, ends: ['standing', 'tail'], weave: '' } as const;
  return weaveFigure({ ropes: [rope], hosts: [RING] }, (m, i) => (letters[i] === 'O') === (m.first.strand === 'a'));
}
const texts = (figure: Figure): string[] => {
  const method = edited(methodFor(figure), { kind: 'propose-halts' });
  return stepsOf(method).map((s) => composeStep(method, s.index, WORKSHOP_WORDS).text);
};

describe('A ring', () => {
  it('is gone up or down through where the rope is under one side of it and over the other', () => {
    expect(texts(across('UO'))).toEqual([jasmine.stringMatching(/through the ring from behind/)]);
    expect(texts(across('OU'))).toEqual([jasmine.stringMatching(/through the ring from in front/)]);
  });
  it('is passed on both its sides where the rope goes in front of all of it, or behind all of it', () => {
    expect(texts(across('OO'))).toEqual([jasmine.stringMatching(/over both sides of the ring/)]);
    expect(texts(across('UU'))).toEqual([jasmine.stringMatching(/behind both sides of the ring/)]);
  });
  it('has every crossing told, whichever way it is passed', () => {
    for (const letters of ['OO', 'OU', 'UO', 'UU']) {
      const figure = across(letters);
      const method = edited(methodFor(figure), { kind: 'propose-halts' });
      const moves = stretchesOf(method).flatMap((s) => movesIn(method, s));
      expect(moves.map((m) => m.ways).join('')).toBe(letters);
      expect(moves.flatMap((m) => m.crossings).length).toBe(crossingsOf(figure).length);
    }
  });
});
