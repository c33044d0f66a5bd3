/** `foxtrail tell`: the steps of a method as the composer tells them, with halts proposed where there are none. */
import { accept, changeMethod, composeStep, stepsOf, vocabularyFor, wordedOf, type Method } from '@foxtrail/core';
import { GLOSSARY } from '@foxtrail/pattern-book';
import { forEachFile, type Command } from '../command.js';

/** The method with a halt after each move of every end that has none; one that has them all as it is. */
function proposed(method: Method): Method {
  const done = changeMethod(method, 0, { kind: 'propose-halts' });
  return done.ok ? done.value : method;
}

export const tell: Command = {
  name: 'tell',
  usage: [['FILE… [--words S]', 'steps in words, move by move; halts are proposed for what has none']],
  run: (call) =>
    forEachFile(call, 'tell', (knot) => {
      const words = vocabularyFor(wordedOf(knot), call.options.words, GLOSSARY);
      const method = proposed(knot.method);
      const isOwn = new Set(knot.method.halts.map((h) => `${h.leader} ${h.at}`));
      const steps = stepsOf(method).map((step) => {
        const { text, moves } = composeStep(method, step.index, words);
        return {
          step: step.index + 1,
          ...(step.stretch
            ? {
                halt: { rope: step.stretch.rope, at: step.stretch.to },
                proposed: step.layout === 0 && !isOwn.has(`${step.stretch.leader} ${step.stretch.to}`),
              }
            : {}),
          text,
          moves: moves.map((m) => ({ kind: m.kind, crossings: m.crossings, passes: m.ways })),
          // What the author wrote in its place.
          ...(step.telling.text === undefined ? {} : { written: step.telling.text }),
        };
      });
      return accept({
        clean: true,
        data: { name: knot.name, steps },
        lines: [
          knot.name,
          ...steps.map(({ step, text, halt, proposed: isNew }) => {
            const place = halt ? `  [${isNew === true ? 'proposed ' : ''}${halt.rope} ${halt.at.toFixed(2)}]` : '';
            return `  ${step}. ${text}${place}`;
          }),
        ],
      });
    }),
};
