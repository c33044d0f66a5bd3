/**
 * Files as nobody writes them: those that each reader takes, damaged by lot. A reader answers every one of them, with what it read or
 * with where it is wrong; none is thrown at whoever opened it.
 */
import { readFileSync } from 'node:fs';
import { readCode, readGlossaryCsv, readKnotText, readPd, readSvg, toGlossaryCsv } from '../../src/index.js';
import { SHIPPED_GLOSSARY } from '../../src/index.js';
import { readMarksText } from '../../src/formats/marks-file.js';
import { readCaptions } from '../../src/reel/film-captions.js';
import { readJsonLd, readTurtle, toJsonLd, toTurtle } from '../../src/formats/skos.js';

/** A reader of files, and files that it takes. */
export interface Reader {
  readonly name: string;
  readonly read: (text: string) => unknown;
  readonly files: readonly string[];
}

const demo = (name: string): string => readFileSync(new URL(`../../../../demo/${name}.json`, import.meta.url), 'utf8');

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 80"><title>A knot</title>
  <g transform="translate(3 4) rotate(10)"><path d="M0 0 C10 20 30 40 50 20 S70 0 90 30 q5 5 -40 10 t-20 -3 a5 6 10 0 1 9 9 z"/>
  <polyline points="0,0 20,30 40,5 60,35"/></g><circle cx="9" cy="9" r="4"/></svg>`;
const MARKS = JSON.stringify({
  format: 'foxtrail-marks/1',
  frames: [
    {
      at: 1.5,
      marks: [
        { crossing: 1, over: 'first', point: [3, 4] },
        { crossing: 2, over: 'second' },
      ],
    },
  ],
});
const CAPTIONS = `WEBVTT\n\n1\n00:00.000 --> 00:02.500\nLay the bight.\n\n00:03.000 --> 00:04.000 line:80%\nUp through it.\n`;

/** A part of the glossary: whole, it takes RDF's readers half a second. */
const few = { ...SHIPPED_GLOSSARY, concepts: SHIPPED_GLOSSARY.concepts.slice(0, 2) };

export const readers = async (): Promise<readonly Reader[]> => [
  { name: 'figure', read: readKnotText, files: ['overhand', 'reef', 'clove-hitch', 'sheet-bend'].map(demo) },
  { name: 'SVG', read: readSvg, files: [SVG] },
  { name: 'marks', read: (text) => readMarksText(text, 4), files: [MARKS] },
  { name: 'captions', read: readCaptions, files: [CAPTIONS] },
  { name: 'PD code', read: readPd, files: ['X[1,5,2,4] X[3,1,4,6] X[5,3,6,2]', '[[1,5,2,4],[3,1,4,6],[5,3,6,2]]'] },
  { name: 'Gauss code', read: readCode, files: ['O1+U2+O3+U1+O2+U3+', 'O1-U2-O2-U1-'] },
  { name: 'glossary (CSV)', read: readGlossaryCsv, files: [toGlossaryCsv(few)] },
  { name: 'glossary (Turtle)', read: readTurtle, files: [await toTurtle(few)] },
  { name: 'glossary (JSON-LD)', read: readJsonLd, files: [await toJsonLd(few)] },
];

/** Most characters of a damaged file: as much as a request may bring. */
const MOST = 3_000_000;

const ODD = [
  '\0',
  '\ud800',
  '\u202e',
  '\ufeff',
  '"',
  "'",
  '<',
  '>',
  '&',
  '\\',
  '{',
  '[',
  '/*',
  '%',
  '\r',
  '𝕏',
  'é',
  '-',
  'e9',
  '',
];
const NUMBERS = [
  '1e308',
  '-1e308',
  '1e-320',
  '99999999999999999999999',
  '-0',
  'NaN',
  'Infinity',
  '0x7f',
  '1e',
  '.',
  '-1',
  '2147483648',
];
const NESTS: readonly (readonly [string, string])[] = [
  ['[', ']'],
  ['{"a":', '}'],
  ['<g>', '</g>'],
  ['(', ')'],
];

/** A file damaged by lot: `lot(n)` is a whole number below n. */
export function damaged(files: readonly string[], lot: (below: number) => number): string {
  const pick = <T>(list: readonly T[]): T => list[lot(list.length)] as T;
  const splices: ((text: string, at: number, end: number) => string)[] = [
    (text, at, end) => text.slice(0, at) + text.slice(end),
    (text, at, end) =>
      text.slice(0, at) + text.slice(at, end).repeat(2 + lot(lot(8) === 0 ? 2000 : 8)) + text.slice(end),
    (text, at, end) => text.slice(0, at) + pick(ODD) + text.slice(end),
    (text, at) => text.slice(0, at) + pick(ODD) + text.slice(at),
    (text, at) => text.slice(0, at) + text.slice(at).replace(/-?\d+(?:\.\d+)?/, pick(NUMBERS)),
    (text, at, end) => {
      const [open, close] = pick(NESTS);
      const deep = 10 ** (1 + lot(4));
      return text.slice(0, at) + open.repeat(deep) + text.slice(at, end) + close.repeat(deep) + text.slice(end);
    },
    (text, at) => text.slice(0, at) + pick(files).slice(at),
    (text, at, end) => text.slice(0, at) + text.slice(at, end).split('').reverse().join('') + text.slice(end),
  ];
  let text = pick(files);
  for (let n = 1 + lot(4); n > 0; n -= 1) {
    const at = lot(text.length + 1);
    // Mostly small things.
    const end = Math.min(text.length, at + lot(lot(3) === 0 ? text.length + 1 : 12));
    text = pick(splices)(text, at, end).slice(0, MOST);
  }
  return text;
}
