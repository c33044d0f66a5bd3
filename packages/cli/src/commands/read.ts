/** `foxtrail read`: what a sentence claims of a step, whether the figure agrees, and which knot it would lead to. */
import {
  accept,
  changeMethod,
  composeStep,
  placeOfStep,
  refuse,
  stepsOf,
  vocabularyFor,
  wordedOf,
} from '@foxtrail/core';
import { readTold, saidWrongly, type Told } from '@foxtrail/core/told';
import { GLOSSARY, sayTold, toldKnot } from '@foxtrail/pattern-book';
import { toldTurnsKnot } from '@foxtrail/pattern-book/told-turns';
import { forEachFile, type Command } from '../command.js';

/** What a sentence claims of the end, passage by passage, and from where it is not understood. */
function claimsIn({ moves, stopped }: Told): string[] {
  const told = moves.flatMap((m): string[] => {
    if (m.kind === 'laid') return ['rope laid out'];
    if (m.kind === 'follow') return [`beside ${m.what}${m.back ? ', back' : ''}`];
    return m.passes.map((p) => `${p.over ? 'over' : 'under'} ${p.what ?? 'what led there'}`);
  });
  return [
    ...(told.length > 0 ? [`  It claims: ${told.join('; ')}.`] : []),
    ...(stopped === undefined ? [] : [`  Not understood, from here on: “${stopped}”`]),
  ];
}

export const read: Command = {
  name: 'read',
  usage: [
    ['FILE --text T [--step K]', 'what a sentence claims, whether the figure agrees, and which knot it leads to'],
  ],
  run: (call) =>
    forEachFile(call, 'read', (knot) => {
      const { text, step = 1 } = call.options;
      const steps = stepsOf(knot.method);
      if (text === undefined) return refuse('--text', 'No sentence is given.', 'Give one: --text "Over the loop".');
      if (!(Number.isInteger(step) && step >= 1 && step <= steps.length))
        return refuse('--step', `It has ${steps.length} steps.`, `Give a number from 1 to ${steps.length}.`);
      const words = vocabularyFor(wordedOf(knot), call.options.words, GLOSSARY);
      const { layout, index } = placeOfStep(knot.method, step - 1);
      const said = changeMethod(knot.method, layout, { kind: 'set-text', index, text });
      if (!said.ok) return said;
      const { figure } = (steps[step - 1] as (typeof steps)[number]).of;
      const found = saidWrongly(said.value, step - 1, words).map((c) => {
        const leads = (c.told && toldKnot(figure, c.told)) ?? (c.toldTurns && toldTurnsKnot(figure, c.toldTurns));
        return {
          words: c.words,
          shows: c.shows,
          instead: c.instead,
          crossings: c.told,
          leads: leads && sayTold(leads),
        };
      });
      const claims = readTold(text);
      const shows = composeStep(knot.method, step - 1, words).text;
      return accept({
        clean: found.length === 0,
        data: { name: knot.name, step, text, claims, shows, agrees: found.length === 0, contradictions: found },
        lines: [
          `step ${step}: ${found.length === 0 ? 'the figure agrees' : 'the figure shows something else'}`,
          ...claimsIn(claims),
          `  The figure: ${shows}`,
          ...found.flatMap((f) => [
            `  “${f.words}”: ${f.shows}${f.instead === undefined ? '' : ` “${f.instead}” would be true.`}`,
            ...(f.leads === undefined ? [] : [`  ${f.leads}`]),
          ]),
        ],
      });
    }),
};
