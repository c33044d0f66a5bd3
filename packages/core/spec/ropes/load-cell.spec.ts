import fc from 'fast-check';
import { NO_TRACE, readTraceCsv, simulatedPull, toTraceCsv, withReadings, type Reading } from '@foxtrail/core/ropes';

const pull = (seed: number, breaksAt = 12): Reading[] => [...simulatedPull({ breaksAt, rate: 2, often: 20, seed })];

describe('A trace of a load cell', () => {
  it('has its peak, its slips and its break where the simulated pull has them', () => {
    for (let seed = 1; seed <= 30; seed += 1) {
      const trace = withReadings(NO_TRACE, pull(seed));
      expect(Math.abs(trace.peak!.kn - 12))
        .withContext(`seed ${seed}`)
        .toBeLessThan(0.3);
      expect(trace.broke!.at).toBeGreaterThan(trace.peak!.at - 0.2);
      expect(trace.slips.length).withContext(`seed ${seed}`).toBe(2);
      expect(trace.leftOut).toBe(0);
    }
  });

  it('is the same in whatever bursts it comes', () => {
    const all = pull(3);
    const whole = withReadings(NO_TRACE, all);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: all.length }), { maxLength: 6 }), (cuts) => {
        const places = [0, ...cuts.sort((a, b) => a - b), all.length];
        const made = places.slice(1).reduce((t, end, i) => withReadings(t, all.slice(places[i], end)), NO_TRACE);
        expect(made).toEqual(whole);
      }),
      { numRuns: 20 },
    );
  });

  it('leaves out what cannot be, counts it, and goes on', () => {
    const nonsense = [null, 'x', { at: NaN, kn: 1 }, { at: -1, kn: 1 }, { at: 0.5, kn: 1e9 }, { at: 0.5, kn: -40 }, {}];
    const all = pull(5);
    const mixed = all.flatMap((r, i) => (i % 9 === 0 ? [nonsense[(i / 9) % nonsense.length], r] : [r]));
    const trace = withReadings(NO_TRACE, mixed);
    expect(trace.readings).toEqual(all);
    expect(trace.leftOut).toBe(mixed.length - all.length);
    // What comes twice, or late after a line was cut, is left out too.
    expect(withReadings(trace, all.slice(0, 10)).leftOut).toBe(trace.leftOut + 10);
  });

  it('has not broken while it only slips or is let go slowly by hand', () => {
    const held = withReadings(NO_TRACE, [
      { at: 0.1, kn: 2 },
      { at: 0.2, kn: 3 },
      { at: 0.3, kn: 2.6 },
      { at: 0.4, kn: 3.2 },
    ]);
    expect(held.broke).toBeUndefined();
    expect(held.slips.length).toBe(1);
    expect(NO_TRACE.peak).toBeUndefined();
  });

  it('goes out as CSV and comes in again; one that was cut off is read as far as it goes', () => {
    const trace = withReadings(NO_TRACE, pull(8));
    const text = toTraceCsv(trace);
    const again = readTraceCsv(text);
    expect(again.readings.length).toBe(trace.readings.length);
    expect(again.peak?.kn).toBeCloseTo(trace.peak!.kn, 3);
    const cut = readTraceCsv(text.slice(0, text.length / 2));
    expect(cut.readings.length).toBeGreaterThan(10);
    expect(cut.broke).toBeUndefined();
    // Semicolons, decimal commas, no heading.
    expect(readTraceCsv('0,1;1,5\n0,2;1,75\nEND\n')).toEqual(
      jasmine.objectContaining({
        readings: [
          { at: 0.1, kn: 1.5 },
          { at: 0.2, kn: 1.75 },
        ],
        leftOut: 1,
      }),
    );
    expect(readTraceCsv('').readings).toEqual([]);
    expect(readTraceCsv('a picture').readings).toEqual([]);
  });
});
