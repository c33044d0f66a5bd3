import {
  composeStep,
  contradictionsOf,
  lastAt,
  methodFor,
  mirror,
  WORKSHOP_WORDS,
  type Figure,
  type Method,
  type Point,
} from '../../src/index.js';
import { edited, EMPTY, go, rope, SPAR } from '../support/figures.js';

/** A rope that crosses a spar, and is then wound round it so often, on or back. */
const wound = (turns: number, direction: 'on' | 'back'): { method: Method; from: number } => {
  const led = go(EMPTY, SPAR, {
    kind: 'add-rope',
    rope: rope('a', [
      [-2, 20],
      [-2, 8],
      [-2, -6],
      [2, -8],
      [6, -6],
    ]),
  });
  const from = lastAt(led.ropes[0]!);
  const figure = go(led, {
    kind: 'wrap',
    rope: 'a',
    about: [{ strand: 'spar', at: 0.55 }],
    turns,
    direction,
    first: 'O',
    spacing: 3,
  });
  return { method: methodFor(figure), from };
};
const told = (turns: number, direction: 'on' | 'back'): string => {
  const { method, from } = wound(turns, direction);
  const halted = [from, Infinity].reduce((m, at) => edited(m, { kind: 'place-halt', leader: 0, at }), method);
  return composeStep(halted, 1, WORKSHOP_WORDS).text;
};

describe('Turns in words', () => {
  it('are as many as are laid', () => {
    expect(told(2, 'on')).toMatch(/\btwice round the spar\b/);
    expect(told(3, 'on')).toMatch(/\bthree times round the spar\b/);
    expect(told(4, 'on')).toMatch(/\bfour times round the spar\b/);
  });
  it('go away from the standing part, or toward it, as they are laid along the spar', () => {
    const ways = [told(3, 'on'), told(3, 'back')];
    expect(ways.filter((t) => t.includes('away from the standing part')).length)
      .withContext(ways.join(' | '))
      .toBe(1);
    // The standing part crosses the spar on the left, and the turns begin to the right of it.
    const { method } = wound(3, 'on');
    const xs = method.figure.ropes[0]!.points.slice(5).map((p: Point) => p[0]);
    const away = (xs.at(-1) ?? 0) > (xs[0] ?? 0);
    expect(told(3, 'on').includes('away from the standing part')).toBe(away);
    expect(told(3, 'back').includes('toward the standing part')).toBe(away);
  });
});

describe('The way round in an author’s words', () => {
  // Laid from the left over the top to the right: as the hands of a clock go, as seen on the screen.
  const arc: Point[] = Array.from({ length: 9 }, (_, i): Point => [
    -10 * Math.cos((i * Math.PI) / 8),
    -10 * Math.sin((i * Math.PI) / 8),
  ]);
  const says = (figure: Figure, text: string): readonly string[] => {
    const halted = edited(methodFor(figure), { kind: 'place-halt', leader: 0, at: Infinity });
    return contradictionsOf(edited(halted, { kind: 'set-text', index: 0, text }), 0, WORKSHOP_WORDS).map(
      (c) => c.instead ?? '',
    );
  };
  it('is the way of a clock as seen on the screen', () => {
    const clockwise: Figure = { ropes: [rope('a', arc)], hosts: [] };
    expect(says(clockwise, 'Turn it clockwise.')).toEqual([]);
    expect(says(clockwise, 'Turn it anticlockwise.')).toEqual(['clockwise']);
    expect(says(clockwise, 'Turn it counter-clockwise.')).toEqual(['clockwise']);
    const other = mirror(clockwise);
    expect(says(other, 'Turn it anticlockwise.')).toEqual([]);
    expect(says(other, 'Turn it clockwise.')).toEqual(['anticlockwise']);
  });
});
