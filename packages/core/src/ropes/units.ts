/**
 * Lengths and forces as authors write them: “1 1/2 ft”, “4"”, “12 d”, “two palms”, “12 kN”. What is read is said back, so that a slip
 * is seen; what is no measure is refused with what is odd about it. Lengths are kept in millimetres, forces in kilonewtons.
 */
import { convert } from 'convert';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { bodyLength, BODY_MEASURES, type BodyMeasure, type Person } from './body.js';

export const UNITS_OF_LENGTH = ['mm', 'cm', 'm', 'in', 'ft', 'fathom'] as const;
export type UnitOfLength = (typeof UNITS_OF_LENGTH)[number];
export const UNITS_OF_FORCE = ['kN', 'N', 'kgf', 'lbf'] as const;
export type UnitOfForce = (typeof UNITS_OF_FORCE)[number];

/** Six feet: the international fathom. */
const FEET_IN_A_FATHOM = 6;

/** A length in millimetres. */
export const inMillimetres = (amount: number, unit: UnitOfLength): number =>
  unit === 'fathom' ? convert(FEET_IN_A_FATHOM * amount, 'ft').to('mm') : convert(amount, unit).to('mm');
/** Millimetres in another unit. */
export const fromMillimetres = (mm: number, unit: UnitOfLength): number => mm / inMillimetres(1, unit);

/** A force in kilonewtons. */
export const inKilonewtons = (amount: number, unit: UnitOfForce): number => convert(amount, unit).to('kN');
/** Kilonewtons in another unit. */
export const fromKilonewtons = (kn: number, unit: UnitOfForce): number => kn / inKilonewtons(1, unit);

/** What a text was read as. */
export interface LengthRead {
  readonly mm: number;
  /** Where it was said by a body: between which lengths it lies, and whose body. */
  readonly spread?: { readonly least: number; readonly most: number; readonly of: string } | undefined;
  /** The reading for people: “1 1/2 ft = 457 mm”. */
  readonly says: string;
}

/** What is known while a length is read. */
export interface ReadingAid {
  /** Millimetres of a diameter: lengths in diameters are refused without it. */
  readonly diameterMm?: number | undefined;
  /** Whose body is meant; absent: a range of adults. */
  readonly person?: Person | undefined;
}

/** Longest length that is taken, 10 km: a drum of rope is shorter. */
const MOST_MM = 10_000_000;
/** Greatest force that is taken, in kilonewtons. */
const MOST_KN = 100_000;

const NUMBERS = 'one two three four five six seven eight nine ten eleven twelve'.split(' ');
const QUARTERS: Readonly<Record<string, string>> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
  '⅓': '1/3',
  '⅔': '2/3',
};

/** How units are written, without the “s” of several. */
const LENGTH_NAMES: Readonly<Record<string, UnitOfLength | 'd' | BodyMeasure>> = {
  mm: 'mm',
  millimetre: 'mm',
  millimeter: 'mm',
  cm: 'cm',
  centimetre: 'cm',
  centimeter: 'cm',
  m: 'm',
  metre: 'm',
  meter: 'm',
  in: 'in',
  inch: 'in',
  inche: 'in',
  '"': 'in',
  ft: 'ft',
  foot: 'ft',
  feet: 'ft',
  "'": 'ft',
  fathom: 'fathom',
  d: 'd',
  diameter: 'd',
  'rope diameter': 'd',
  palm: 'palm',
  'hand span': 'hand span',
  handspan: 'hand span',
  forearm: 'forearm',
  'arm span': 'arm span',
  armspan: 'arm span',
  thumb: 'thumb',
};
const FORCE_NAMES: Readonly<Record<string, UnitOfForce>> = {
  kn: 'kN',
  kilonewton: 'kN',
  n: 'N',
  newton: 'N',
  kgf: 'kgf',
  'kilogram-force': 'kgf',
  lbf: 'lbf',
  'pound-force': 'lbf',
};
const MASSES = new Set(['kg', 'kilo', 'kilogram', 'lb', 'pound', 't', 'tonne', 'ton']);
const METRIC = new Set<string>(['mm', 'cm', 'm']);
const FEET = new Set<string>(['in', 'ft', 'fathom']);

interface Amount {
  readonly amount: number;
  readonly unit: string;
  /** As it was written. */
  readonly text: string;
}

const AMOUNT = String.raw`(-?\d+(?:[.,]\d+)?(?:[ -]\d+\/\d+)?|-?\d+\/\d+)`;
const PIECE = new RegExp(String.raw`^${AMOUNT}\s*("|'|[a-z]+(?:-force)?(?: (?:diameter|span)s?)?)`);

