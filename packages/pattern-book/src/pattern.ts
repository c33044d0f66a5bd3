/**
 * A pattern: a knot of the book, laid open, with its steps, and what is known about it.
 */
import {
  changeMethod,
  lastAt,
  leaderEnd,
  readKnot,
  sayRefusal,
  type Dressing,
  type Figure,
  type Halt,
  type KnotClass,
  type KnotDocument,
  type LayoutEdit,
  type Leader,
  type UseGrade,
} from '@foxtrail/core';
import { settledFigure } from './settled.js';

/** A halt at the end of its rope, or where its bight is drawn out. */
export const END = Infinity;

/** Where a step ends: rope index, trail position, and the author's text where the composed one is not enough. */
type SourceHalt = readonly [rope: number, at: number, text?: string];

/** Another way to tie a pattern: drawn by hand as rope lies, it ends in the same knot. */
export interface OtherWay {
  readonly name: string;
  readonly figure: () => Figure;
  readonly leads?: 'bight';
  readonly halts: readonly SourceHalt[];
  readonly relaid?: readonly Relaid[];
}

/** How a knot lies once it has been laid anew: by what is said of it, or led on from there. */
export interface Relaid {
  readonly name: string;
  readonly figure: () => Figure;
  /** What passes what on the way there, where it is not the same knot any more. */
  readonly passes?: string;
  readonly set?: string;
  readonly dress?: string;
  /** Where its end leads on from, and the halts of that. */
  readonly from?: number;
  readonly halts?: readonly SourceHalt[];
}

export interface PatternSource {
  /** Lower-case words joined by hyphens; the pattern's address in the book. */
  readonly id: string;
  readonly name: string;
  readonly aliases?: readonly string[];
  readonly class: KnotClass;
  readonly family: string;
  readonly useGrade?: UseGrade;
  readonly summary: string;
  readonly cautions?: readonly string[];
  readonly cord?: { readonly name: string; readonly diameterMm: number };
  readonly figure: () => Figure;
  /** The figure is drawn by hand as rope lies, and shown as it is; absent: it is settled. */
  readonly drawn?: true;
  /** What its way to tie is called, where there are several; and the others. */
  readonly wayName?: string;
  readonly otherWays?: readonly OtherWay[];
  /** What ties it; absent: the end of each rope in turn, of a sling its bight. A bight is laid with both legs at once. */
  readonly leads?: 'bight';
  /** Trail position from which both ends of the rope lead: the working end first, then what was its standing part. */
  readonly bothEndsFrom?: number;
  /** Bights of one rope, each drawn through what the ones before it made, and where each lies on it; what comes after the last is its end. */
  readonly bights?: readonly { readonly from: number; readonly to: number }[];
  /** A rope whose end goes through last as a bight, and the stretch of it that the bight is. */
  readonly slip?: { readonly rope: number; readonly from: number; readonly to: number };
  /** Absent: where moves end. */
  readonly halts?: readonly SourceHalt[];
  /** How it is dressed and set, where not as by itself. */
  readonly dressing?: Dressing;
  /** Texts by the number of the step, from 1, that say why; how, the composed ones say. */
  readonly texts?: Readonly<Record<number, string>>;
  /** The pattern that this one is a wrong way of, and how to tell it. */
  readonly wrongWayOf?: { readonly id: string; readonly tell: string };
}

export interface Pattern {
  readonly id: string;
  readonly knot: KnotDocument;
  readonly wrongWayOf?: { readonly id: string; readonly tell: string };
}

/** The knot with its figure settled, its halts and marks where they were on the trail; a halt at its leader's end stays there. */
function asRopeLies(id: string, knot: KnotDocument): KnotDocument {
  const settled = settledFigure(id, knot.method.figure);
  if (!settled) return knot;
  const atEnd = knot.method.halts.map((h) => h.at === leaderEnd(knot.method, h.leader));
  const done = changeMethod(knot.method, 0, { kind: 'redraw', ...settled });
  if (!done.ok) throw new Error(`pattern ${id}: ${sayRefusal(done)}`);
  const halts = done.value.halts.map((h, i) => (atEnd[i] === true ? { ...h, at: leaderEnd(done.value, h.leader) } : h));
  return { ...knot, method: { ...done.value, halts } };
}

