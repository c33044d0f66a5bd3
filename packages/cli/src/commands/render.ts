/** `foxtrail render`: a step, or the finished figure, as SVG. */
import {
  composeStep,
  drawStep,
  pictureBox,
  refuse,
  stepsOf,
  stepText,
  toSvg,
  vocabularyFor,
  wordedOf,
} from '@foxtrail/core';
import { GLOSSARY } from '@foxtrail/pattern-book';
import { CLEAN, complain, withFile, type Command } from '../command.js';

/** Width of a picture, in pixels. */
const WIDTH = 800;

export const render: Command = {
  name: 'render',
  usage: [['FILE [--step K] [--view front|back|left] [-o OUT.svg]', 'a step, or the finished figure, as SVG']],
  run: (call) =>
    withFile(call, 'render', async (knot, file) => {
      const { name, method } = knot;
      const { step, view, out, words: choice } = call.options;
      const words = vocabularyFor(wordedOf(knot), choice, GLOSSARY);
      const steps = stepsOf(method);
      const count = steps.length;
      if (step !== undefined && !(Number.isInteger(step) && step >= 1 && step <= count))
        return complain(refuse(`${file}: --step`, `It has ${count} steps.`, `Give a number from 1 to ${count}.`), call);
      const index = step === undefined ? Infinity : step - 1;
      const svg = toSvg(drawStep(method, index, { view }), {
        title: step === undefined ? name : `${name}, step ${step} of ${count}`,
        description:
          step === undefined
            ? steps.map((_, i) => `${i + 1}. ${stepText(method, i, words)}`).join(' ')
            : composeStep(method, step - 1, words).text,
        width: WIDTH,
        box: pictureBox(method, index, view),
      });
      if (out === undefined) call.io.say(svg);
      else await call.io.write(out, `${svg}\n`);
      return CLEAN;
    }),
};
