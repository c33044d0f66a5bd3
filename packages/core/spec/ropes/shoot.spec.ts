import fc from 'fast-check';
import {
  contrastOf,
  distanceFor,
  fieldAt,
  fittingDiameters,
  inPicture,
  LEAST_ROPE_PX,
  toldApartFrom,
  VISIONS,
} from '@foxtrail/core/ropes';

const framing = { fieldMm: 480, filmedPx: 1920, seenPx: 390 };

describe('A rope in the picture', () => {
  it('has its share of the field in pixels: 12 mm of 480 in 1920 are 48', () => {
    const seen = inPicture(12, framing);
    expect(seen.filmedPx).toBeCloseTo(48, 9);
    expect(seen.seenPx).toBeCloseTo(9.75, 9);
    expect(seen.is).toBe('too small');
    expect(seen.why).toContain('390 mm');
    // Three pixels of 390 over 480 mm.
    expect(seen.leastGapMm).toBeCloseTo(3.692, 3);
    expect(inPicture(16, framing).is).toBe('well');
    expect(inPicture(60, framing).is).toBe('too large');
  });

  it('is well just between the diameters that fit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 150, max: 3000 }),
        fc.integer({ min: 320, max: 1920 }),
        fc.double({ min: 1, max: 100, noNaN: true }),
        (fieldMm, seenPx, mm) => {
          const frame = { fieldMm, filmedPx: 1920, seenPx };
          const [least, most] = fittingDiameters(frame);
          if (mm < least * 0.999) expect(inPicture(mm, frame).is).toBe('too small');
          if (mm > least * 1.001 && mm < most * 0.999) expect(inPicture(mm, frame).is).toBe('well');
          expect(inPicture(least, frame).seenPx).toBeCloseTo(LEAST_ROPE_PX, 6);
        },
      ),
    );
  });

  it('is framed by distance and angle: at 500 mm a lens of 90° sees a metre', () => {
    expect(fieldAt(500, Math.PI / 2)).toBeCloseTo(1000, 9);
    expect(distanceFor(fieldAt(730, 1.1), 1.1)).toBeCloseTo(730, 9);
  });
});

describe('Two colours', () => {
  it('of black and white are as far apart as can be, of one colour not at all', () => {
    // WCAG 2.2: 21 to 1; CIEDE2000 of black and white: 100.
    const most = contrastOf('#000000', '#ffffff');
    expect(most.ratio).toBeCloseTo(21, 9);
    for (const v of VISIONS) expect(most.apart[v]).toBeCloseTo(100, 0);
    expect(contrastOf('#8f2f35', '#8f2f35').lost).toEqual([...VISIONS]);
  });
  it('of dark red and dark green are told apart by most, and not by who does not see red or green', () => {
    const { lost, ratio } = contrastOf('#8f2f35', '#31573f');
    expect(lost).toEqual(['protanopia', 'deuteranopia']);
    expect(ratio).toBeLessThan(1.1);
  });
});

describe('A better rope', () => {
  const rope = (name: string, colour: string, diameterMm: number) =>
    ({ name, colour, diameterMm, second: null, mark: null, construction: 'kernmantle' }) as const;
  it('is one of about that size that everybody tells from the other and from the board', () => {
    const stock = [
      rope('red', '#8f2f35', 10),
      rope('slate', '#5d6f80', 10),
      rope('straw', '#d9bd5e', 10.5),
      rope('thin straw', '#d9bd5e', 3),
    ];
    const better = toldApartFrom(stock, [rope('green', '#31573f', 10)], '#f4eee2', 10).map((r) => r.name);
    expect(better).toContain('straw');
    expect(better).not.toContain('red');
    expect(better).not.toContain('thin straw');
  });
});
