/**
 * Pictures and captions made on the server from a knot's document: the same core that draws them on the page.
 */
import {
  composeStep,
  drawStep,
  escapeXml,
  heartBox,
  methodInView,
  PAPER_LOOK,
  stepText,
  svgBody,
  timelineOf,
  toSvg,
  toWebVtt,
  wholeBox,
  WORKSHOP_WORDS,
  type KnotDocument,
  type Pace,
  type View,
} from '@foxtrail/core';

const VIEW_NAMES: Record<View, string> = { front: 'front', back: 'back', left: 'left-handed' };

/** The finished figure, for a card on the shelf. */
export function thumbnail(knot: KnotDocument): string {
  return toSvg(drawStep(knot.method, knot.method.halts.length), {
    title: knot.name,
    description: describe(knot),
    width: 320,
    background: false,
    box: heartBox(knot.method.figure),
  });
}

/** All step texts in one: the figure in words. */
export const describe = (knot: KnotDocument): string =>
  knot.method.halts.length === 0
    ? 'The figure, without steps yet.'
    : knot.method.halts.map((_, i) => `${i + 1}. ${stepText(knot.method, i, WORKSHOP_WORDS)}`).join(' ');

/** Step k (from 0) in a view; its description is its text, and what it passes. */
export function stepSvg(knot: KnotDocument, k: number, view: View): string {
  const box = wholeBox(methodInView(knot.method, view).figure);
  const text = stepText(knot.method, k, WORKSHOP_WORDS);
  const composed = composeStep(knot.method, k, WORKSHOP_WORDS).text;
  return toSvg(drawStep(knot.method, k, { view }), {
    title: `${knot.name}, step ${k + 1} of ${knot.method.halts.length}, ${VIEW_NAMES[view]} view`,
    description: text === composed ? text : `${text} (${composed})`,
    width: 800,
    box,
  });
}

/** Words broken into lines of at most `width` characters. */
function lines(text: string, width: number): string[] {
  const out: string[] = [];
  let line = '';
  for (const word of text.split(/\s+/)) {
    if (line !== '' && line.length + 1 + word.length > width) {
      out.push(line);
      line = word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  return line === '' ? out : [...out, line];
}

/** Every step on one sheet, two in a row, each with its number and text. */
export function sheetSvg(knot: KnotDocument): string {
  const { method, name } = knot;
  const box = wholeBox(method.figure);
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  const cell = 380;
  const scale = cell / Math.max(w, h * 1.1);
  const picture = h * scale;
  const texts = method.halts.map((_, i) => lines(stepText(method, i, WORKSHOP_WORDS), 42));
  const rows = Math.ceil(method.halts.length / 2);
  const rowHeights = Array.from(
    { length: rows },
    (_, r) => picture + 46 + 22 * Math.max(texts[2 * r]?.length ?? 0, texts[2 * r + 1]?.length ?? 0),
  );
  const total = 90 + rowHeights.reduce((a, b) => a + b, 0);
  const cells = method.halts.map((_, i) => {
    const x = 30 + (i % 2) * (cell + 40);
    const y = 80 + rowHeights.slice(0, Math.floor(i / 2)).reduce((a, b) => a + b, 0);
    const caption = (texts[i] ?? [])
      .map(
        (line, n) =>
          `<text x="${x + 26}" y="${(y + picture + 22 + 22 * n).toFixed(1)}" font-size="17" fill="${PAPER_LOOK.ink}">${escapeXml(line)}</text>`,
      )
      .join('');
    return `<g id="step-${i + 1}"><g transform="translate(${x} ${y}) scale(${scale.toFixed(4)}) translate(${-box[0]} ${-box[1]})">${svgBody(drawStep(method, i), PAPER_LOOK, `step${i + 1}-`, box)}</g><text x="${x}" y="${(y + picture + 23).toFixed(1)}" font-size="22" font-weight="700" fill="${PAPER_LOOK.ink}">${i + 1}</text>${caption}</g>`;
  });
  const width = 2 * cell + 100;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${total.toFixed(1)}" width="${width}" height="${total.toFixed(1)}" role="img" aria-labelledby="sheet-title sheet-desc" font-family="'Atkinson Hyperlegible Next', sans-serif">` +
    `<title id="sheet-title">${escapeXml(name)}: how to tie it</title><desc id="sheet-desc">${escapeXml(describe(knot))}</desc>` +
    `<rect width="${width}" height="${total.toFixed(1)}" fill="#ffffff"/><text x="30" y="50" font-size="32" font-weight="700" fill="${PAPER_LOOK.ink}">${escapeXml(name)}</text>${cells.join('')}</svg>`
  );
}

/** Captions that go with a clip made at a pace. */
export const captions = (knot: KnotDocument, pace: Pace): string =>
  toWebVtt(timelineOf(knot.method, pace, WORKSHOP_WORDS), knot.name);
