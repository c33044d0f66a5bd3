import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import {
  blankKnot,
  EMPTY_ENTRY,
  figureJsonSchema,
  methodFor,
  nameSchema,
  readKnot,
  readKnotText,
  writeKnot,
  type KnotDocument,
} from '../../src/index.js';
import { anyFigure, drawnFiles, drawnKnot } from '../support/figures.js';

const refusal = (text: string): { place: string; reason: string; remedy: string } => {
  const read = readKnotText(text);
  if (read.ok) throw new Error('it was taken');
  expect(read.remedy.length).toBeGreaterThan(0);
  return read;
};
const file = (more: object): string => JSON.stringify({ format: 'foxtrail-figure/1', ropes: [], ...more });
const cross = (weave: string): string =>
  file({
    ropes: [
      {
        id: 'a',
        points: [
          [0, 0],
          [10, 0],
          [10, -5],
          [5, -5],
          [5, 5],
        ],
        curve: 'straight',
        weave,
      },
    ],
  });

describe('the figure file', () => {
  it('read, written and read again is the same knot', () => {
    fc.assert(
      fc.property(anyFigure, (figure) => {
        const knot: KnotDocument = { name: 'Any', entry: EMPTY_ENTRY, method: methodFor(figure), extra: { kept: [1] } };
        const text = JSON.stringify(writeKnot(knot));
        const read = readKnotText(text);
        if (!read.ok) {
          fail(`${read.place}: ${read.reason}`);
          return;
        }
        expect(JSON.stringify(writeKnot(read.value))).toBe(text);
        expect(read.value.method.figure.ropes.map((r) => [...r.points])).toEqual(
          figure.ropes.map((r) => r.points.map((p) => [p[0], p[1]])) as never,
        );
      }),
    );
  });
  it('keeps unknown fields wherever they stand', () => {
    const text = file({
      house: 'x',
      ropes: [
        {
          id: 'a',
          points: [
            [0, 0],
            [9, 0],
          ],
          weave: '',
          colour: 'red',
        },
      ],
      entry: { mood: 3 },
    });
    const read = readKnotText(text);
    if (!read.ok) {
      fail(read.reason);
      return;
    }
    expect(writeKnot(read.value) as unknown).toEqual(
      jasmine.objectContaining({ house: 'x', entry: jasmine.objectContaining({ mood: 3 }) }),
    );
    expect(read.value.method.figure.ropes[0] as unknown).toEqual(jasmine.objectContaining({ colour: 'red' }));
  });
  it('takes every demo file', () => {
    for (const f of drawnFiles) expect(drawnKnot(f).method.halts.length).withContext(f).toBeGreaterThan(1);
  });
  it('has a published schema that is the one in use', () => {
    const published = JSON.parse(
      readFileSync(new URL('../../../../docs/foxtrail-figure-1.schema.json', import.meta.url), 'utf8'),
    ) as unknown;
    expect(published).toEqual(JSON.parse(JSON.stringify(figureJsonSchema())));
  });
  it('of a new knot is empty and valid', () => {
    expect(readKnot(writeKnot(blankKnot('New'))).ok).toBeTrue();
  });
});

describe('a bad file is refused with place and reason', () => {
  it('not JSON, wrong version', () => {
    expect(refusal('{').reason).toContain('not JSON');
    expect(refusal(JSON.stringify({ format: 'other/9', ropes: [] }))).toEqual(
      jasmine.objectContaining({ place: 'format' }),
    );
    expect(refusal('[]').place).toBe('the file');
  });
  it('weave too short, inconsistent, or of other letters', () => {
    expect(refusal(cross('O'))).toEqual(
      jasmine.objectContaining({
        place: jasmine.stringMatching('rope a, trail position 3') as never,
        reason: jasmine.stringContaining('1 letters') as never,
      }),
    );
    expect(refusal(cross('OO'))).toEqual(
      jasmine.objectContaining({
        place: 'rope a at 0.50 and rope a at 3.50',
        reason: jasmine.stringContaining('both passages'.slice(1)) as never,
      }),
    );
    expect(refusal(cross('OX')).reason).toContain('“X”');
    expect(readKnotText(cross('OU')).ok).toBeTrue();
  });
  it('three strands at a point', () => {
    const line = (id: string, x: number, y: number): object => ({
      id,
      points: [
        [-x, -y],
        [x, y],
      ],
      curve: 'straight',
      weave: 'OO',
    });
    expect(refusal(file({ ropes: [line('a', 10, 0), line('b', 10, 10), line('c', 10, -10)] })).reason).toContain(
      'Three strands',
    );
  });
  it('NaN, infinities, too many points, points on each other', () => {
    expect(
      refusal(
        file({
          ropes: [
            {
              id: 'a',
              points: [
                [null, 0],
                [1, 1],
              ],
            },
          ],
        }),
      ).place,
    ).toBe('ropes[0].points[0][0]');
    expect(
      refusal(
        file({
          ropes: [
            {
              id: 'a',
              points: [
                [1e9, 0],
                [1, 1],
              ],
            },
          ],
        }),
      ).place,
    ).toBe('ropes[0].points[0][0]');
    expect(
      refusal(file({ ropes: [{ id: 'a', points: Array.from({ length: 2001 }, (_, i) => [i / 10, 0]) }] })).place,
    ).toBe('ropes[0].points');
    expect(
      refusal(file({ ropes: [{ id: 'a', points: Array.from({ length: 1_000_000 }, () => [1, 1]) }] })).reason,
    ).toContain('characters');
    expect(
      refusal(
        file({
          ropes: [
            {
              id: 'a',
              points: [
                [1, 1],
                [1, 1],
              ],
            },
          ],
        }),
      ).place,
    ).toBe('a, points 0 and 1');
  });
  it('strands with one name, eyes and halts off the rope, leaders of no rope', () => {
    const a = {
      id: 'a',
      points: [
        [0, 0],
        [9, 0],
      ],
    };
    expect(refusal(file({ ropes: [a, a] })).place).toBe('a');
    expect(refusal(file({ ropes: [{ ...a, eyes: [4] }] })).place).toBe('rope a, eye 4');
    expect(refusal(file({ ropes: [a], method: { leaders: [{ rope: 'b' }], halts: [] } })).place).toBe(
      'method.leaders[0].rope',
    );
    expect(
      refusal(file({ ropes: [a], method: { leaders: [{ rope: 'a' }], halts: [{ leader: 0, at: 7 }] } })).place,
    ).toBe('method.halts[0].at');
  });
  it('names that are empty, too long, or contain markup', () => {
    for (const name of ['', '   ', 'x'.repeat(81), '<b>knot</b>', 'two\nlines'])
      expect(nameSchema.safeParse(name).success).withContext(name).toBeFalse();
    expect(nameSchema.parse('  Prusik, 3 wraps (“good”) ')).toBe('Prusik, 3 wraps (“good”)');
  });
});
