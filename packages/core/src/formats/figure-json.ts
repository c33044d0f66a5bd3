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
import { HALT_LIMIT, LAYOUT_LIMIT, methodFor, NAME_LENGTH } from '../tying/method-edit.js';
import {
  inTrailOrder,
  leaderEnd,
  type Halt,
  type Layout,
  type Leader,
  type Method,
  type Telling,
} from '../tying/method.js';
import { CALLOUT_LENGTH, CALLOUT_LIMIT, CLOSE_UPS, LIT_LIMIT, TEXT_LIMIT } from '../tying/telling.js';
import { judgedSchema, trialSchema } from '../choose/judged.js';
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
export const plainText = (max: number): z.ZodString =>
  z.string().trim().max(max).regex(plain, 'plain text only: no markup and no control characters');

/** A knot's name: one line of plain text. */
export const nameSchema = plainText(NAME_LIMIT).min(1, 'a name is needed');

/** A concept's or a school's id: lower-case words joined by hyphens. */
export const conceptId = z
  .string()
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'an id is lower-case words joined by hyphens')
  .max(60);

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
  /** The words its lesson is written in, where they are not the house's, and the concepts it explains to learners first. */
  words: z
    .looseObject({
      school: conceptId.optional(),
      introduces: z.array(conceptId).max(40).optional(),
    })
    .optional(),
  /** What is judged of it for choosing, and what it does when it is tried. */
  judged: judgedSchema.optional(),
  behaviour: z.array(trialSchema).max(24).optional(),
  /** Whether its lesson says what other schools do. */
  otherSchools: z.boolean().optional(),
  /** The hand it is drawn for, where that is the left. */
  hand: z.literal('left').optional(),
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
  bight: z.boolean().optional(),
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
const placeSchema = { strand: idSchema, at: z.number().min(0) };

/** What a step says and how it is shown. */
const tellingShape = {
  text: z.string().max(TEXT_LIMIT).optional(),
  view: z.enum(['front', 'back']).optional(),
  closeUp: z.number().min(CLOSE_UPS.least).max(CLOSE_UPS.most).optional(),
  lit: z
    .array(z.object({ strand: idSchema, from: z.number().min(0), to: z.number().min(0) }))
    .max(LIT_LIMIT)
    .optional(),
  callouts: z
    .array(z.object({ ...placeSchema, text: plainText(CALLOUT_LENGTH) }))
    .max(CALLOUT_LIMIT)
    .optional(),
  ghost: z.boolean().optional(),
  arrow: z.boolean().optional(),
  numbers: z.boolean().optional(),
};
const haltSchema = z.looseObject({
  leader: z.number().int().min(0),
  at: z.number().min(0),
  again: z
    .object({
      of: z.number().int().min(0),
      way: z.enum(['once more', 'from the other side', 'with the other rope']),
    })
    .optional(),
  ...tellingShape,
});
const finishSchema = z.looseObject({ kind: z.enum(['dress', 'set', 'check']), ...tellingShape });

const ropesSchema = z.array(ropeSchema).max(LIMITS.strands);
const hostsSchema = z.array(hostSchema).max(LIMITS.strands).default([]);
const layoutName = plainText(NAME_LENGTH).optional();
/** How a layout is laid and finished. */
const layingShape = {
  leaders: z.array(leaderSchema).max(LIMITS.strands).default([]),
  halts: z.array(haltSchema).max(HALT_LIMIT).default([]),
  finish: z.array(finishSchema).max(HALT_LIMIT).optional(),
};
const relaidSchema = z.looseObject({
  name: layoutName,
  ropes: ropesSchema,
  hosts: hostsSchema,
  /** What passes what on the way from the layout before. */
  passes: layoutName,
  ...layingShape,
});
const methodSchema = z.looseObject({
  /** What this way to tie the knot is called: “Hand-wrapped”. */
  name: nameSchema.optional(),
  /** What its first layout is called: “Open”. */
  layout: layoutName,
  ...layingShape,
  /** The layouts in which the knot is laid anew, in order. */
  relaid: z
    .array(relaidSchema)
    .max(LAYOUT_LIMIT - 1)
    .optional(),
});
/** Most ways to tie one knot besides the first. */
export const OTHER_METHODS = 5;

