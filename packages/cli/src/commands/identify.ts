/** `foxtrail identify`: what figures are, by the pattern book. */
import { accept, finishedFigure, kinshipOf, nearestOf, sayKinship, verdictOf } from '@foxtrail/core';
import { knownKnots, patternKeys } from '@foxtrail/pattern-book';
import { forEachFile, type Command } from '../command.js';

export const identify: Command = {
  name: 'identify',
  usage: [['FILE…', 'what the figures are, by the pattern book']],
  run: (call) =>
    forEachFile(call, 'identify', (knot) => {
      const figure = finishedFigure(knot.method);
      const found = verdictOf(figure, undefined, patternKeys());
      if (!found.ok) return found;
      const { headline, evidence, matches, leftOut } = found.value;
      const nearest = matches.length > 0 ? [] : nearestOf(figure, knownKnots()).map(({ id, name }) => ({ id, name }));
      const kinship = kinshipOf(figure, patternKeys()).map(sayKinship);
      return accept({
        clean: matches.some((m) => m.relation === 'same' || m.relation === 'mirror'),
        data: { name: knot.name, headline, evidence, matches, nearest, kinship, leftOut },
        lines: [
          headline,
          ...matches.map((m) => `  ${m.name} (${m.id}): ${m.relation}`),
          ...(nearest.length > 0 ? [`  Most like it: ${nearest.map((n) => n.name).join(', ')}`] : []),
          ...kinship.map((k) => `  ${k}`),
          ...leftOut.map((l) => `  Left out: ${l}`),
        ],
      });
    }),
};
