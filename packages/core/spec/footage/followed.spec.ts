import fc from 'fast-check';
import {
  followed,
  keysOf,
  looksLike,
  ON_FILM,
  onFilmTrouble,
  placeAt,
  steadied,
  steadyAt,
  steadyKeys,
  type FramePlace,
  type Grey,
  type SteadyKey,
} from '../../src/footage.js';

const [WIDTH, HEIGHT] = [160, 90];
const SHAPE = WIDTH / HEIGHT;

/** A bench with a grain of its own, moved by so many pixels: the same place of it looks the same in every picture. */
function bench(dx: number, dy: number, light = 0, grain = 1): Grey {
  const data = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y += 1)
    for (let x = 0; x < WIDTH; x += 1) {
      const [u, v] = [x - dx, y - dy];
      data[y * WIDTH + x] =
        120 +
        light +
        40 * Math.sin(0.31 * grain * u + 0.17 * v) +
        30 * Math.sin(0.12 * u - 0.41 * grain * v) +
        15 * Math.sin(0.7 * u + 0.9 * v);
    }
  return { width: WIDTH, height: HEIGHT, data };
}
const at = (x: number, y: number): FramePlace => [(x + 0.5) / WIDTH, (y + 0.5) / HEIGHT];

describe('a place that is followed', () => {
  it('is found where it has gone, to a part of a pixel, in other light too', () => {
    const look = looksLike(bench(0, 0), at(80, 45))!;
    fc.assert(
      fc.property(
        fc.double({ min: -18, max: 18, noNaN: true }),
        fc.double({ min: -14, max: 14, noNaN: true }),
        fc.integer({ min: -30, max: 30 }),
        (dx, dy, light) => {
          const [x, y] = followed(bench(dx, dy, light), look, at(80, 45))!;
          expect(Math.abs(x * WIDTH - 0.5 - 80 - dx)).toBeLessThan(0.4);
          expect(Math.abs(y * HEIGHT - 0.5 - 45 - dy)).toBeLessThan(0.4);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('is lost where something else lies, and cannot be followed where all looks alike, or at the edge', () => {
    const look = looksLike(bench(0, 0), at(80, 45))!;
    let state = 7;
    const noise = Uint8Array.from({ length: WIDTH * HEIGHT }, () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return state >>> 24;
    });
    expect(followed({ width: WIDTH, height: HEIGHT, data: noise }, look, at(80, 45))).toBeUndefined();
    const blank: Grey = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT).fill(128) };
    expect(followed(blank, look, at(80, 45))).toBeUndefined();
    expect(looksLike(blank, at(80, 45))).toBeUndefined();
    expect(looksLike(bench(0, 0), at(2, 45))).toBeUndefined();
  });

  it('has as few keys as lead where it went, and never more than so many', () => {
    const straight = Array.from({ length: 50 }, (_, i) => ({ at: i / 25, place: at(20 + i, 30 + i / 2) }));
    expect(keysOf(straight, ON_FILM.keys).length).toBe(2);
    const shaky = straight.map((k, i) => ({ ...k, place: at(60 + 9 * Math.sin(i), 40 + 7 * Math.cos(1.3 * i)) }));
    const keys = keysOf(shaky, ON_FILM.keys);
    expect(keys.length).toBeLessThanOrEqual(ON_FILM.keys);
    expect([keys[0], keys.at(-1)]).toEqual([shaky[0], shaky.at(-1)]);
    const close = keysOf(shaky, 1000);
    for (const k of shaky) {
      const [x, y] = placeAt(close, k.at);
      expect(Math.hypot(x - k.place[0], y - k.place[1])).toBeLessThan(0.002);
    }
  });
});

describe('a film that is held still', () => {
  /** Two marks of a bench, filmed by a hand that shakes: it turns, moves, and goes nearer. */
  const shake = (t: number, [x, y]: FramePlace): FramePlace => {
    const [turn, near] = [0.02 * Math.sin(7 * t), 1 + 0.02 * Math.sin(3 * t)];
    const [u, v] = [(x - 0.5) * SHAPE, y - 0.5];
    const [c, s] = [near * Math.cos(turn), near * Math.sin(turn)];
    return [0.5 + (c * u - s * v) / SHAPE + 0.015 * Math.sin(11 * t), 0.5 + s * u + c * v + 0.02 * Math.cos(5 * t)];
  };
  const [a, b, c]: FramePlace[] = [
    [0.2, 0.3],
    [0.8, 0.6],
    [0.4, 0.7],
  ];
  const keys = Array.from({ length: 100 }, (_, i): SteadyKey => {
    const time = i / 25;
    return { at: time, a: shake(time, a!), b: shake(time, b!) };
  });

  it('shows what does not move at one place, wherever in the frame it is', () => {
    const still = (time: number, place: FramePlace): FramePlace =>
      steadied(shake(time, place), steadyAt({ steady: keys }, time, SHAPE), SHAPE);
    for (const place of [a!, b!, c!]) {
      const first = still(0, place);
      for (const { at: time } of keys) {
        const [x, y] = still(time, place);
        expect(Math.hypot(x - first[0], y - first[1])).toBeLessThan(1e-9);
      }
    }
  });

  it('fills its picture: no edge of a frame comes into it', () => {
    for (const { at: time } of keys) {
      const move = steadyAt({ steady: keys }, time, SHAPE);
      const [l, t] = steadied([0, 0], move, SHAPE);
      const [r, low] = steadied([1, 1], move, SHAPE);
      expect(Math.max(l, t)).toBeLessThan(1e-9);
      expect(Math.min(r, low)).toBeGreaterThan(1 - 1e-9);
    }
  });

  it('is as it was filmed without places, or where both are one; keys that change nothing are left out', () => {
    expect(steadyAt({}, 1, SHAPE)).toBeUndefined();
    expect(steadyAt({ steady: keys.map((k) => ({ ...k, b: k.a })) }, 1, SHAPE)).toBeUndefined();
    expect(steadied([0.3, 0.4], undefined, SHAPE)).toEqual([0.3, 0.4]);
    const resting = keys.map((k) => ({ ...k, a: a!, b: b! }));
    expect(steadyKeys(resting)).toEqual([resting[0]!, resting.at(-1)!]);
    expect(steadyKeys(keys).length).toBeGreaterThan(20);
    // A long film at rest has a key every ten seconds, and is not compared with all of itself.
    const long = Array.from({ length: 15_000 }, (_, i) => ({ at: i / 25, a: a!, b: b! }));
    expect(steadyKeys(long).length).toBe(61);
  });

  it('is refused where its places are not in the order of time', () => {
    expect(onFilmTrouble({ steady: keys }, 4)).toBeUndefined();
    expect(onFilmTrouble({ steady: [...keys].reverse() }, 4)).toContain('held still');
    expect(onFilmTrouble({ steady: keys }, 2)).toContain('held still');
  });
});
