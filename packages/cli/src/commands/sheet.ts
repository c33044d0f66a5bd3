/** `foxtrail sheet`: a contact sheet of knots, each open and as it lies in the hand, from in front and from behind. */
import { drawFigure, escapeXml, howToSet, PAPER_LOOK, refuse, setNow, toSvg, type KnotDocument } from '@foxtrail/core';
import { formSvg } from '@foxtrail/core/form';
import { CLEAN, complain, FOUND, open, type Command, type ExitCode } from '../command.js';

/** Size of one picture on the sheet and of the line with the knot's name, in CSS pixels; knots in a row. */
const CELL = 200;
const NAME = 22;
const ROW = 2;

/** A picture as a part of another: its own size is left out, it fills its cell. */
const placed = (svg: string, x: number, y: number): string =>
  svg.replace(/ width="\d+" height="\d+"/, ` x="${x}" y="${y}" width="${CELL}" height="${CELL}"`);

/** The pictures of a knot, or why there are none. */
function cellsOf(knot: KnotDocument): { readonly pictures: readonly string[]; readonly trouble?: string } {
  const { figure, wishes } = howToSet(knot.method);
  const words = { title: knot.name, description: knot.name };
  const drawn = toSvg(drawFigure(figure), { ...words, prefix: `${knot.name.replace(/\W/g, '')}-` });
  const form = setNow(figure, wishes);
  if (!form.ok) return { pictures: [drawn], trouble: form.reason };
  return {
    pictures: [
      drawn,
      ...(['front', 'back'] as const).map((station) => formSvg(figure, form.value, { ...words, station })),
    ],
  };
}

export const sheet: Command = {
  name: 'sheet',
  usage: [['FILE… -o SHEET.svg', 'a contact sheet: every knot open, and set from the front and from behind']],
  run: async (call) => {
    const { files, options, io } = call;
    if (files.length === 0 || options.out === undefined)
      return complain(
        refuse('sheet', 'It takes figure files and the file to write.', 'Name them: FILE… -o SHEET.svg.'),
        call,
      );
    let code: ExitCode = CLEAN;
    const parts: string[] = [];
    const [width, height] = [3 * CELL + 24, CELL + NAME];
    let placedKnots = 0;
    for (const file of files) {
      const read = await open(file, io);
      if (!read.ok) return complain(read, call);
      const { pictures, trouble } = cellsOf(read.value);
      if (trouble !== undefined) {
        code = FOUND;
        io.complain(`${file}: ${trouble}`);
      }
      const [x, y] = [(placedKnots % ROW) * width, Math.floor(placedKnots / ROW) * height];
      parts.push(
        `<text x="${x + 8}" y="${y + 16}" font-family="sans-serif" font-size="14" fill="${PAPER_LOOK.ink}">${escapeXml(read.value.name)}</text>`,
        ...pictures.map((svg, k) => placed(svg, x + k * (CELL + 4), y + NAME)),
      );
      placedKnots += 1;
    }
    const [w, h] = [ROW * width, Math.ceil(placedKnots / ROW) * height];
    await io.write(
      options.out,
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w}" height="${h}"><rect width="${w}" height="${h}" fill="${PAPER_LOOK.paper}"/>${parts.join('')}</svg>`,
    );
    io.say(`${options.out}: ${placedKnots} knots`);
    return code;
  },
};
