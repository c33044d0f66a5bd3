import fc from 'fast-check';
import {
  calloutFrom,
  calloutsAt,
  footageTrouble,
  endedAt,
  keyed,
  mayKey,
  nearOf,
  ON_FILM,
  onFilm,
  onFilmTrouble,
  passageAt,
  passageFrom,
  placeAt,
  stepAt,
  withPassage,
  type FilmPassage,
  type Footage,
  type PlaceKey,
} from '../../src/footage.js';

const share = fc.double({ min: 0, max: 1, noNaN: true });
const keys: fc.Arbitrary<PlaceKey[]> = fc
  .array(fc.record({ at: fc.integer({ min: 0, max: 200 }), place: fc.tuple(share, share) }), {
    minLength: 1,
    maxLength: 8,
  })
  .map((list) => {
    const byTime = new Map(list.map((k) => [k.at, k]));
    return [...byTime.values()].sort((a, b) => a.at - b.at).map((k) => ({ ...k, at: k.at / 10 }));
  });
const passage: fc.Arbitrary<FilmPassage> = fc
  .record({
    from: fc.integer({ min: 0, max: 180 }),
    long: fc.integer({ min: 2, max: 60 }),
    speed: fc.constantFrom(0.25, 0.5, 1),
  })
  .map(({ from, long, speed }) => ({ from: from / 10, to: (from + long) / 10, speed }));
const film = (more: Partial<Footage> = {}): Footage => ({
  film: 'a'.repeat(64),
  name: 'Take 1',
  duration: 20,
  frames: [],
  ...more,
});

