/**
 * Works out what is known of each knot for choosing one: traits, behaviour, rope used.
 */
import {
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
import type { ChooseMessage, ChooseOrder, KnownKnot } from '../data/choose';

const tell = (message: ChooseMessage): void => postMessage(message);

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

addEventListener('message', ({ data }: MessageEvent<ChooseOrder>) => {
  const known = data.entries.flatMap(({ ref, document }, i): KnownKnot[] => {
    if (i % 4 === 0) tell({ kind: 'progress', share: i / data.entries.length });
    const read = document ? readKnot(document) : undefined;
    const knot = read ? (read.ok ? read.value : undefined) : patternOf(ref.replace(/^pattern:/, ''))?.knot;
    return knot ? [knownOf(ref, knot)] : [];
  });
  tell({ kind: 'known', known });
});
