/** `foxtrail compare`: how two figures stand to each other, with the marks that agree. */
import { compareFigures, finishedFigure, refuse } from '@foxtrail/core';
import { answer, CLEAN, complain, FOUND, open, type Command } from '../command.js';

export const compare: Command = {
  name: 'compare',
  usage: [['A B', 'how two figures stand to each other, with the marks that agree']],
  run: async (call) => {
    const [a, b] = call.files;
    if (a === undefined || b === undefined)
      return complain(refuse('compare', 'It takes two files.', 'Name two figure files.'), call);
    const [first, second] = [await open(a, call.io), await open(b, call.io)];
    if (!first.ok) return complain(first, call);
    if (!second.ok) return complain(second, call);
    const found = compareFigures(
      finishedFigure(first.value.method),
      finishedFigure(second.value.method),
      second.value.name,
    );
    if (!found.ok) return complain(found, call);
    const { relation, evidence, marks, leftOut } = found.value;
    answer(call, found.value, () => [
      `${relation}. ${evidence}`,
      ...marks.map((m) => `  ${m.agrees ? 'agrees ' : 'differs'}  ${m.text}`),
      ...leftOut.map((l) => `  Left out: ${l}`),
    ]);
    return relation === 'same' || relation === 'same from behind' ? CLEAN : FOUND;
  },
};
