import { nextFrame } from './film-frame';

describe('The frame next to the one that is shown', () => {
  // As a camera films that takes its time in poor light.
  const times = [0, 0.033, 0.067, 0.2, 0.433, 0.466];

  it('is the one after or before it, however long each is shown, and is gone to well within', () => {
    times.forEach((shown, i) => {
      for (const way of [1, -1] as const) {
        const next = nextFrame(times, shown, way);
        const at = times[i + way];
        expect(next?.at).toBe(at);
        if (!next) continue;
        expect(next.within).toBeGreaterThan(at! + 0.004);
        expect(next.within).toBeLessThan(times[i + way + 1] ?? Infinity);
      }
    });
  });

  it('is found from what a player tells of a frame, rounded as it may be', () => {
    expect(nextFrame(times, 0.0667, 1)?.at).toBe(0.2);
    expect(nextFrame(times, 0.0674, -1)?.at).toBe(0.033);
    expect(nextFrame(times, 0.3, -1)?.at).toBe(0.067);
  });

  it('is none where none is known', () => {
    expect(nextFrame([], 1, 1)).toBeUndefined();
    expect(nextFrame(times, 0.466, 1)).toBeUndefined();
    expect(nextFrame(times, 0, -1)).toBeUndefined();
    expect(nextFrame(times, -1, 1)).toBeUndefined();
  });
});
