/** An assembly as an SVG document, for pages and paper: the board as it stands on the desk, without its handles. */
import { escapeXml } from '../drawing/svg.js';
import { BOARD, type Assembly } from './assembly.js';
import {
  boardNames,
  KNOT_PICTURE,
  KNOT_RADIUS,
  ropePieces,
  ROPE_COLOURS,
  ROPE_WIDTH,
  shapesOf,
  type ThingShape,
} from './picture.js';

const INK = '#2b241b';
const PAINT: Readonly<Record<ThingShape['is'], string>> = {
  wood: 'fill="#dcc9a3" stroke="#55432a" stroke-width="3"',
  grain: 'fill="none" stroke="#a98f62" stroke-width="2.5"',
  metal: 'fill="none" stroke="#59646b" stroke-width="12"',
  gate: 'fill="none" stroke="#f7a861" stroke-width="7" stroke-linecap="round"',
  body: 'fill="#ead9cc" stroke="#7b6250" stroke-width="3" stroke-dasharray="9 7"',
};

/** What the board shows, in words. */
export const sayBoard = ({ name, knots, things }: Assembly): string => {
  const order = knots.map((k, i) => `${i + 1}, ${k.role}: ${k.name}`).join('; ');
  return `${name}, laid out, not to scale. ${order}. Things: ${things.map((t) => t.name).join(', ') || 'none'}.`;
};

/** `pictureOf` says where the picture of a knot is; without one its disc is empty. */
export function assemblySvg(a: Assembly, pictureOf: (ref: string) => string | undefined): string {
  const things = a.things.map(
    (t) =>
      `<g transform="translate(${t.x} ${t.y}) rotate(${t.turn})">${shapesOf(t)
        .map((s) => `<path d="${s.path}" ${PAINT[s.is]}/>`)
        .join('')}</g>`,
  );
  const ropes = a.ropes.map((_, i) =>
    ropePieces(a, i)
      .map(
        (p) =>
          `<path d="${p.outline}" fill="none" stroke="${INK}" stroke-width="${ROPE_WIDTH + 4}"/>` +
          `<path d="${p.fill}" fill="none" stroke="${ROPE_COLOURS[i % ROPE_COLOURS.length]}" stroke-width="${ROPE_WIDTH}"/>`,
      )
      .join(''),
  );
  const knots = a.knots.map((k, i) => {
    const href = pictureOf(k.ref);
    const at = -KNOT_RADIUS * 0.72;
    return (
      `<g transform="translate(${k.x} ${k.y})"><circle r="${KNOT_RADIUS}" fill="#f6efe3" stroke="${INK}" stroke-width="3"/>` +
      (href === undefined
        ? ''
        : `<image href="${escapeXml(href)}" x="${-KNOT_PICTURE / 2}" y="${-KNOT_PICTURE / 2}" width="${KNOT_PICTURE}" height="${KNOT_PICTURE}"/>`) +
      `<circle cx="${at}" cy="${at}" r="19" fill="${INK}"/><text x="${at}" y="${at + 8}" text-anchor="middle" font-size="23" font-weight="700" fill="#fff">${i + 1}</text></g>`
    );
  });
  const names = boardNames(a).map(
    (n) =>
      `<text text-anchor="${n.anchor}" fill="${INK}" stroke="#fbf6ec" stroke-width="6" stroke-linejoin="round" paint-order="stroke" font-size="22"${n.role ? ' font-weight="700"' : ''}>${n.lines
        .map((line, k) => `<tspan x="${n.x}" y="${n.y + 24 * k}">${escapeXml(line)}</tspan>`)
        .join('')}</text>`,
  );
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${BOARD.width} ${BOARD.height}" role="img" aria-label="${escapeXml(sayBoard(a))}" font-family="'Atkinson Hyperlegible Next Variable', sans-serif">` +
    `<rect width="${BOARD.width}" height="${BOARD.height}" rx="14" fill="#fbf6ec"/>${[...things, ...ropes, ...knots, ...names].join('')}</svg>`
  );
}