/** The knot with a step for every move where it has none, and with the texts of the book. */
function asToldByMoves(source: PatternSource, knot: KnotDocument): KnotDocument {
  const edits: LayoutEdit[] = [
    ...(source.halts ? [] : [{ kind: 'propose-halts' } as const]),
    ...Object.entries(source.texts ?? {}).map(
      ([step, text]) => ({ kind: 'set-text', index: Number(step) - 1, text }) as const,
    ),
  ];
  const method = edits.reduce((m, edit) => {
    const done = changeMethod(m, 0, edit);
    if (!done.ok) throw new Error(`pattern ${source.id}: ${sayRefusal(done)}`);
    return done.value;
  }, knot.method);
  return { ...knot, method };
}

/** What a bight that is the whole rope leads, or the end of each rope. */
const leadersOf = (figure: Figure, leads: 'bight' | undefined, from = 0): Leader[] =>
  figure.ropes.map((r): Leader =>
    // A sling has no end: its bight is laid, from where it is held.
    r.closed
      ? { kind: 'bight', rope: r.id, from: 1, to: lastAt(r) - 1 }
      : leads === 'bight'
        ? { kind: 'bight', rope: r.id, from: 0, to: lastAt(r) }
        : { kind: 'end', rope: r.id, from },
  );

const haltsOf = (figure: Figure, leaders: readonly Leader[], halts: readonly SourceHalt[]): Halt[] =>
  halts.map(([leader, at, text]) => ({
    leader,
    at: Math.min(at, leaderEnd({ figure, leaders, halts: [] }, leader)),
    ...(text ? { text } : {}),
  }));

/** Another way to tie, as a figure file has it. */
function otherWay({ name, figure: draw, leads, halts, relaid }: OtherWay): object {
  const figure = draw();
  const leaders = leadersOf(figure, leads);
  const method = { name, leaders, halts: haltsOf(figure, leaders, halts) };
  return { ...figure, method: { ...method, ...(relaid ? { relaid: relaid.map(laidAnew) } : {}) } };
}

function laidAnew({ name, figure: draw, passes, set, dress, from, halts: further = [] }: Relaid): object {
  const figure = draw();
  const onward = figure.ropes.map((r): Leader => ({ kind: 'end', rope: r.id, from: from ?? lastAt(r) }));
  const finish = [
    ...(dress === undefined ? [] : [{ kind: 'dress', text: dress }]),
    ...(set === undefined ? [] : [{ kind: 'set', text: set }]),
  ];
  return {
    name,
    ...figure,
    leaders: onward,
    halts: haltsOf(figure, onward, further),
    ...(passes === undefined ? {} : { passes }),
    ...(finish.length > 0 ? { finish } : {}),
  };
}

/** Lays a pattern. A pattern that cannot be read is a bug in the book, and throws. */
export function lay(source: PatternSource, nameOf: (id: string) => string): Pattern {
  const figure = source.figure();
  const { slip, bights } = source;
  const leaders = [
    ...(bights ?? []).map(({ from, to }): Leader => ({ kind: 'bight', rope: figure.ropes[0]!.id, from, to })),
    ...leadersOf(figure, source.leads, bights ? bights.at(-1)!.to : source.bothEndsFrom),
    ...(source.bothEndsFrom === undefined
      ? []
      : [{ kind: 'end', rope: figure.ropes[0]!.id, from: source.bothEndsFrom, leads: 'first' } as const]),
    ...(slip ? [{ kind: 'bight', rope: figure.ropes[slip.rope]!.id, from: slip.from, to: slip.to } as const] : []),
  ];
  const file = {
    format: 'foxtrail-figure/1',
    name: source.name,
    entry: {
      aliases: [...(source.aliases ?? [])],
      class: source.class,
      family: source.family,
      useGrade: source.useGrade ?? 'light duty',
      summary: source.summary,
      cautions: [...(source.cautions ?? [])],
      ...(source.cord ? { cord: source.cord } : {}),
      ...(source.wrongWayOf ? { wrongWayOf: nameOf(source.wrongWayOf.id) } : {}),
    },
    ropes: figure.ropes,
    hosts: figure.hosts,
    method: {
      ...(source.wayName === undefined ? {} : { name: source.wayName }),
      leaders,
      halts: haltsOf(figure, leaders, source.halts ?? []),
      ...(source.dressing ? { dressings: [source.dressing] } : {}),
    },
    ...(source.otherWays ? { others: source.otherWays.map(otherWay) } : {}),
  };
  const read = readKnot(file);
  if (!read.ok) throw new Error(`pattern ${source.id}: ${sayRefusal(read)}`);
  const knot = asToldByMoves(source, asRopeLies(source.id, read.value));
  return { id: source.id, knot, ...(source.wrongWayOf ? { wrongWayOf: source.wrongWayOf } : {}) };
}
