/** `foxtrail atlas`: what each wrong crossing makes of a knot, and what puts a wrong knot right. */
import {
  atlasOf,
  crossingList,
  finishedFigure,
  repairOf,
  sayOutcome,
  verdictOf,
  type KnotDocument,
  type Repairs,
} from '@foxtrail/core';
import { claimOf, patternKeys } from '@foxtrail/pattern-book';
import { answer, CLEAN, complain, withFile, type Command } from '../command.js';

/** What makes a knot what it claims to be, where it is not. */
function repairsOf(knot: KnotDocument): Repairs['repairs'] {
  const figure = finishedFigure(knot.method);
  const claim = claimOf(knot);
  const known = claim && { id: claim.id, name: claim.knot.name, figure: finishedFigure(claim.knot.method) };
  const verdict = verdictOf(figure, known, patternKeys());
  const keys = claim && patternKeys().entries.find((e) => e.id === claim.id);
  const repair = verdict.ok && verdict.value.state === 'fails' && keys ? repairOf(figure, keys) : undefined;
  return repair?.ok ? repair.value.repairs : [];
}

export const atlas: Command = {
  name: 'atlas',
  usage: [['FILE', 'what each wrong crossing makes of the knot']],
  run: (call) =>
    withFile(call, 'atlas', (knot, file) => {
      const found = atlasOf(finishedFigure(knot.method), patternKeys());
      if (!found.ok) return complain({ ...found, place: `${file}: ${found.place}` }, call);
      const { mistakes, groups } = found.value;
      const repairs = repairsOf(knot);
      answer(call, { name: knot.name, ...found.value, repairs }, () => [
        `${knot.name}: ${mistakes.length} crossings, each swapped in turn`,
        ...groups.map((g) => `  ${sayOutcome(g)}: ${crossingList(g.crossings)}`),
        ...(repairs[0]
          ? [`To make it ${claimOf(knot)?.knot.name ?? ''}: swap ${crossingList(repairs[0].crossings)}.`]
          : []),
      ]);
      return CLEAN;
    }),
};
