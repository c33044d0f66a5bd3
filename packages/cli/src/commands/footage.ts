/** `foxtrail footage`: whether what is marked in frames of a film agrees with the figure, from which side, and whether it is mirrored. */
import { crossingsOf, finishedFigure, refuse } from '@foxtrail/core';
import { judgeFootage, readMarksText, sayFootage, sayFrame, sayNext } from '@foxtrail/core/footage';
import { otherwiseOf } from '@foxtrail/pattern-book/footage';
import { answer, CLEAN, complain, FOUND, withFile, type Command } from '../command.js';

export const footage: Command = {
  name: 'footage',
  usage: [['FILE MARKS', 'whether a film shows the figure: seen from which side, mirrored or not']],
  run: (call) =>
    withFile(call, 'footage', async (knot, file) => {
      const marksFile = call.files[1];
      if (marksFile === undefined)
        return complain(refuse('footage', 'No marks are named.', 'Name a marks file after the figure file.'), call);
      let text: string;
      try {
        text = await call.io.read(marksFile);
      } catch (error) {
        return complain(
          refuse(marksFile, `It cannot be read: ${(error as Error).message}.`, 'Give the path of a marks file.'),
          call,
        );
      }
      const figure = finishedFigure(knot.method);
      const marks = readMarksText(text, crossingsOf(figure).length);
      if (!marks.ok) return complain({ ...marks, place: `${marksFile}: ${marks.place}` }, call);
      const { frames, turned } = marks.value;
      const verdict = judgeFootage(figure, frames, otherwiseOf(figure), turned);
      const headline = sayFootage(verdict, knot.name);
      const next = sayNext(verdict);
      answer(call, { file, name: knot.name, headline, ...verdict }, () => [
        `${file}: ${headline}`,
        ...verdict.frames.map((f) => `  ${sayFrame(f)}`),
        ...(next === undefined ? [] : [`  ${next}`]),
      ]);
      return verdict.state === 'agrees' ? CLEAN : FOUND;
    }),
};
