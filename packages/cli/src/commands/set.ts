/** `foxtrail set`: a figure as it lies in the hand, what it measures, and the proof that it is still the same knot. */
import {
  howToSet,
  figureToSet,
  layoutToSet,
  refuse,
  setNow,
  settingFor,
  STATION_NAMES,
  strandWord,
  WORKSHOP_WORDS,
  type Figure,
  type SetForm,
  type Station,
  type TrailSpan,
} from '@foxtrail/core';
import { flawsOf, marksSeen, measureForm, writeForm, type Flaw, type SideMarks, formSvg } from '@foxtrail/core/form';
import { answer, CLEAN, complain, FOUND, withFile, type Command } from '../command.js';

const diameters = (v: number): string => `${v.toFixed(1)} d`;
const span = ({ strand, from, to }: TrailSpan): string => `${strand} ${from.toFixed(1)} to ${to.toFixed(1)}`;

const sayMarks = ({ parallels, crosses }: SideMarks): string[] => [
  ...parallels.map((p) => `    side by side for ${diameters(p.length)}: ${span(p.a)} and ${span(p.b)}`),
  ...crosses.map(
    (c) =>
      `    ${c.over.strand} at ${c.over.at.toFixed(1)} lies across ${c.under.strand} at ${c.under.at.toFixed(1)}, ${c.angle.toFixed(0)}°`,
  ),
];

const sayFlaw = (flaw: Flaw): string =>
  flaw.kind === 'needless crossing'
    ? `  not dressed: ${flaw.over.strand} at ${flaw.over.at.toFixed(1)} crosses ${flaw.under.strand} at ${flaw.under.at.toFixed(1)} once more than drawn`
    : `  not dressed: ${span(flaw.a)} lies on the other side of ${span(flaw.b)} than drawn`;

/** The content of a file by its ending: a picture, places, or surfaces. */
async function fileOf(
  out: string,
  { name, figure, form, station }: { name: string; figure: Figure; form: SetForm; station: Station },
): Promise<string | Uint8Array> {
  if (out.endsWith('.json')) return `${JSON.stringify(writeForm(name, form), null, 1)}\n`;
  if (/\.(?:gltf|glb)$/.test(out)) {
    const [{ meshesOf, PAPER_LOOK }, { writeGlb, writeGltf }] = await Promise.all([
      import('@foxtrail/core/mesh'),
      import('@foxtrail/core/gltf'),
    ]);
    const named = (id: string): string => strandWord(WORKSHOP_WORDS, figure, id);
    return (out.endsWith('.glb') ? writeGlb : writeGltf)(name, meshesOf(figure.ropes, form, PAPER_LOOK), named);
  }
  return formSvg(figure, form, {
    station,
    title: name,
    description: `${name}, dressed and set, seen from the side “${station}”.`,
  });
}

export const set: Command = {
  name: 'set',
  usage: [
    [
      'FILE [--dressing NAME] [--view front|back|left|right|end] [-o FILE.svg|.json|.gltf|.glb]',
      'the knot as it lies in the hand, its measures and its proof',
    ],
  ],
  run: (call) =>
    withFile(call, 'set', async (knot, file) => {
      const { out, station } = call.options;
      if (!(STATION_NAMES as readonly string[]).includes(station))
        return complain(
          refuse('set', `There is no side “${station}”.`, `There are ${STATION_NAMES.join(', ')}.`),
          call,
        );
      const { dressings = [] } = layoutToSet(knot.method);
      const way = dressings.find((d) => d.name === call.options.dressing);
      if (call.options.dressing !== undefined && !way)
        return complain(
          refuse(
            'set',
            `It is not dressed as “${call.options.dressing}”.`,
            dressings.length > 0
              ? `There is ${dressings.map((d) => `“${d.name}”`).join(', ')}.`
              : 'It keeps no ways to be dressed: leave the option out.',
          ),
          call,
        );
      const { figure, wishes } = way ? settingFor(figureToSet(knot.method), way) : howToSet(knot.method);
      const done = setNow(figure, wishes);
      if (!done.ok) return complain({ ...done, place: `${file}: ${done.place}` }, call);
      const form = done.value;
      const measures = measureForm(form);
      const flaws = flawsOf(figure, form);
      const marks = { front: marksSeen(form, 'front'), back: marksSeen(form, 'back') };
      if (out !== undefined) {
        await call.io.write(out, await fileOf(out, { name: knot.name, figure, form, station: station as Station }));
      }
      answer(call, { name: knot.name, proof: form.proof, runs: form.runs, ...measures, marks, flaws }, () => [
        `${knot.name}: ${form.runs ? 'the same knot until it is pulled further: then the rope runs' : 'set, and proved to be the same knot'} (read from ${form.proof.sides} sides, ${form.proof.crossings} crossings from the front)`,
        ...measures.strands.map(
          (s) =>
            `  rope ${s.rope} eaten: ${diameters(s.eaten)}; sharpest bend: radius ${diameters(s.sharpest.radius)} at ${s.sharpest.at.toFixed(1)}`,
        ),
        `  size: ${measures.size.map((v) => v.toFixed(1)).join(' × ')} d; stretches that touch: ${measures.contacts.length}`,
        ...measures.contacts
          .slice(0, 3)
          .map(
            (c, i) =>
              `  ${i === 0 ? 'presses hardest' : 'then'}: ${span(c.a)} on ${c.b.to > c.b.from ? span(c.b) : c.b.strand}, ${c.force.toFixed(1)} of the pull`,
          ),
        ...flaws.map(sayFlaw),
        '  seen from the front:',
        ...sayMarks(marks.front),
        '  seen from the back:',
        ...sayMarks(marks.back),
      ]);
      return form.runs ? FOUND : CLEAN;
    }),
};
