/**
 * Rope stock: what a house has to tie with, and what it ties to. Lengths in millimetres, forces in kilonewtons, dates as `YYYY-MM-DD`.
 */
import * as z from 'zod';
import { COLOUR_MARKS, CONSTRUCTIONS, DIAMETERS, isWebbing, STIFFNESSES, type Cordage } from '../figure/cordage.js';
import { nameSchema, plainText } from '../words/plain-text.js';

export const MATERIALS = [
  'polyamide',
  'polyester',
  'polypropylene',
  'aramid',
  'HMPE',
  'hemp',
  'manila',
  'cotton',
  'other',
] as const;
/** How far a rope gives under load. */
export const STRETCHES = ['hardly any', 'low', 'high'] as const;
export const CONDITIONS = ['new', 'good', 'worn', 'retired'] as const;
export type Condition = (typeof CONDITIONS)[number];
export const STOCK_LIMITS = { pieces: 60, longestMm: 1_000_000, ropes: 2000 } as const;

const date = z.iso.date('a date is written YYYY-MM-DD');
const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'a colour is # and six digits or letters a to f');

export const stockRopeSchema = z
  .object({
    name: nameSchema,
    construction: z.enum(CONSTRUCTIONS).default('kernmantle'),
    material: z.enum(MATERIALS).default('other'),
    /** Of webbing its width. */
    diameterMm: z.number().min(0.5).max(120),
    /** Of webbing. */
    thicknessMm: z.number().min(0.2).max(20).nullable().default(null),
    stretch: z.enum(STRETCHES).nullable().default(null),
    /** The rated minimum breaking load, unknotted, and who says so. */
    breakingKn: z.number().gt(0).max(5000).nullable().default(null),
    source: plainText(200).default(''),
    /** What the maker says a knot leaves of it, as a share. */
    knottedShare: z.number().min(0.01).max(1).nullable().default(null),
    condition: z.enum(CONDITIONS).default('good'),
    inService: date.nullable().default(null),
    retires: date.nullable().default(null),
    /** The pieces on hand. */
    pieces: z.array(z.number().min(1).max(STOCK_LIMITS.longestMm)).max(STOCK_LIMITS.pieces).default([]),
    colour: colour.default('#e6dcc6'),
    second: colour.nullable().default(null),
    mark: z.enum(COLOUR_MARKS).nullable().default(null),
    stiffness: z.enum(STIFFNESSES).default('supple'),
    remarks: plainText(300).default(''),
  })
  .refine((r) => r.breakingKn === null || r.source !== '', {
    path: ['source'],
    message: 'a breaking load needs its source: the maker’s label, or a test of your own',
  })
  .refine((r) => r.retires === null || r.inService === null || r.retires >= r.inService, {
    path: ['retires'],
    message: 'it would retire before it came into service',
  });
export type StockRope = z.infer<typeof stockRopeSchema>;

export const THING_KINDS = ['spar', 'post', 'ring', 'carabiner', 'other'] as const;
/** What ropes are tied to. */
export const thingSchema = z.object({
  name: nameSchema,
  kind: z.enum(THING_KINDS).default('spar'),
  /** Of the bar of a ring or a carabiner; of a spar or a post across it. */
  diameterMm: z.number().min(2).max(3000),
  remarks: plainText(300).default(''),
});
export type Thing = z.infer<typeof thingSchema>;

/** Whether a rope may be cut for use on a day; else why not. */
export function unfit({ condition, retires }: Pick<StockRope, 'condition' | 'retires'>, today: string): string | null {
  if (condition === 'retired') return 'it is retired';
  return retires !== null && retires < today ? `it was to retire on ${retires}` : null;
}

/** A rope of the stock as a knot shows it, against an ordinary rope of the knot of that many millimetres. */
export function asCordage(rope: StockRope, ordinaryMm: number): Cordage {
  const diameter = Math.min(DIAMETERS.most, Math.max(DIAMETERS.least, rope.diameterMm / ordinaryMm));
  return {
    ...(isWebbing({ construction: rope.construction }) ? { name: 'webbing' } : {}),
    ...(Math.abs(diameter - 1) < 0.02 ? {} : { diameter: Math.round(diameter * 100) / 100 }),
    construction: rope.construction,
    colour: rope.colour,
    ...(rope.second === null ? {} : { second: rope.second, mark: rope.mark ?? 'tracer' }),
    ...(rope.stiffness === 'supple' ? {} : { stiffness: rope.stiffness }),
  };
}
