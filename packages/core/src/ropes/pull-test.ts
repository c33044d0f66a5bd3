/**
 * Pull tests: what a rope with a knot, or one without, carried before something gave. Forces in kilonewtons, rates in millimetres a minute.
 */
import * as z from 'zod';
import { nameSchema, plainText } from '../words/plain-text.js';
import { knotRefSchema } from './knot-ref.js';
import { sampleOf, shareKept, type Sample, type ShareKept } from './statistics.js';

export const OUTCOMES = ['broke', 'slipped', 'held', 'was stopped'] as const;
export type Outcome = (typeof OUTCOMES)[number];
export const BROKE_AT = ['in the knot', 'beside the knot', 'in the rope', 'at the grip'] as const;

/** SHA-256 of a file, in hexadecimal: what it is named by. */
const contentName = z.string().regex(/^[0-9a-f]{64}$/, 'a photograph is named by its contents');

/** Most tests a house keeps. */
export const MOST_TESTS = 20_000;

const testShape = z.object({
  /** Null: the rope without a knot. */
  knot: knotRefSchema.nullable(),
  /** What it is called; of a rope without one, empty. */
  knotName: z.union([nameSchema, z.literal('')]).default(''),
  method: plainText(80).default(''),
  /** The rope: of the stock by its id, and by its name. */
  rope: z.uuid().nullable().default(null),
  ropeName: nameSchema,
  diameterMm: z.number().min(0.5).max(120),
  /** Greatest force that was reached. */
  peakKn: z.number().gt(0).max(5000),
  rate: z.number().min(0).max(100_000).nullable().default(null),
  outcome: z.enum(OUTCOMES).default('broke'),
  brokeAt: z.enum(BROKE_AT).nullable().default(null),
  pulledOn: z.iso.date('a date is written YYYY-MM-DD'),
  remarks: plainText(300).default(''),
  /** A photograph of it, named by its contents. */
  photograph: contentName.nullable().default(null),
});
export const pullTestSchema = testShape.refine((t) => (t.knot === null) === (t.knotName === ''), {
  path: ['knotName'],
  message: 'a knot has a name, and the rope alone has none',
});
export type PullTest = z.infer<typeof pullTestSchema>;

/** Tests of one knot, tied by one method, in one rope. */
export interface TestGroup {
  readonly knot: string | null;
  readonly knotName: string;
  /** Empty: not said. */
  readonly method: string;
  readonly ropeName: string;
  readonly diameterMm: number;
  readonly tests: readonly PullTest[];
  /** Of those that broke or slipped: what was only held or stopped carried more than that. */
  readonly sample: Sample | undefined;
  /** Against the same rope without a knot, where that was tested. */
  readonly kept: ShareKept | undefined;
}

/** Whether a test says what was carried: what was only held, or stopped, carried more. */
export const isCounted = (t: PullTest): boolean => t.outcome === 'broke' || t.outcome === 'slipped';

/** A knot goes by its name: one of the shelf and the same of the book are one. */
const groupKey = (t: Pick<PullTest, 'ropeName' | 'diameterMm'>, knotName: string, method: string): string =>
  JSON.stringify([t.ropeName.toLowerCase(), t.diameterMm, knotName.toLowerCase(), method.toLowerCase()]);

/** Tests by knot and rope, the rope without a knot first. */
export function testGroups(tests: readonly PullTest[]): TestGroup[] {
  const groups = new Map<string, PullTest[]>();
  for (const t of tests) {
    const key = groupKey(t, t.knotName, t.method);
    const group = groups.get(key);
    if (group) group.push(t);
    else groups.set(key, [t]);
  }
  const sampled = [...groups].map(([key, own]) => ({
    key,
    own,
    sample: sampleOf(own.filter(isCounted).map((t) => t.peakKn)),
  }));
  const plain = new Map(sampled.map(({ key, sample }) => [key, sample]));
  return sampled
    .map(({ own, sample }): TestGroup => {
      const [first] = own as [PullTest, ...PullTest[]];
      const bare = plain.get(groupKey(first, '', ''));
      return {
        knot: first.knot,
        knotName: first.knotName,
        method: first.method,
        ropeName: first.ropeName,
        diameterMm: first.diameterMm,
        tests: own,
        sample,
        kept: first.knot !== null && sample && bare ? shareKept(sample, bare) : undefined,
      };
    })
    .sort(
      (a, b) =>
        a.ropeName.localeCompare(b.ropeName) ||
        Number(a.knot !== null) - Number(b.knot !== null) ||
        a.knotName.localeCompare(b.knotName) ||
        a.diameterMm - b.diameterMm,
    );
}

/** What the log says of a knot in a rope, as a statement of its behaviour cites it. */
export function citeTests({ tests, sample, ropeName, diameterMm, method }: TestGroup): string {
  const outcomes = OUTCOMES.flatMap((o) => {
    const n = tests.filter((t) => t.outcome === o).length;
    return n === 0 ? [] : [n === tests.length ? o : `${n} ${o}`];
  });
  const days = tests.map((t) => t.pulledOn).sort();
  const spread = sample?.deviation === undefined ? '' : ` ± ${sample.deviation.toFixed(1)}`;
  return [
    `${tests.length} ${tests.length === 1 ? 'pull test' : 'pull tests'} in ${ropeName}, ${diameterMm} mm${method === '' ? '' : ` (${method})`}: ${outcomes.join(', ')}`,
    sample ? `, at ${sample.mean.toFixed(1)}${spread} kN` : '',
    ` (log, to ${days.at(-1) ?? ''})`,
  ].join('');
}
