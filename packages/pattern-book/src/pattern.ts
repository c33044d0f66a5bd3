/**
 * A pattern: a knot of the book, laid open, with its steps, and what is known about it.
 */
import {
  lastAt,
  readKnot,
  sayRefusal,
  type Figure,
  type KnotClass,
  type KnotDocument,
  type Rope,
  type UseGrade,
} from '@foxtrail/core';

/** A halt at the end of its rope. */
export const END = Infinity;

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
  /** Other ways of tying that end in the same knot. */
  readonly otherMethods?: readonly { readonly name: string; readonly figure: () => Figure }[];
  /** Where steps end: rope index, trail position, and the author's text where the composed one is not enough. */
  readonly halts: readonly (readonly [rope: number, at: number, text?: string])[];
  /** The pattern that this one is a wrong way of, and how to tell it. */
  readonly wrongWayOf?: { readonly id: string; readonly tell: string };
}

export interface Pattern {
  readonly id: string;
  readonly knot: KnotDocument;
  readonly wrongWayOf?: { readonly id: string; readonly tell: string };
}

/** Lays a pattern. A pattern that cannot be read is a bug in the book, and throws. */
export function lay(source: PatternSource, nameOf: (id: string) => string): Pattern {
  const figure = source.figure();
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
      leaders: figure.ropes.map((r) => ({ kind: 'end', rope: r.id, from: 0 })),
      halts: source.halts.map(([leader, at, text]) => ({
        leader,
        at: Math.min(at, lastAt(figure.ropes[leader] as Rope)),
        ...(text ? { text } : {}),
      })),
    },
  };
  const read = readKnot(file);
  if (!read.ok) throw new Error(`pattern ${source.id}: ${sayRefusal(read)}`);
  return { id: source.id, knot: read.value, ...(source.wrongWayOf ? { wrongWayOf: source.wrongWayOf } : {}) };
}
