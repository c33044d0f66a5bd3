import fc from 'fast-check';
import { asCordage, readStockCsv, stockRopeSchema, toStockCsv, unfit, type StockRope } from '@foxtrail/core/ropes';

const rope = (more: Partial<StockRope> & { name: string }): StockRope =>
  stockRopeSchema.parse({ diameterMm: 10, ...more });

describe('Rope stock', () => {
  it('does not take a breaking load without its source, nor a rope that retires before it came', () => {
    const wrong = stockRopeSchema.safeParse({ name: 'Braid', diameterMm: 8, breakingKn: 12 });
    expect(wrong.success ? '' : wrong.error.issues[0]?.message).toContain('source');
    expect(
      stockRopeSchema.safeParse({ name: 'Braid', diameterMm: 8, inService: '2026-01-01', retires: '2025-01-01' })
        .success,
    ).toBeFalse();
    expect(stockRopeSchema.safeParse({ name: 'Braid', diameterMm: -8 }).success).toBeFalse();
  });

  it('says which rope is not to be cut any more', () => {
    expect(unfit({ condition: 'retired', retires: null }, '2026-01-01')).toContain('retired');
    expect(unfit({ condition: 'good', retires: '2025-12-31' }, '2026-01-01')).toContain('2025-12-31');
    expect(unfit({ condition: 'good', retires: '2026-01-01' }, '2026-01-01')).toBeNull();
  });

  it('shows in a knot by its look and by its diameter against the knot’s ordinary rope', () => {
    const cord = asCordage(rope({ name: 'Cord', diameterMm: 6, colour: '#8f2f35', second: '#ffffff' }), 10);
    expect(cord.diameter).toBe(0.6);
    expect(cord.mark).toBe('tracer');
    expect(asCordage(rope({ name: 'Line' }), 10).diameter).toBeUndefined();
    expect(asCordage(rope({ name: 'Cable', diameterMm: 100 }), 10).diameter).toBe(3);
  });
});

describe('A table of ropes', () => {
  const lines = (text: string, present: StockRope[] = []) => readStockCsv(text, present).lines;

  it('is read with semicolons, lines above its heading, other names of columns and units in them', () => {
    const report = readStockCsv(
      'Larkmoor, store\n\nItem;Dia (mm);MBL [kN];Source;Length;Colour;Shelf\nBraid, slate;8;12,5;maker’s label;2 x 60 m, 35 m;#5d6f80;B2\nTwine;1/16 in;;;;;\n',
    );
    expect(report.delimiter).toBe(';');
    expect(report.unknown).toEqual(['Shelf']);
    expect(report.lines.map((l) => [l.line, l.becomes])).toEqual([
      [4, 'new'],
      [5, 'new'],
    ]);
    const [braid, twine] = report.lines.map((l) => l.rope);
    expect(braid).toEqual(
      jasmine.objectContaining({
        diameterMm: 8,
        breakingKn: 12.5,
        pieces: [60_000, 60_000, 35_000],
        colour: '#5d6f80',
      }),
    );
    expect(twine?.diameterMm).toBeCloseTo(1.59, 2);
  });

  it('refuses a line with its reason, and takes the others', () => {
    const report = lines(
      'name,diameter,breaking load,source,condition\nA,8 mm,,,good\nB,eight,,,\nC,8,9 kg,label,\nD,8,,,mint\nE,,,,\na,9,,,\nF,8,12,,\n',
    );
    expect(report.map((l) => l.becomes)).toEqual(['new', ...Array<'refused'>(6).fill('refused')]);
    expect(report.map((l) => l.why).join('\n')).toMatch(
      /diameter: “8” has no unit|diameter[\s\S]*mass[\s\S]*mint[\s\S]*no diameter[\s\S]*same name[\s\S]*source/,
    );
  });

  it('says when it is empty, foreign, or has nothing below its heading', () => {
    expect(readStockCsv('').trouble).toContain('empty');
    expect(readStockCsv('a,b,c\n1,2,3\n').trouble).toContain('name');
    expect(readStockCsv('name,diameter\n').trouble).toContain('below');
  });

  it('goes out and comes in again as it was', () => {
    const text = fc.stringMatching(/^[A-Za-z][A-Za-z0-9 ,;"'-]{0,20}[a-z]$/);
    fc.assert(
      fc.property(
        fc.uniqueArray(text, { minLength: 1, maxLength: 6, selector: (t) => t.toLowerCase() }),
        fc.array(fc.integer({ min: 100, max: 90_000 }), { maxLength: 4 }),
        fc.integer({ min: 2, max: 40 }),
        (names, pieces, diameterMm) => {
          const ropes = names.map((name) =>
            rope({
              name,
              pieces,
              diameterMm,
              breakingKn: 9.5,
              knottedShare: 0.625,
              source: `label, “${name}”`,
              remarks: '-3 of these',
            }),
          );
          const report = readStockCsv(toStockCsv(ropes), ropes);
          expect(report.lines.map((l) => [l.becomes, l.why]))
            .withContext(toStockCsv(ropes))
            .toEqual(ropes.map(() => ['there already', '']));
        },
      ),
      { numRuns: 40 },
    );
  });

  it('leaves what it has no column for as it is', () => {
    const own = rope({ name: 'Braid', diameterMm: 8, pieces: [60_000], knottedShare: 0.65, remarks: 'wet once' });
    const [line] = lines('name,diameter,remarks\nBraid,9 mm,\n', [own]);
    expect(line?.rope).toEqual({ ...own, diameterMm: 9, remarks: '' });
    expect(line?.why).toBe('changes diameter, remarks');
  });

  it('holds what a maker says of knots as a share, and refuses what is none', () => {
    const shares = lines('name,diameter,knotted\nA,8,65 %\nB,8,"62,5"\nC,8,most\nD,8,120 %\n');
    expect(shares.map((l) => l.rope?.knottedShare)).toEqual([0.65, 0.625, undefined, undefined]);
    expect(shares[2]?.why).toContain('65 %');
  });

  it('tells what a line changes', () => {
    const [line] = lines('name,diameter,condition\nBraid,8 mm,worn\n', [rope({ name: 'braid', diameterMm: 8 })]);
    expect(line?.becomes).toBe('changed');
    expect(line?.why).toContain('condition');
  });
});
