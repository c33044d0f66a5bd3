/**
 * Reading the figure file in two stages: the shape by Zod, then the geometry.
 */
import { meetsMoreThan, readWeave } from '../figure/crossings.js';
import { LEAST_SPACING, LIMITS } from '../figure/bounds.js';
import { lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { distance, type Point } from '../figure/point.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { reelsTrouble } from '../tying/reels.js';
import { dressingTrouble } from '../dressing/dressed.js';
import type { KnotDocument, NamedMethod } from '../knot/document.js';
import { EMPTY_ENTRY } from '../knot/entry.js';
import { methodFor } from '../tying/follow.js';
import {
  inTrailOrder,
  isLed,
  leaderEnd,
  wayOf,
  type Halt,
  type Layout,
  type Leader,
  type Method,
  type Telling,
} from '../tying/method.js';
import { takeEarlierShown } from './earlier-shown.js';
import { figureFileSchema, type DrawnShape, type LayingShape, type MethodShape } from './figure-schema.js';
import { refusalOf } from './refusal-of.js';

function checkGeometry(file: DrawnShape): Result<Figure> {
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
    const marks = { eye: r.eyes, flip: r.flips, break: r.breaks?.map((b) => b.at) };
    for (const [mark, places] of Object.entries(marks)) {
      const beyond = places?.find((e) => e > lastAt(r));
      if (beyond !== undefined)
        return refuse(
          `rope ${r.id}, ${mark} ${beyond}`,
          `The rope ends at ${lastAt(r)}.`,
          `Put the ${mark} on the rope.`,
        );
    }
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
  if (meetsMoreThan(figure, LIMITS.crossings))
    return refuse(
      'figure',
      `It has more than ${LIMITS.crossings} crossings, which are the most.`,
      'Split the knot into two figures.',
    );
  const woven = readWeave(figure);
  return woven.ok ? accept(figure) : woven;
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
function readLaying(figure: Figure, given: LayingShape, path: string, relaid: boolean): Result<Layout> {
  const method = methodFor(figure);
  for (const [i, f] of (given.finish ?? []).entries()) {
    const trouble = tellingRefusal(figure, `${path}.finish[${i}]`, f);
    if (trouble) return trouble;
  }
  /** What stands beside the steps that lay. */
  const beside = {
    ...(given.finish && given.finish.length > 0 ? { finish: given.finish } : {}),
    ...(given.marks && given.marks.length > 0 ? { marks: given.marks } : {}),
    ...(given.exhibits && given.exhibits.length > 0 ? { exhibits: given.exhibits } : {}),
    ...(given.dressings && given.dressings.length > 0 ? { dressings: given.dressings } : {}),
    ...(given.footage && given.footage.length > 0 ? { footage: given.footage } : {}),
  };
  const lost = (given.dressings ?? [])
    .flatMap((d) => [...(d.pulls ?? []), ...(d.nudges ?? [])])
    .find(({ place }) => place.at > lastAt(ropeOf(figure, place.strand) ?? { points: [], closed: false }));
  if (lost)
    return refuse(
      `${path}.dressings`,
      `There is no place ${lost.place.at} on “${lost.place.strand}”.`,
      'Name a rope of the figure and a place on it.',
    );
  const trouble = dressingTrouble(given.dressings ?? []);
  if (trouble) return { ...trouble, place: `${path}.dressings` };
  if (given.leaders.length === 0) return accept({ ...method, ...beside });
  for (const [i, l] of given.leaders.entries()) {
    const rope = figure.ropes.find((r) => r.id === l.rope);
    if (!rope)
      return refuse(`${path}.leaders[${i}].rope`, `There is no rope “${l.rope}”.`, 'Name a rope of the figure.');
    const isFirst = l.kind === 'end' && l.leads === 'first';
    if (relaid || isFirst ? l.from > lastAt(rope) : l.from >= lastAt(rope))
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
    const way = wayOf(leader);
    if ((h.at - leader.from) * way <= 0 || (h.at - end) * way > 1e-9)
      return refuse(`${place}.at`, `The leader goes from ${leader.from} to ${end}.`, 'Put the halt between them.');
    if (h.again && h.again.of >= i)
      return refuse(`${place}.again`, 'A step does again what an earlier one did.', 'Name an earlier step.');
    const trouble = tellingRefusal(figure, place, h);
    if (trouble) return trouble;
  }
  const rest = method.leaders.filter((l) => !isLed(leaders, ropeOf(figure, l.rope) as Rope));
  return accept({
    figure,
    leaders: [...leaders, ...rest],
    halts: inTrailOrder(given.halts as readonly Halt[], leaders),
    ...beside,
  });
}

/** One way to tie the knot, with all its layouts. */
function readMethod(drawn: DrawnShape, given: MethodShape | undefined, path: string): Result<Method> {
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
  const read: Method = {
    ...first.value,
    ...(given.layout === undefined ? {} : { name: given.layout }),
    ...(relaid.length > 0 ? { relaid } : {}),
  };
  if (!given.reels || given.reels.length === 0) return accept(read);
  const trouble = reelsTrouble(read, given.reels);
  return trouble ? { ...trouble, place: `${path}method.${trouble.place}` } : accept({ ...read, reels: given.reels });
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
    ...takeEarlierShown(entry ?? EMPTY_ENTRY, method.value),
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
