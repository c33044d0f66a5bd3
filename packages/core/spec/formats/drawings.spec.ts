import * as laurent from '../../src/topology/laurent.js';
import fc from 'fast-check';
import {
  codeKind,
  crossingsOf,
  curveOf,
  drawFigure,
  gaussText,
  layOut,
  lengthOf,
  pdJones,
  pdText,
  pathData,
  readCode,
  readPd,
  readSvg,
  readingDrawing,
  signatureOf,
  toSvg,
  weaveFigure,
  writeKnot,
  EMPTY_ENTRY,
  methodFor,
  type Figure,
  type ReadDrawing,
  type Result,
} from '../../src/index.js';
import { toPdf } from '../../src/formats/pdf.js';
import { drawnFiles, drawnKnot, oneRope } from '../support/figures.js';

function value<T>(r: Result<T>): T {
  if (!r.ok) throw new Error(`${r.place}: ${r.reason}`);
  return r.value;
}
function read(text: string): Result<ReadDrawing> {
  const work = readingDrawing(text, 'Imported');
  for (;;) {
    const step = work.next();
    if (step.done === true) return step.value;
  }
}
const reason = (text: string): string => {
  const r = read(text);
  return r.ok ? 'read' : `${r.place}: ${r.reason} ${r.remedy}`;
};
const svg = (inner: string, more = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"${more}>${inner}</svg>`;

describe('SVG read as a figure', () => {
  it('is the same figure when this program wrote it', () => {
    for (const file of drawnFiles) {
      const knot = drawnKnot(file);
      const text = toSvg(drawFigure(knot.method.figure), {
        title: knot.name,
        description: 'As laid.',
        carried: JSON.stringify(writeKnot(knot)),
      });
      const back = value(read(text));
      expect(back.from).toBe('svg');
      expect(back.knot.method).withContext(file).toEqual(knot.method);
      expect(back.knot.entry).toEqual(knot.entry);
    }
  });
  it('is refused with its place before it costs time, where it is nested, long or full beyond any drawing of ropes', () => {
    const svg = (inner: string): string =>
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">${inner}</svg>`;
    const line = '<path d="M0 0L9 9"/>';
    const curves = (n: number): string =>
      Array.from({ length: n }, (_, i) => `C${(i * 7) % 97} 99 99 ${(i * 3) % 89} ${(i * 13) % 83} 50`).join('');
    const worst: readonly (readonly [string, RegExp])[] = [
      ['<g>'.repeat(20_000) + line + '</g>'.repeat(20_000), /nested deeper/],
      ['<g transform="scale(1.1)">'.repeat(5000) + line, /nested deeper/],
      [line.repeat(50_000), /more than 400 parts/],
      [`<path d="M0 0${'C1 99 99 1 50 50'.repeat(100_000)}"/>`, /300000 are the most of one path/],
      [`<path d="M0 0${curves(2600)}"/>`, /more than 60000 points/],
      [`<path d="M0 0${curves(2400)}"/>`, /times as long as its rope is thick/],
    ];
    for (const [inner, why] of worst) {
      const read = readSvg(svg(inner));
      expect(read.ok ? '' : read.reason).toMatch(why);
      expect(read.ok ? '' : read.place).toMatch(/^line 1/);
    }
  });
  it('keeps the crossings and proportions of paths, moved, turned and scaled in any way', () => {
    const bare = drawnFiles.map((file) => drawnKnot(file).method.figure).filter((f) => f.hosts.length === 0);
    expect(bare.length).toBeGreaterThan(4);
    fc.assert(
      fc.property(
        fc.constantFrom(...bare),
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        fc.integer({ min: -170, max: 170 }),
        (f, k, turn) => {
          const paths = f.ropes
            .map(
              (r) => `<path transform="scale(${k})" d="${pathData(curveOf(r).pieces)}" fill="none" stroke-width="1"/>`,
            )
            .join('');
          const figure = value(readSvg(svg(`<g transform="translate(40 10) rotate(${turn})">${paths}</g>`))).figure;
          expect(crossingsOf(figure).length).toBe(crossingsOf(f).length);
          // Which strands meet, and in which order along each, is what the drawing says.
          const shadow = (g: Figure): string => gaussText(g).replace(/[OU+-]/g, '');
          expect(shadow(figure)).toBe(shadow(f));
          // The stroke is the rope's thickness: every rope is as long as it was.
          f.ropes.forEach((r, i) =>
            expect(Math.abs(lengthOf(curveOf(figure.ropes[i]!)) / lengthOf(curveOf(r)) - 1)).toBeLessThan(0.02),
          );
        },
      ),
      { numRuns: 40 },
    );
  });
  it('takes polylines, circles and lines as ropes; closed shapes are slings', () => {
    const f = value(
      readSvg(
        svg(
          '<polyline points="10,10 120,20 150,120 20,130" stroke-width="8"/><circle cx="80" cy="70" r="50" stroke-width="8"/><line x1="0" y1="70" x2="300" y2="75" style="stroke-width:8px"/>',
        ),
      ),
    ).figure;
    expect(f.ropes.map((r) => [r.closed, r.curve])).toEqual([
      [false, 'straight'],
      [true, 'smooth'],
      [false, 'straight'],
    ]);
    // A line across a circle crosses it twice.
    expect(crossingsOf(f).filter((c) => c.first.strand === 'b' && c.second.strand === 'c').length).toBe(2);
    expect(Math.abs(lengthOf(curveOf(f.ropes[1]!)) - (2 * Math.PI * 50) / 8)).toBeLessThan(0.6);
  });
  it('leaves out what is not drawn', () => {
    const f = value(
      readSvg(
        svg(
          '<defs><path d="M0 0L400 300"/></defs><g style="display:none"><path d="M0 300L400 0"/></g><text>words</text><path d="M10 10C100 200 200 -100 300 200"/>',
        ),
      ),
    ).figure;
    expect(f.ropes.length).toBe(1);
  });
  it('joins subpaths to ropes of their own, and lays what comes later over', () => {
    const f = value(readSvg(svg('<path stroke-width="6" d="M10 100H300M150 10V200"/>'))).figure;
    expect(f.ropes.length).toBe(2);
    expect(crossingsOf(f)[0]!.over.strand).toBe('b');
    expect(value(read(svg('<path d="M10 100H300M150 10V200"/>'))).toWalk).toBeTrue();
  });
  it('refuses bad input with its place, and never throws', () => {
    expect(reason(svg('<path d="M0 0L1'))).toMatch(/line 1, column \d+: It is not well-formed/);
    expect(reason('<html></html>')).toContain('not <svg>');
    expect(reason(svg('<path d="M0 0Lx 10"/>'))).toContain('cannot be read');
    expect(reason(svg('<rect width="10" height="10"/>'))).toContain('no path');
    expect(reason(svg(Array.from({ length: 14 }, (_, i) => `<path d="M0 ${i * 20}H400"/>`).join('')))).toContain(
      '12 ropes at most',
    );
    expect(reason('')).toContain('empty');
    expect(reason('hello')).toContain('neither');
    fc.assert(
      fc.property(fc.string(), (s) => expect(() => read(`<svg>${s}</svg>`)).not.toThrow()),
      { numRuns: 100 },
    );
    fc.assert(
      fc.property(fc.string(), (s) =>
        expect(() => readSvg(svg(`<path d="M0 0${s.replace(/[<&"]/g, '')}"/>`))).not.toThrow(),
      ),
      { numRuns: 100 },
    );
  });
});

describe('Codes', () => {
  it('are told apart, and read as what they are', () => {
    expect(codeKind('O1+ U2-')).toBe('gauss');
    expect(codeKind('PD[X[1,5,2,4], X[3,1,4,6], X[5,3,6,2]]')).toBe('pd');
    expect(codeKind('{"a":1}')).toBeUndefined();
    expect(value(readPd('PD[X[1,5,2,4], X[3,1,4,6], X[5,3,6,2]]')).length).toBe(3);
    expect(value(readCode('[1,5,2,4] [3,1,4,6] [5,3,6,2]'))[0]!.passages.length).toBe(6);
    expect(reason('[1,5,2]')).toContain('four whole numbers');
    expect(reason('[1,5,2,x]')).toContain('“x”');
    expect(reason('[1,5,2,4] [1,1,4,6]')).toContain('occurs 3 times');
  });
  it('PD out and in again has the same Jones polynomial', () => {
    let told = 0;
    fc.assert(
      fc.property(oneRope, (f) => {
        const text = pdText(f);
        if (!text.ok || text.value === '' || crossingsOf(f).length > 9) return;
        const code = value(readPd(text.value));
        const drawn = layOut(value(readCode(text.value)));
        if (!drawn.ok) return;
        told += 1;
        expect(laurent.equal(pdJones(value(readPd(value(pdText(drawn.value))))), pdJones(code))).toBeTrue();
      }),
      { numRuns: 12 },
    );
    expect(told).toBeGreaterThan(2);
  });
  it('have no PD form where nothing can be closed', () => {
    const spar: Figure = drawnFiles.map((d) => drawnKnot(d).method.figure).find((f) => f.hosts.length > 0)!;
    expect(pdText(spar).ok).toBeFalse();
    expect(pdText({ ropes: [], hosts: [] }).ok).toBeFalse();
  });
  it('draw a knot that can be named', () => {
    const knot = value(read('O1- U2- O3- U1- O2- U3-')).knot;
    expect(gaussText(knot.method.figure)).toBe('O1- U2- O3- U1- O2- U3-');
    const woven = weaveFigure(knot.method.figure, (_, i) => i % 2 === 0);
    expect(signatureOf(woven).ok).toBeTrue();
  });
});

describe('PDF', () => {
  it('is one page of vectors in the figure’s proportions', async () => {
    const figure = drawnKnot(drawnFiles[0]!).method.figure;
    const drawing = drawFigure(figure, { labels: true });
    const bytes = await toPdf(drawing, { title: 'Bend of two ropes — “square”', widthMm: 120 });
    const text = new TextDecoder('latin1').decode(bytes);
    expect(text.slice(0, 5)).toBe('%PDF-');
    expect(text).not.toContain('/Subtype /Image');
    const { PDFDocument } = await import('pdf-lib');
    const again = await PDFDocument.load(bytes);
    expect(again.getPageCount()).toBe(1);
    const { width, height } = again.getPage(0).getSize();
    expect(width).toBeCloseTo((120 * 72) / 25.4, 3);
    const [l, t, r, b] = drawing.box;
    const room = (10 * 72) / 25.4;
    expect((height - 2 * room) / (width - 2 * room)).toBeCloseTo((b - t) / (r - l), 3);
  });
});

describe('A knot without a method of its own', () => {
  it('is read from any drawing with a leader for each rope', () => {
    const knot = value(read(svg('<path stroke-width="6" d="M10 100H300M150 10V200"/>'))).knot;
    expect(knot.method).toEqual(methodFor(knot.method.figure));
    expect(knot.entry).toEqual(EMPTY_ENTRY);
  });
});