export const figureFileSchema = z.looseObject({
  format: z.literal(FIGURE_FORMAT),
  name: nameSchema.optional(),
  ropes: ropesSchema,
  hosts: hostsSchema,
  method: methodSchema.optional(),
  /** Other ways to tie the same knot. */
  others: z
    .array(z.looseObject({ ropes: ropesSchema, hosts: hostsSchema, method: methodSchema }))
    .max(OTHER_METHODS)
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
  /** What the method is called, where there are several. */
  readonly methodName?: string | undefined;
  /** Other ways to tie the knot. */
  readonly others?: readonly NamedMethod[] | undefined;
  readonly extra: Readonly<Record<string, unknown>>;
}

/** One of several ways to tie a knot. */
export interface NamedMethod {
  readonly name: string;
  readonly method: Method;
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

interface Drawn {
  readonly ropes: z.infer<typeof ropesSchema>;
  readonly hosts: z.infer<typeof hostsSchema>;
}

function checkGeometry(file: Drawn): Result<Figure> {
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

interface Laying {
  readonly leaders: readonly z.infer<typeof leaderSchema>[];
  readonly halts: readonly z.infer<typeof haltSchema>[];
  readonly finish?: readonly z.infer<typeof finishSchema>[] | undefined;
}

/** Why a step shows something that is not there. */
function tellingRefusal(figure: Figure, place: string, { lit, callouts }: Telling): Refusal | undefined {
  const wrong = [...(lit ?? []).map((s) => ({ ...s, at: s.to })), ...(callouts ?? [])].find((p) => {
    const strand = figure.ropes.find((r) => r.id === p.strand) ?? figure.hosts.find((h) => h.id === p.strand);
    return !strand || p.at > strand.points.length;
  });
  return (
    wrong &&
    refuse(
      place,
      `There is no place ${wrong.at} on “${wrong.strand}”.`,
      'Name a strand of the figure and a place on it.',
    )
  );
}

/** Leaders, halts and finishing steps of a layout; `path` names it in refusals. In a layout laid anew all may be laid already. */
function readLaying(figure: Figure, given: Laying, path: string, relaid: boolean): Result<Layout> {
  const method = methodFor(figure);
  for (const [i, f] of (given.finish ?? []).entries()) {
    const trouble = tellingRefusal(figure, `${path}.finish[${i}]`, f);
    if (trouble) return trouble;
  }
  const finish = given.finish && given.finish.length > 0 ? { finish: given.finish } : {};
  if (given.leaders.length === 0) return accept({ ...method, ...finish });
  for (const [i, l] of given.leaders.entries()) {
    const rope = figure.ropes.find((r) => r.id === l.rope);
    if (!rope)
      return refuse(`${path}.leaders[${i}].rope`, `There is no rope “${l.rope}”.`, 'Name a rope of the figure.');
    if (relaid ? l.from > lastAt(rope) : l.from >= lastAt(rope))
      return refuse(`${path}.leaders[${i}].from`, `The rope ends at ${lastAt(rope)}.`, 'Begin before its end.');
    if (l.kind === 'bight' && !(l.to > l.from && l.to <= lastAt(rope)))
      return refuse(
        `${path}.leaders[${i}].to`,
        `The rope ends at ${lastAt(rope)}.`,
        'A bight ends after it begins, on its rope.',
      );
  }
  const leaders = given.leaders as readonly Leader[];
  const laid: Layout = { figure, leaders, halts: [] };
  for (const [i, h] of given.halts.entries()) {
    const leader = leaders[h.leader];
    const place = `${path}.halts[${i}]`;
    if (!leader) return refuse(`${place}.leader`, `There is no leader ${h.leader}.`, 'Give the index of a leader.');
    const end = leaderEnd(laid, h.leader);
    if (h.at <= leader.from || h.at > end + 1e-9)
      return refuse(`${place}.at`, `The leader goes from ${leader.from} to ${end}.`, 'Put the halt between them.');
    if (h.again && h.again.of >= i)
      return refuse(`${place}.again`, 'A step does again what an earlier one did.', 'Name an earlier step.');
    const trouble = tellingRefusal(figure, place, h);
    if (trouble) return trouble;
  }
  const rest = method.leaders.filter((l) => !leaders.some((g) => g.kind === 'end' && g.rope === l.rope));
  return accept({
    figure,
    leaders: [...leaders, ...rest],
    halts: inTrailOrder(given.halts as readonly Halt[]),
    ...finish,
  });
}

/** One way to tie the knot, with all its layouts. */
function readMethod(drawn: Drawn, given: z.infer<typeof methodSchema> | undefined, path: string): Result<Method> {
  const figure = checkGeometry(drawn);
  if (!figure.ok) return figure;
  if (!given) return accept(methodFor(figure.value));
  const first = readLaying(figure.value, given, `${path}method`, false);
  if (!first.ok) return first;
  const relaid: Layout[] = [];
  for (const [i, l] of (given.relaid ?? []).entries()) {
    const place = `${path}method.relaid[${i}]`;
    const drawing = checkGeometry(l);
    if (!drawing.ok) return { ...drawing, place: `${place}, ${drawing.place}` };
    const layout = readLaying(drawing.value, l, place, true);
    if (!layout.ok) return layout;
    relaid.push({
      ...layout.value,
      ...(l.name === undefined ? {} : { name: l.name }),
      ...(l.passes === undefined ? {} : { passes: l.passes }),
    });
  }
  return accept({
    ...first.value,
    ...(given.layout === undefined ? {} : { name: given.layout }),
    ...(relaid.length > 0 ? { relaid } : {}),
  });
}

/** Reads parsed JSON as a knot. Nothing is thrown: bad input is a refusal with place, reason and remedy. */
export function readKnot(data: unknown): Result<KnotDocument> {
  const parsed = figureFileSchema.safeParse(data);
  if (!parsed.success) return refusalOf(parsed.error);
  const { format: _format, name, ropes, hosts, method: given, others: givenOthers, entry, ...extra } = parsed.data;
  const method = readMethod({ ropes, hosts }, given, '');
  if (!method.ok) return method;
  const others: NamedMethod[] = [];
  for (const [i, o] of (givenOthers ?? []).entries()) {
    const other = readMethod(o, o.method, `others[${i}].`);
    if (!other.ok) return other;
    others.push({ name: o.method.name ?? `Method ${i + 2}`, method: other.value });
  }
  return accept({
    name: name ?? 'Untitled knot',
    entry: entry ?? EMPTY_ENTRY,
    method: method.value,
    ...(given?.name === undefined ? {} : { methodName: given.name }),
    ...(others.length > 0 ? { others } : {}),
    extra,
  });
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

type Written = Pick<FigureFile, 'ropes' | 'hosts'>;

const writeFigure = (figure: Figure): Written => ({
  ropes: figure.ropes.map((r) => ({
    ...r,
    points: r.points.map((p): [number, number] => [p[0], p[1]]),
    ends: [r.ends[0], r.ends[1]],
    ...(r.eyes ? { eyes: [...r.eyes] } : {}),
  })) as FigureFile['ropes'],
  hosts: figure.hosts.map((h) => ({ ...h, points: h.points.map((p): [number, number] => [p[0], p[1]]) })),
});

const writeLaying = ({ leaders, halts, finish }: Layout): object => ({
  leaders: leaders.map((l) => ({ ...l })),
  halts: halts.map((h) => ({ ...h })),
  ...(finish && finish.length > 0 ? { finish: finish.map((f) => ({ ...f })) } : {}),
});

const writeMethod = (method: Method, name: string | undefined): NonNullable<FigureFile['method']> => ({
  ...(name === undefined ? {} : { name }),
  ...(method.name === undefined ? {} : { layout: method.name }),
  ...writeLaying(method),
  ...(method.relaid && method.relaid.length > 0
    ? {
        relaid: method.relaid.map((l) => ({
          ...(l.name === undefined ? {} : { name: l.name }),
          ...(l.passes === undefined ? {} : { passes: l.passes }),
          ...writeFigure(l.figure),
          ...writeLaying(l),
        })),
      }
    : {}),
});

/** Writes a knot as the data of a figure file. */
export const writeKnot = (knot: KnotDocument): FigureFile => ({
  ...knot.extra,
  format: FIGURE_FORMAT,
  name: knot.name,
  entry: knot.entry,
  ...writeFigure(knot.method.figure),
  method: writeMethod(knot.method, knot.methodName),
  ...(knot.others && knot.others.length > 0
    ? {
        others: knot.others.map(({ name, method }) => ({
          ...writeFigure(method.figure),
          method: writeMethod(method, name),
        })),
      }
    : {}),
});

/** The published JSON Schema of the figure file. */
export const figureJsonSchema = (): Record<string, unknown> => z.toJSONSchema(figureFileSchema, { io: 'input' });

/** A new knot with nothing on its board. */
export const blankKnot = (name: string): KnotDocument => ({
  name,
  entry: EMPTY_ENTRY,
  method: { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
  extra: {},
});
