import { applyEdit, drawFigure, toSvg, signatureOf, crossingsOf, type Edit, type Figure } from '@foxtrail/core';
import { patternKeys } from './src/index.js';
import { writeFileSync } from 'node:fs';
export const go = (f: Figure, ...edits: Edit[]): Figure => edits.reduce((g, e) => { const r = applyEdit(g, e); if (!r.ok) throw new Error(`${e.kind}: ${r.place}: ${r.reason}`); return r.value.figure; }, f);
export const E: Figure = { ropes: [], hosts: [] };
export const show = (name: string, f: Figure) => {
  const k = signatureOf(f);
  console.log(name, crossingsOf(f).length, k.ok ? patternKeys().matches(k.value).map((m) => `${m.id}: ${m.relation}`).slice(0,4).join(' | ') || 'none' : k.reason);
  writeFileSync(`/tmp/shots/z-${name}.svg`, toSvg(drawFigure(f, { labels: true }), { title: name, description: '', prefix: 'z' } as any));
};
