/**
 * Works out what is known of each knot for choosing one: traits, behaviour, rope used.
 */
import {
  accept,
  behaviourOf,
  cautionsFor,
  crossingsOf,
  finishedFigure,
  keysOf,
  readKnot,
  ropeInKnot,
  type KnotDocument,
} from '@foxtrail/core';
import { choosable, judgedOf, patternKeys, patternOf } from '@foxtrail/pattern-book';
import type { KnownKnot } from '../../data/choose';
import type { Job } from './protocol';

/** Knots worked out between two looks at messages. */
const AT_A_TIME = 4;

function knownOf(ref: string, knot: KnotDocument): KnownKnot {
  const figure = finishedFigure(knot.method);
  const keys = keysOf(figure);
  const matches = keys.ok ? patternKeys().named(keys.value.key) : [];
  return {
    ...choosable(ref, knot, { matches }),
    name: knot.name,
    class: knot.entry.class,
    useGrade: knot.entry.useGrade,
    crossings: crossingsOf(figure).length,
    rope: ropeInKnot(figure),
    behaviour: behaviourOf(knot, judgedOf(knot)),
    cautions: cautionsFor(knot.entry.useGrade, knot.entry.cautions),
  };
}

export const choose: Job<'choose'> = async ({ entries }, { share, pause }) => {
  const known: KnownKnot[] = [];
  for (const [i, { ref, document }] of entries.entries()) {
    if (i % AT_A_TIME === 0) {
      share(i / entries.length);
      await pause();
    }
    const read = document ? readKnot(document) : undefined;
    const knot = read ? (read.ok ? read.value : undefined) : patternOf(ref.replace(/^pattern:/, ''))?.knot;
    if (knot) known.push(knownOf(ref, knot));
  }
  return accept(known);
};