/** Words of numbers as digits: “two and a half” is “2 1/2”, “half a” is “1/2”. */
function inDigits(text: string): string {
  let said = text
    .trim()
    .replace(/[\u00a0\u2009\u202f]/g, ' ')
    .replace(/[½¼¾⅛⅜⅝⅞⅓⅔]/g, (c) => ` ${QUARTERS[c] ?? ''}`)
    .replace(/[″”“]|''/g, '"')
    .replace(/[′’‘]/g, "'")
    .replace(/[−–]/g, '-')
    .replace(/\bkilogram force\b/i, 'kilogram-force')
    .replace(/\bpound force\b/i, 'pound-force')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .trim();
  NUMBERS.forEach((word, i) => (said = said.replace(new RegExp(String.raw`\b${word}\b`, 'g'), String(i + 1))));
  return said
    .replace(/\b(\d+) and (?:a|1) half\b/g, '$1 1/2')
    .replace(/\b(?:a |1 )?half (?:an?\b|of an?\b)?/g, '1/2 ')
    .replace(/\b(?:a |1 )?quarter (?:an?\b|of an?\b)?/g, '1/4 ')
    .replace(/\ban?\b (?=[a-z])/g, '1 ')
    .replace(/\s+/g, ' ')
    .trim();
}

/** The number of an amount: “1 1/2”, “3/8”, “1.5”, “1,5”; undefined where it cannot be told. */
function numberOf(text: string): number | undefined {
  const negative = text.startsWith('-');
  const parts = text.replace(/^-/, '').split(/[ -]/);
  let sum = 0;
  for (const part of parts) {
    const [above, below] = part.split('/');
    const n = Number((above ?? '').replace(',', '.')) / (below === undefined ? 1 : Number(below));
    if (!Number.isFinite(n)) return undefined;
    sum += n;
  }
  return negative ? -sum : sum;
}

const PLACE = 'measure';

/** Takes a text apart into amounts with their units. */
function piecesOf(text: string, known: (unit: string) => boolean, units: string): Result<readonly Amount[]> {
  let rest = inDigits(text);
  if (rest === '') return refuse(PLACE, 'Nothing is written.', `Write a number and its unit: ${units}.`);
  const pieces: Amount[] = [];
  while (rest !== '') {
    const found = PIECE.exec(rest);
    if (!found) return noPiece(rest, pieces.length > 0, units);
    const [whole, written, name] = found as unknown as [string, string, string];
    if (/^-?\d{1,3},\d{3}$/.test(written))
      return refuse(
        PLACE,
        `“${written}” may be thousands or thousandths.`,
        `Write ${written.replace(',', '')} or ${written.replace(',', '.')}.`,
      );
    const amount = numberOf(written);
    const unit = [name, name.replace(/s$/, '')].find(known);
    if (unit === undefined) return noUnit(name, units);
    if (amount === undefined) return refuse(PLACE, `“${written}” is no number.`, 'Write it in digits.');
    if (amount < 0) return refuse(PLACE, `“${written}” is less than nothing.`, 'Leave the minus sign out.');
    pieces.push({ amount, unit, text: `${written} ${name}` });
    rest = rest.slice(whole.length).replace(/^(?:\s*(?:and|,|\+)\s+|\s+)/, '');
    if (rest === 'and') rest = '';
  }
  return accept(pieces);
}

function noPiece(rest: string, further: boolean, units: string): Refusal {
  if (/^-?[\d.,/ ]+$/.test(rest)) return refuse(PLACE, `“${rest}” has no unit.`, `Write its unit after it: ${units}.`);
  return refuse(
    PLACE,
    further ? `“${rest}” is no measure, and cannot be added.` : `“${rest}” is no measure.`,
    `Write numbers with their units: ${units}.`,
  );
}

function noUnit(name: string, units: string): Refusal {
  if (MASSES.has(name.replace(/s$/, '')))
    return refuse(
      PLACE,
      `“${name}” is a mass, and a rope carries a force.`,
      'Write kgf for the weight of so many kilograms, lbf for that of so many pounds, or kN.',
    );
  return refuse(PLACE, `“${name}” is no unit that is known here.`, `Units are ${units}.`);
}

const LENGTHS_SAID = 'mm, cm, m, in, ft, fathoms, d (diameters), palms, hand spans, forearms, arm spans, thumbs';

