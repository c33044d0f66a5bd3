/**
 * npm run forms: sets every pattern anew and writes src/forms.json; `npm run forms -- ID …` those named, and keeps the others. A spec
 * sets some of them again and compares.
 */
import { figureToSet, setNow } from '@foxtrail/core';
import { writeForm, type FormFile } from '@foxtrail/core/form';
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { patterns } from '../src/laid.js';

const file = fileURLToPath(new URL('../src/forms.json', import.meta.url));
const named = process.argv.slice(2);
const before = named.length > 0 ? (JSON.parse(readFileSync(file, 'utf8')) as Record<string, FormFile>) : {};
const forms: Record<string, FormFile> = {};
for (const { id, knot } of patterns()) {
  const kept = named.includes(id) ? undefined : before[id];
  if (kept) {
    forms[id] = kept;
    continue;
  }
  const done = setNow(figureToSet(knot.method));
  if (!done.ok) throw new Error(`${id}: ${done.reason}`);
  forms[id] = writeForm(knot.name, done.value);
  console.log(`${id}: ${done.value.proof.crossings} crossings${done.value.runs ? ', runs' : ''}`);
}
// One pattern a line: a change of one is seen as a change of one.
const lines = Object.entries(forms).map(([id, form]) => `${JSON.stringify(id)}:${JSON.stringify(form)}`);
writeFileSync(file, `{\n${lines.join(',\n')}\n}\n`);