describe('What is laid over a film', () => {
  it('follows a place from key to key: there at each key, between two of them straight on, at rest before and after', () => {
    fc.assert(
      fc.property(keys, fc.double({ min: -5, max: 30, noNaN: true }), (list, time) => {
        for (const k of list) placeAt(list, k.at).forEach((v, i) => expect(v).toBeCloseTo(k.place[i]!, 9));
        const [first, last] = [list[0]!, list.at(-1)!];
        if (time <= first.at) expect(placeAt(list, time)).toEqual(first.place);
        if (time >= last.at) expect(placeAt(list, time)).toEqual(last.place);
        const [a, b] = [list.filter((k) => k.at <= time).at(-1), list.find((k) => k.at > time)];
        if (!a || !b) return;
        const middle = placeAt(list, (a.at + b.at) / 2);
        middle.forEach((v, i) => expect(v).toBeCloseTo((a.place[i]! + b.place[i]!) / 2, 9));
      }),
    );
  });
  it('is shown from its first key until its end, and keeps one place for a frame', () => {
    const callout = calloutFrom('label', 'Nipping turn', 3, [0.2, 0.3], 20);
    expect(calloutsAt({ callouts: [callout] }, 2.9)).toEqual([]);
    expect(calloutsAt({ callouts: [callout] }, 4)).toEqual([
      { kind: 'label', text: 'Nipping turn', place: [0.2, 0.3] },
    ]);
    expect(calloutsAt({ callouts: [callout] }, 5.1)).toEqual([]);
    const again = keyed(keyed(callout, 6, [0.4, 0.5]), 6.001, [0.6, 0.5]);
    expect(again.keys.map((k) => k.place)).toEqual([
      [0.2, 0.3],
      [0.6, 0.5],
    ]);
    expect(again.until).toBeGreaterThan(6);
    const full = {
      ...callout,
      keys: Array.from({ length: ON_FILM.keys }, (_, i) => ({ at: i, place: [0, 0] as const })),
    };
    expect([mayKey(callout, 6), mayKey(full, 3), mayKey(full, 3.5)]).toEqual([true, true, false]);
  });
  it('is a ruler between two places: put elsewhere it goes as a whole, and its end alone where that is asked', () => {
    const ruler = calloutFrom('ruler', '8 diameters', 3, [0.2, 0.3], 20);
    const at = (c: typeof ruler, t: number) => calloutsAt({ callouts: [c] }, t)[0]!;
    expect(at(ruler, 4)).toEqual(jasmine.objectContaining({ place: [0.2, 0.3], end: [0.4, 0.3] }));
    const ended = endedAt(ruler, 4, [0.5, 0.8]);
    expect(at(ended, 4).end).toEqual([0.5, 0.8]);
    // It goes to the right by a tenth in a second.
    const moved = keyed(ended, 4, [0.3, 0.3]);
    const [half] = [at(moved, 3.5)];
    [0.25, 0.3].forEach((v, i) => expect(half.place[i]).toBeCloseTo(v, 9));
    [0.55, 0.8].forEach((v, i) => expect(half.end![i]).toBeCloseTo(v, 9));
    // What is no ruler has no end.
    expect(at(calloutFrom('ring', '', 3, [0.2, 0.3], 20), 4).end).toBeUndefined();
  });
  it('has one passage at a time: a new one makes room for itself among the others, and loses none of the rest', () => {
    fc.assert(
      fc.property(fc.array(passage, { maxLength: 8 }), (list) => {
        let all: FilmPassage[] = [];
        for (const p of list) {
          const before = all;
          all = withPassage(all, p);
          expect(all).toContain(p);
          expect(onFilmTrouble({ passages: all }, 30)).toBeUndefined();
          // What lies apart from it stays as it was.
          for (const q of before) if (q.to <= p.from || q.from >= p.to) expect(all).toContain(q);
          for (let t = 0.05; t < 25; t += 0.1) {
            const now = passageAt({ passages: all }, t);
            if (t >= p.from && t < p.to) expect(now).toBe(p);
            else if (now) expect(now.speed).toBe(passageAt({ passages: before }, t)?.speed);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
  it('is enlarged within the frame: what is seen never leaves it, and the place is in it', () => {
    fc.assert(
      fc.property(share, share, fc.constantFrom(1, 1.5, 2, 3), (x, y, times) => {
        const { left, top } = nearOf({ place: [x, y], times });
        for (const [edge, v] of [
          [left, x],
          [top, y],
        ] as const) {
          expect(edge).toBeGreaterThanOrEqual(-1e-12);
          expect(edge + 1 / times).toBeLessThanOrEqual(1 + 1e-12);
          expect(v).toBeGreaterThanOrEqual(edge - 1e-9);
          expect(v).toBeLessThanOrEqual(edge + 1 / times + 1e-9);
        }
      }),
    );
  });
  it('tells the step that is tied', () => {
    const steps = [
      { step: 0, at: 1 },
      { step: 2, at: 5 },
    ];
    expect([0, 1, 4.9, 5, 19].map((t) => stepAt(steps, t))).toEqual([undefined, 0, 0, 2, 2]);
    expect(stepAt(undefined, 3)).toBeUndefined();
  });
  it('is refused where the film is not, with the place', () => {
    const callout = calloutFrom('ring', 'Collar', 3, [0.2, 0.3], 20);
    expect(footageTrouble([film({ callouts: [callout], passages: [{ from: 1, to: 2 }] })])).toBeUndefined();
    const beyond = footageTrouble([film({ callouts: [{ ...callout, until: 40 }] })]);
    expect(beyond?.reason).toContain('Collar');
    const overlapping = [
      { from: 1, to: 3 },
      { from: 2, to: 4 },
    ];
    expect(footageTrouble([film({ passages: overlapping })])?.reason).toContain('2.0 s');
    expect(footageTrouble([film({ passages: [{ from: 3, to: 3 }] })])).toBeDefined();
    expect(passageFrom(19.9, 20)).toBeUndefined();
    expect(passageFrom(19, 20)).toEqual({ from: 19, to: 20, speed: 0.5 });
  });
  it('leaves no empty lists behind', () => {
    expect(
      onFilm(film({ callouts: [calloutFrom('label', 'x', 1, [0, 0], 20)] }), { callouts: [], passages: [] }),
    ).toEqual(film());
  });
});
