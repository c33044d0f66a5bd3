/**
 * A form as JSON, written and read back. Places are in rope diameters, rounded to a two-hundredth.
 */
import * as z from 'zod';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { onGrid } from './form.js';
import type { SetForm } from './set.js';
import { unpacked } from './unpacked.js';

export const FORM_FORMAT = 'foxtrail-form/1';
/** Beads of one rope, ropes and solids that a file may hold. */
const MOST = { beads: 8000, ropes: 64 } as const;

const numbers = z.array(z.number().min(-2000).max(2000)).max(3 * MOST.beads);
const way = z.tuple([z.number(), z.number(), z.number()]);
const outlet = z.object({
  kind: z.enum(['standing', 'tail', 'off', 'eye']),
  first: z.number().int().min(0),
  last: z.number().int().min(0),
  way,
  tension: z.number().min(0).max(10).optional(),
});
const chain = z.object({
  rope: z.string().max(64),
  closed: z.boolean(),
  radius: z.number().min(0.05).max(10),
  places: numbers,
  at: z.array(z.number()).max(MOST.beads),
  outlets: z.array(outlet).max(64),
});
const solid = z.object({
  host: z.string().max(64),
  kind: z.enum(['spar', 'post', 'ring', 'carabiner', 'hook', 'hand', 'rope']),
  closed: z.boolean(),
  radius: z.number().min(0.05).max(40),
  places: numbers,
});
export const formFileSchema = z.object({
  format: z.literal(FORM_FORMAT),
  name: z.string().max(200),
  unit: z.literal('rope diameter'),
  proof: z.object({ sides: z.number().int(), crossings: z.number().int(), fallsApart: z.boolean() }),
  runs: z.boolean(),
  ropes: z.array(chain).max(MOST.ropes),
  solids: z.array(solid).max(MOST.ropes),
});
export type FormFile = z.infer<typeof formFileSchema>;

const rounded = (x: Float64Array): number[] => Array.from(onGrid(x));

/** A form as a file's content. */
export const writeForm = (name: string, { chains, solids, proof, runs }: SetForm): FormFile => ({
  format: FORM_FORMAT,
  name,
  unit: 'rope diameter',
  proof,
  runs,
  ropes: chains.map(({ rope, closed, radius, x, at, outlets }) => ({
    rope,
    closed,
    radius,
    places: rounded(x),
    at: rounded(at),
    outlets: outlets.map((o) => ({
      kind: o.kind,
      first: o.first,
      last: o.last,
      way: [...o.way] as [number, number, number],
      ...(o.tension === undefined ? {} : { tension: o.tension }),
    })),
  })),
  solids: solids.map(({ host, kind, closed, radius, x }) => ({ host, kind, closed, radius, places: rounded(x) })),
});

/** Reads a form's file. Refuses what is none, and ropes whose places and trail positions do not go together. */
export function readForm(content: unknown): Result<SetForm> {
  const read = formFileSchema.safeParse(content);
  if (!read.success) {
    const [issue] = read.error.issues;
    return refuse(
      issue && issue.path.length > 0 ? issue.path.join('.') : 'the file',
      issue?.message ?? 'It is no form.',
      'Write it anew with `foxtrail set`.',
    );
  }
  const bad = read.data.ropes.find(
    (r) => r.places.length !== 3 * r.at.length || r.outlets.some((o) => o.last >= r.at.length),
  );
  if (bad)
    return refuse(`rope ${bad.rope}`, 'Its places and its trail positions do not go together.', 'Write it anew.');
  return accept(unpacked(read.data));
}
