/**
 * A file or pasted text of any kind that can become a knot: a figure file, an SVG, a code. What it is, is told by its first characters.
 */
import { accept, refuse, type Result } from '../figure/refusal.js';
import { layingOut } from '../placing/embed.js';
import { methodFor } from '../tying/follow.js';
import { codeKind, readCode } from './codes.js';
import { blankKnot, type KnotDocument } from '../knot/document.js';
import { readKnotText } from './figure-read.js';
import { readSvg } from './svg-in.js';

export interface ReadDrawing {
  readonly knot: KnotDocument;
  /** What it came as. */
  readonly from: 'figure' | 'svg' | 'code';
  /** True when its overs and unders are only a guess, and the weave is to be walked. */
  readonly toWalk: boolean;
}

/** Reads any drawing, telling how far it is; only codes take time. `name` is given to a drawing that has none. */
export function* readingDrawing(text: string, name: string): Generator<number, Result<ReadDrawing>, unknown> {
  const start = text.trimStart();
  if (start === '') return refuse('the file', 'It is empty.', 'Choose another file.');
  if (start.startsWith('{')) {
    const read = readKnotText(text);
    return read.ok ? accept({ knot: read.value, from: 'figure', toWalk: false }) : read;
  }
  if (start.startsWith('<')) {
    const read = readSvg(text);
    if (!read.ok) return read;
    if (read.value.carried !== undefined) {
      const carried = readKnotText(read.value.carried);
      return carried.ok ? accept({ knot: carried.value, from: 'svg', toWalk: false }) : carried;
    }
    const knot: KnotDocument = { ...blankKnot(name), method: methodFor(read.value.figure) };
    return accept({ knot, from: 'svg', toWalk: true });
  }
  if (codeKind(start) === undefined)
    return refuse(
      'the file',
      'It is neither a figure file, nor an SVG, nor a code.',
      'Give JSON that begins with {, an SVG, or O1+ U2- … or [1,5,2,4] … .',
    );
  const strands = readCode(start.trimEnd());
  if (!strands.ok) return strands;
  const figure = yield* layingOut(strands.value);
  if (!figure.ok) return figure;
  return accept({ knot: { ...blankKnot(name), method: methodFor(figure.value) }, from: 'code', toWalk: false });
}
