/**
 * The figure file, `foxtrail-figure/1`: a figure with its weave, and optionally the method that lays it and the entry it
 * belongs to. Read in two stages: the shape by Zod, then the geometry. Unknown optional fields are kept.
 */
import * as z from 'zod';
import { MOST_TURNS, SPACINGS } from '../figure/wrap.js';
import { readWeave } from '../figure/crossings.js';
import { LEAST_SPACING, LIMITS } from '../figure/bounds.js';
import { lastAt, type Figure } from '../figure/figure.js';
import { distance, type Point } from '../figure/point.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { HALT_LIMIT, methodFor, TEXT_LIMIT } from '../tying/method-edit.js';
import { haltOrder, leaderEnd, type Halt, type Leader, type Method } from '../tying/method.js';
import { KNOT_CLASSES, USE_GRADES } from '../words/classes.js';

export const FIGURE_FORMAT = 'foxtrail-figure/1';
export const NAME_LIMIT = 80;

const coordinate = z.number().min(-LIMITS.reach).max(LIMITS.reach);
const pointSchema = z.tuple([coordinate, coordinate]);
const idSchema = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_-]{0,31}$/, 'an id is a letter followed by letters, digits, _ or -, 32 at most');
const pointsSchema = z.array(pointSchema).min(2).max(LIMITS.points);

// eslint-disable-next-line no-control-regex -- names are one line of plain text
const plain = /^[^<>\u0000-\u001f]*$/;
const plainText = (max: number): z.ZodString =>
  z.string().trim().max(max).regex(plain, 'plain text only: no markup and no control characters');

/** A knot's name: one line of plain text. */
export const nameSchema = plainText(NAME_LIMIT).min(1, 'a name is needed');

export const entrySchema = z.looseObject({
  aliases: z.array(nameSchema).max(20).default([]),
  class: z.enum(KNOT_CLASSES).default('not classed'),
  family: plainText(NAME_LIMIT).default(''),
  useGrade: z.enum(USE_GRADES).default('light duty'),
  summary: plainText(500).default(''),
  cord: z
    .looseObject({ name: plainText(NAME_LIMIT).default(''), diameterMm: z.number().min(0.5).max(120).default(10) })
    .default({ name: '', diameterMm: 10 }),
  cautions: z.array(plainText(300)).max(12).default([]),
  /** The known knot it is meant to be: a pattern's id; `none` when it is meant to be none of them. */
  claim: z
    .string()
    .regex(/^[a-z0-9-]{1,60}$/, 'a claim is a pattern’s id: small letters, digits and hyphens')
    .optional(),
  /** The side to which it is pulled along its spar, where that matters. */
  pull: z.enum(['left', 'right']).optional(),
  /** Inspection marks the author chose for the card: ids of computed marks, in the order of the card. */
  inspection: z.array(z.string().max(60)).max(12).optional(),
  /** Wrong ways shown to learners: the crossing that is laid wrong, and how to tell it. */
  exhibits: z
    .array(
      z.looseObject({
        crossings: z.array(z.number().int().min(1)).min(1).max(2),
        becomes: plainText(160),
        tell: plainText(300),
      }),
    )
    .max(8)
    .optional(),
  /** The name of the knot this is a wrong way of. */
  wrongWayOf: nameSchema.optional(),
});
export type Entry = z.infer<typeof entrySchema>;

const endSchema = z.enum(['standing', 'tail', 'off']);

/** Turns laid as one: control points `from` to `to` of their rope. */
const wrapSchema = z.looseObject({
  from: z.number().int().min(1),
  to: z.number().int().min(1),
  about: z
    .array(z.object({ strand: idSchema, at: z.number().min(0) }))
    .min(1)
    .max(LIMITS.strands),
  turns: z.number().multipleOf(0.5).min(0.5).max(MOST_TURNS),
  direction: z.enum(['on', 'back']),
  first: z.enum(['O', 'U']),
  spacing: z.number().min(SPACINGS.least).max(SPACINGS.most),
  riding: z.boolean().optional(),
});

export const ropeSchema = z.looseObject({
  id: idSchema,
  points: pointsSchema,
  curve: z.enum(['smooth', 'straight']).default('smooth'),
  closed: z.boolean().default(false),
  ends: z.tuple([endSchema, endSchema]).default(['standing', 'tail']),
  weave: z
    .string()
    .max(2 * LIMITS.crossings)
    .default(''),
  eyes: z.array(z.number().min(0)).max(8).optional(),
  wraps: z.array(wrapSchema).max(24).optional(),
});