/** Reads a length. */
export function readLength(text: string, { diameterMm, person }: ReadingAid = {}): Result<LengthRead> {
  const pieces = piecesOf(text, (unit) => unit in LENGTH_NAMES, LENGTHS_SAID);
  if (!pieces.ok) return pieces;
  const units = pieces.value.map((p) => LENGTH_NAMES[p.unit] as UnitOfLength | 'd' | BodyMeasure);
  const families = new Set(units.map((u) => (METRIC.has(u) ? 'metric' : FEET.has(u) ? 'feet' : u)));
  if (families.size > 1)
    return refuse(
      PLACE,
      `It mixes ${pieces.value.map((p) => `“${p.text}”`).join(' with ')}.`,
      'Say the whole length in one kind of unit.',
    );
  let [mm, least, most] = [0, 0, 0];
  let of: string | undefined;
  for (const [i, { amount }] of pieces.value.entries()) {
    const unit = units[i]!;
    if (unit === 'd' && diameterMm === undefined)
      return refuse(PLACE, 'How thick the rope is is not known here.', 'Choose the rope first, or write millimetres.');
    if ((BODY_MEASURES as readonly string[]).includes(unit)) {
      const body = bodyLength(unit as BodyMeasure, amount, person);
      [mm, least, most, of] = [mm + body.mm, least + body.least, most + body.most, body.of];
      continue;
    }
    const length = unit === 'd' ? amount * (diameterMm ?? 0) : inMillimetres(amount, unit as UnitOfLength);
    [mm, least, most] = [mm + length, least + length, most + length];
  }
  if (mm > MOST_MM) return refuse(PLACE, `${sayMm(mm, 'm')} is longer than ropes are.`, 'Look at its unit.');
  const written = text.trim().replace(/\s+/g, ' ');
  return accept(
    of === undefined
      ? { mm, says: `${written} = ${sayMm(mm)}` }
      : { mm, spread: { least, most, of }, says: `${written} = ${sayMm(least)} to ${sayMm(most)} (${of})` },
  );
}

export interface ForceRead {
  readonly kn: number;
  readonly says: string;
}

/** Reads a force. */
export function readForce(text: string): Result<ForceRead> {
  const units = UNITS_OF_FORCE.join(', ');
  const pieces = piecesOf(text, (unit) => unit in FORCE_NAMES, units);
  if (!pieces.ok) return pieces;
  const [only, ...others] = pieces.value;
  if (!only || others.length > 0)
    return refuse(PLACE, 'It names more than one force.', 'Say the whole force in one unit.');
  const kn = inKilonewtons(only.amount, FORCE_NAMES[only.unit] as UnitOfForce);
  if (kn > MOST_KN) return refuse(PLACE, `${sayKn(kn)} is more than ropes carry.`, 'Look at its unit.');
  return accept({ kn, says: `${text.trim()} = ${sayKn(kn)}` });
}

const rounded = (n: number, places: number): string => {
  const by = 10 ** places;
  return (Math.round(n * by) / by).toString();
};

/** Inches as rules show them: to an eighth. */
function eighths(inches: number): string {
  const all = Math.round(inches * 8);
  const [whole, left] = [Math.floor(all / 8), all % 8];
  if (left === 0) return String(whole);
  const by = left % 4 === 0 ? 4 : left % 2 === 0 ? 2 : 1;
  return `${whole === 0 ? '' : `${whole} `}${left / by}/${8 / by}`;
}

/** A length for people, in a unit; without one as a tape shows it: millimetres below two metres, metres above. */
export function sayMm(mm: number, unit?: UnitOfLength): string {
  switch (unit ?? (mm < 2000 ? 'mm' : 'm')) {
    case 'mm':
      return `${mm < 20 ? rounded(mm, 1) : Math.round(mm).toString()} mm`;
    case 'cm':
      return `${rounded(mm / 10, 1)} cm`;
    case 'm':
      return `${rounded(mm / 1000, 2)} m`;
    case 'in':
      return `${eighths(fromMillimetres(mm, 'in'))} in`;
    case 'ft': {
      const inches = Math.round(fromMillimetres(mm, 'in') * 8) / 8;
      const feet = Math.floor(inches / 12);
      const left = inches - 12 * feet;
      return [feet > 0 ? `${feet} ft` : '', left > 0 || feet === 0 ? `${eighths(left)} in` : '']
        .filter((part) => part !== '')
        .join(' ');
    }
    case 'fathom': {
      const fathoms = rounded(fromMillimetres(mm, 'fathom'), 2);
      return `${fathoms} ${fathoms === '1' ? 'fathom' : 'fathoms'}`;
    }
  }
}

/** A force for people, in a unit. */
export function sayKn(kn: number, unit: UnitOfForce = 'kN'): string {
  const n = fromKilonewtons(kn, unit);
  return `${unit === 'kN' ? rounded(n, n < 1 ? 2 : 1) : Math.round(n).toString()} ${unit}`;
}

/** Longer than this inches are told as feet and inches, in inches. */
const INCHES_MOST = 24;

/** Says lengths of so many millimetres as a house measures: in inches and feet, or as a tape shows them. */
export const lengthsIn =
  (units: 'inches' | 'millimetres') =>
  (mm: number): string =>
    sayMm(mm, units === 'millimetres' ? undefined : mm < inMillimetres(INCHES_MOST, 'in') ? 'in' : 'ft');
