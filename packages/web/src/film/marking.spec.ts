import { askedIn, back, frameAt, pressed, withFrame, type Marking } from './marking';

const mark = { crossing: { first: { strand: 'a', at: 1 }, second: { strand: 'a', at: 4 } }, over: 'first' } as const;

describe('A mark in the making', () => {
  it('asks for the crossing, then for both of its strands, then for which is over', () => {
    let now: Marking = { crossing: 3 };
    const asked = [askedIn(now)];
    for (let i = 0; i < 3; i += 1) {
      now = pressed(now, [0.1 * i, 0.5]);
      asked.push(askedIn(now));
    }
    expect(asked).toEqual(['point', 'first', 'second', 'over']);
    expect(pressed(now, [0.9, 0.9])).toBe(now);
  });
  it('may leave the directions out, and goes back a press at a time', () => {
    const placed = pressed({ crossing: 1 }, [0.5, 0.5]);
    expect(askedIn({ ...placed, short: true })).toBe('over');
    expect(back({ ...placed, short: true })).toEqual(placed);
    const full = pressed(pressed(placed, [0.6, 0.5]), [0.5, 0.6]);
    expect(askedIn(back(full))).toBe('second');
    expect(back(back(full))).toEqual(placed);
    expect(back(placed)).toEqual({ crossing: 1 });
  });
  it('belongs to its frame; frames stand in time, and one without marks is none', () => {
    const later = withFrame([], 2, (f) => ({ ...f, marks: [mark] }));
    const both = withFrame(later, 1, (f) => ({ ...f, marks: [mark] }));
    expect(both.map((f) => f.at)).toEqual([1, 2]);
    expect(frameAt(both, 1.005)?.at).toBe(1);
    expect(frameAt(both, 1.02)).toBeUndefined();
    expect(withFrame(both, 1.004, (f) => ({ ...f, marks: [] }))).toEqual(later);
  });
});