export const hostSchema = z.looseObject({
  id: idSchema,
  kind: z.enum(['spar', 'post', 'ring', 'carabiner', 'hook', 'hand']),
  points: pointsSchema,
  size: z.number().min(0.5).max(40).optional(),
});

const leaderSchema = z.union([
  z.looseObject({ kind: z.literal('bight'), rope: idSchema, from: z.number().min(0), to: z.number().min(0) }),
  z.looseObject({ kind: z.literal('end').default('end'), rope: idSchema, from: z.number().min(0).default(0) }),
]);
const haltSchema = z.looseObject({
  leader: z.number().int().min(0),
  at: z.number().min(0),
  text: z.string().max(TEXT_LIMIT).optional(),
});

export const figureFileSchema = z.looseObject({
  format: z.literal(FIGURE_FORMAT),
  name: nameSchema.optional(),
  ropes: z.array(ropeSchema).max(LIMITS.strands),
  hosts: z.array(hostSchema).max(LIMITS.strands).default([]),
  method: z
    .looseObject({
      leaders: z.array(leaderSchema).max(LIMITS.strands).default([]),
      halts: z.array(haltSchema).max(HALT_LIMIT).default([]),
    })
    .optional(),
  entry: entrySchema.optional(),
});
/** What a file may hold, before defaults are filled in. */
export type FigureFile = z.input<typeof figureFileSchema>;

/** A knot as it is worked on: its name, its entry, its method, and what else its file held. */
export interface KnotDocument {
  readonly name: string;
  readonly entry: Entry;
  readonly method: Method;
  readonly extra: Readonly<Record<string, unknown>>;
}

export const EMPTY_ENTRY: Entry = entrySchema.parse({});

const remedies: Record<string, string> = {
  format: `Give "format": "${FIGURE_FORMAT}".`,
  points: `Give at least two points [x, y] in rope diameters, ${LIMITS.points} at most.`,
  weave: 'Use one letter, O or U, for every crossing met along the rope.',
};

/** Where in the document, as a path a person can follow: `ropes[0].points[3]`. */
const sayPath = (path: readonly PropertyKey[]): string =>
  path
    .map((p) => (typeof p === 'number' ? `[${p}]` : `.${String(p)}`))
    .join('')
    .replace(/^\./, '') || 'the file';

/** A Zod error as a refusal that names the first place. */
export function refusalOf(error: z.ZodError): Refusal {
  const issue = error.issues[0];
  if (!issue) return refuse('the file', 'It cannot be read.', 'Check it against the published schema.');
  const field = [...issue.path].reverse().find((p) => typeof p === 'string');
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : '';
  return refuse(sayPath(issue.path), `${issue.message}${more}.`, remedies[String(field)] ?? 'Mend it and try again.');
}

function checkGeometry(file: z.infer<typeof figureFileSchema>): Result<Figure> {
  const figure: Figure = { ropes: file.ropes, hosts: file.hosts };
  const ids = new Set<string>();
  for (const s of [...figure.ropes, ...figure.hosts]) {
    if (ids.has(s.id)) return refuse(s.id, 'Two strands have this id.', 'Give each rope and host an id of its own.');
    ids.add(s.id);
    for (let i = 1; i < s.points.length; i += 1) {
      if (distance(s.points[i - 1] as Point, s.points[i] as Point) < LEAST_SPACING)
        return refuse(`${s.id}, points ${i - 1} and ${i}`, 'They lie on each other.', 'Leave one of them out.');
    }
  }
  for (const r of figure.ropes) {
    if (r.closed && r.points.length < 3)
      return refuse(`rope ${r.id}`, 'A closed rope needs three points.', 'Give it more points, or leave it open.');
    const beyond = r.eyes?.find((e) => e > lastAt(r));
    if (beyond !== undefined)
      return refuse(`rope ${r.id}, eye ${beyond}`, `The rope ends at ${lastAt(r)}.`, 'Put the eye on the rope.');
  }
  for (const r of figure.ropes)
    for (const [i, w] of (r.wraps ?? []).entries()) {
      const lost = w.about.find((p) => !ids.has(p.strand));
      if (lost)
        return refuse(
          `rope ${r.id}, wrap ${i}`,
          `It goes round “${lost.strand}”, which is not there.`,
          'Name a strand of the figure.',
        );
      if (!(w.to > w.from && w.to < r.points.length))
        return refuse(
          `rope ${r.id}, wrap ${i}`,
          `The rope has points 0 to ${r.points.length - 1}.`,
          'Give the first and the last point of its turns.',
        );
    }
  const woven = readWeave(figure);
  if (!woven.ok) return woven;
  if (woven.value.length > LIMITS.crossings)
    return refuse(
      'figure',
      `It has ${woven.value.length} crossings; ${LIMITS.crossings} are the most.`,
      'Split the knot into two figures.',
    );
  return accept(figure);
}

