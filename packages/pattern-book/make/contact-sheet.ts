/**
 * Every pattern open, and as it lies in the hand, from the front and from behind, as one page of HTML on standard output: to be looked at.
 */
import { drawFigure, escapeXml, toSvg } from '@foxtrail/core';
import { formSvg } from '@foxtrail/core/form';
import { patternForm } from '../src/forms.js';
import { patterns } from '../src/laid.js';

const STYLE = `body{margin:0;padding:12px;display:grid;grid-template-columns:repeat(4,1fr);gap:10px;background:#e9e2d6;font:13px sans-serif;color:#1f2a33}
figure{margin:0;background:#f6efe3;border-radius:8px;padding:8px;display:grid;grid-template-columns:repeat(3,1fr);gap:4px}
figcaption{grid-column:span 3;font-weight:600}svg{width:100%;height:130px}`;

const figures = patterns().map(({ id, knot }) => {
  const form = patternForm(id);
  if (!form) throw new Error(`${id} has no form: npm run forms`);
  const said = { title: knot.name, description: knot.name, background: false };
  const pictures = [
    toSvg(drawFigure(knot.method.figure), { ...said, prefix: id }),
    ...(['front', 'back'] as const).map((station) => formSvg(knot.method.figure, form, { ...said, station })),
  ].map((svg) => svg.replace(/ width="\d+" height="[\d.]+"/, ''));
  const runs = form.runs ? ' (runs)' : '';
  return `<figure><figcaption>${escapeXml(knot.name)}${runs}</figcaption>${pictures.join('')}</figure>`;
});
console.log(`<!doctype html><meta charset="utf-8"><style>${STYLE}</style>${figures.join('')}`);
