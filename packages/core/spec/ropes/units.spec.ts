import fc from 'fast-check';
import {
  ADULTS,
  BODY_MEASURES,
  bodyLength,
  fromKilonewtons,
  fromMillimetres,
  inKilonewtons,
  inMillimetres,
  readForce,
  readLength,
  sayMm,
  UNITS_OF_FORCE,
  UNITS_OF_LENGTH,
} from '@foxtrail/core/ropes';

const mm = (text: string, diameterMm?: number): number => {
  const read = readLength(text, { diameterMm });
  if (!read.ok) throw new Error(`${text}: ${read.reason}`);
  return read.value.mm;
};
const reasonOf = (text: string): string => {
  const read = readLength(text);
  return read.ok ? '' : `${read.reason} ${read.remedy}`;
};

describe('Lengths', () => {
  it('are read as authors write them', () => {
    const read: readonly (readonly [string, number])[] = [
      ['1 1/2 ft', 457.2],
      ['4"', 101.6],
      [`5' 6"`, 1676.4],
      ['2 ft 6 in', 762],
      ['½ m', 500],
      ['1½ in', 38.1],
      ['3/8 in', 9.525],
      ['2.5m', 2500],
      ['1,5 m', 1500],
      ['2 m 30 cm', 2300],
      ['two and a half metres', 2500],
      ['half a metre', 500],
      ['a fathom', 1828.8],
      ['Three Fathoms', 5486.4],
      ['1-1/2 in', 38.1],
    ];
    for (const [text, length] of read) expect(mm(text)).withContext(text).toBeCloseTo(length, 6);
    expect(mm('12 d', 11)).toBe(132);
  });

  it('that are none are refused, with what is odd about them and how to mend it', () => {
    expect(reasonOf('a forearm and a bit')).toContain('“bit”');
    expect(reasonOf('1,500 mm')).toContain('Write 1500 or 1.500');
    expect(reasonOf('-3 m')).toContain('less than nothing');
    expect(reasonOf('2 ft 30 cm')).toContain('mixes');
    expect(reasonOf('3')).toContain('no unit');
    expect(reasonOf('12 d')).toContain('thick');
    expect(reasonOf('  ')).toContain('Nothing');
    expect(reasonOf('20000 m')).toContain('longer than ropes are');
    expect(reasonOf('3 knots')).toContain('“knots” is no unit');
    expect(reasonOf('1/0 m')).toContain('no number');
  });

  it('go from unit to unit and back', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 1e5, noNaN: true }), fc.constantFrom(...UNITS_OF_LENGTH), (n, unit) => {
        expect(fromMillimetres(inMillimetres(n, unit), unit) / n).toBeCloseTo(1, 9);
      }),
    );
  });

  it('that are said are read back, as near as they are said', () => {
    const near = { mm: 0.51, cm: 0.51, m: 5.1, in: 1.6, ft: 1.6, fathom: 9.2 };
    fc.assert(
      fc.property(fc.double({ min: 20, max: 90_000, noNaN: true }), fc.constantFrom(...UNITS_OF_LENGTH), (n, unit) => {
        expect(Math.abs(mm(sayMm(n, unit)) - n))
          .withContext(sayMm(n, unit))
          .toBeLessThanOrEqual(near[unit]);
      }),
    );
  });

  it('are never read from any text without an answer', () => {
    const mark = fc.constantFrom(
      ...'0123456789 ./,-\'"½mftindpalms and a half'.split(''),
      'inch',
      'palm',
      ' and ',
      '×',
    );
    fc.assert(
      fc.property(fc.array(mark, { maxLength: 14 }), (marks) => {
        const read = readLength(marks.join(''), { diameterMm: 10 });
        if (read.ok) expect(read.value.mm).toBeGreaterThanOrEqual(0);
        else expect(read.remedy).not.toBe('');
      }),
    );
  });
});

describe('Forces', () => {
  it('are read in newtons, kilograms-force and pounds-force', () => {
    const kn = (text: string): number => {
      const read = readForce(text);
      return read.ok ? read.value.kn : NaN;
    };
    expect(kn('12 kN')).toBe(12);
    expect(kn('22kN')).toBe(22);
    expect(kn('300 N')).toBeCloseTo(0.3, 9);
    // Standard gravity, 9.80665 m/s² by definition.
    expect(kn('1000 kgf')).toBeCloseTo(9.80665, 6);
    expect(kn('5000 lbf')).toBeCloseTo(22.241, 3);
  });

  it('are no masses', () => {
    const read = readForce('500 kg');
    expect(read.ok ? '' : read.remedy).toContain('kgf');
  });

  it('go from unit to unit and back', () => {
    for (const unit of UNITS_OF_FORCE) expect(fromKilonewtons(inKilonewtons(7, unit), unit)).toBeCloseTo(7, 9);
  });
});

describe('Measures of a body', () => {
  it('of adults are a range, of somebody who was measured their own', () => {
    const two = readLength('two palms');
    expect(two.ok && two.value.spread?.least).toBe(2 * ADULTS.palm.least);
    expect(two.ok && two.value.says).toContain('adults');
    const wren = { name: 'Wren', mm: { palm: 82 } };
    const own = readLength('two palms', { person: wren });
    expect(own.ok && own.value.mm).toBe(164);
    expect(own.ok && own.value.says).toContain('Wren');
    // Where she was not measured she is like others.
    expect(bodyLength('forearm', 1, wren).of).toBe('adults');
  });

  it('lie within their range, and grow with the body', () => {
    let before = 0;
    for (const measure of BODY_MEASURES) {
      const { least, mm: middle, most } = ADULTS[measure];
      expect(least).toBeLessThan(middle);
      expect(middle).toBeLessThan(most);
      expect(middle).toBeGreaterThan(before);
      before = middle;
    }
  });
});