function readMethod(figure: Figure, file: z.infer<typeof figureFileSchema>): Result<Method> {
  const given = file.method;
  if (!given || given.leaders.length === 0) return accept(methodFor(figure));
  for (const [i, l] of given.leaders.entries()) {
    const rope = figure.ropes.find((r) => r.id === l.rope);
    if (!rope)
      return refuse(`method.leaders[${i}].rope`, `There is no rope “${l.rope}”.`, 'Name a rope of the figure.');
    if (l.from >= lastAt(rope))
      return refuse(`method.leaders[${i}].from`, `The rope ends at ${lastAt(rope)}.`, 'Begin before its end.');
    if (l.kind === 'bight' && !(l.to > l.from && l.to <= lastAt(rope)))
      return refuse(
        `method.leaders[${i}].to`,
        `The rope ends at ${lastAt(rope)}.`,
        'A bight ends after it begins, on its rope.',
      );
  }
  const leaders = given.leaders as Leader[];
  const laid: Method = { figure, leaders, halts: [] };
  for (const [i, h] of given.halts.entries()) {
    const leader = leaders[h.leader];
    const rope = figure.ropes.find((r) => r.id === leader?.rope);
    if (!leader || !rope)
      return refuse(`method.halts[${i}].leader`, `There is no leader ${h.leader}.`, 'Give the index of a leader.');
    const end = leaderEnd(laid, h.leader);
    if (h.at <= leader.from || h.at > end + 1e-9)
      return refuse(
        `method.halts[${i}].at`,
        `The leader goes from ${leader.from} to ${end}.`,
        'Put the halt between them.',
      );
  }
  const method = methodFor(figure);
  const rest = method.leaders.filter((l) => !leaders.some((g) => g.kind === 'end' && g.rope === l.rope));
  return accept({ figure, leaders: [...leaders, ...rest], halts: [...(given.halts as Halt[])].sort(haltOrder) });
}

/** Reads parsed JSON as a knot. Nothing is thrown: bad input is a refusal with place, reason and remedy. */
export function readKnot(data: unknown): Result<KnotDocument> {
  const parsed = figureFileSchema.safeParse(data);
  if (!parsed.success) return refusalOf(parsed.error);
  const figure = checkGeometry(parsed.data);
  if (!figure.ok) return figure;
  const method = readMethod(figure.value, parsed.data);
  if (!method.ok) return method;
  const { format: _format, name, ropes: _ropes, hosts: _hosts, method: _method, entry, ...extra } = parsed.data;
  return accept({ name: name ?? 'Untitled knot', entry: entry ?? EMPTY_ENTRY, method: method.value, extra });
}

/** Longest file read, in characters: 10^6 points are refused before they are parsed. */
export const FILE_LIMIT = 2_000_000;

/** Reads the text of a figure file. */
export function readKnotText(text: string): Result<KnotDocument> {
  if (text.length > FILE_LIMIT)
    return refuse(
      'the file',
      `It has ${text.length} characters; ${FILE_LIMIT} are the most (a rope holds ${LIMITS.points} points).`,
      'Draw the figure with fewer points.',
    );
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (e) {
    return refuse('the file', `It is not JSON: ${(e as Error).message}.`, 'Save it as a figure file and try again.');
  }
  return readKnot(data);
}

/** Writes a knot as the data of a figure file. */
export function writeKnot(knot: KnotDocument): FigureFile {
  const { figure, leaders, halts } = knot.method;
  return {
    ...knot.extra,
    format: FIGURE_FORMAT,
    name: knot.name,
    entry: knot.entry,
    ropes: figure.ropes.map((r) => ({
      ...r,
      points: r.points.map((p): [number, number] => [p[0], p[1]]),
      ends: [r.ends[0], r.ends[1]],
      ...(r.eyes ? { eyes: [...r.eyes] } : {}),
    })) as FigureFile['ropes'],
    hosts: figure.hosts.map((h) => ({
      ...h,
      points: h.points.map((p): [number, number] => [p[0], p[1]]),
    })),
    method: { leaders: leaders.map((l) => ({ ...l })), halts: halts.map((h) => ({ ...h })) },
  };
}

/** The published JSON Schema of the figure file. */
export const figureJsonSchema = (): Record<string, unknown> => z.toJSONSchema(figureFileSchema, { io: 'input' });

/** A new knot with nothing on its board. */
export const blankKnot = (name: string): KnotDocument => ({
  name,
  entry: EMPTY_ENTRY,
  method: { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
  extra: {},
});
