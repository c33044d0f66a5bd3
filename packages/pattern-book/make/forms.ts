/**
 * npm run forms: what each pattern eats is written beside them, to src/eats.json. It sets every pattern anew and writes src/forms.json; `npm run forms -- ID …` those named, and keeps the others. A spec
 * sets some of them again and compares.
 */
import { howToSet, setNow } from '@foxtrail/core';
import { eatsOf, readForm, writeForm, type FormFile } from '@foxtrail/core/form';
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
  const { figure, wishes } = howToSet(knot.method);
  const done = setNow(figure, wishes);
  if (!done.ok) throw new Error(`${id}: ${done.reason}`);
  forms[id] = writeForm(knot.name, done.value);
  console.log(`${id}: ${done.value.proof.crossings} crossings${done.value.runs ? ', runs' : ''}`);
}
// One pattern a line: a change of one is seen as a change of one.
const lines = Object.entries(forms).map(([id, form]) => `${JSON.stringify(id)}:${JSON.stringify(form)}`);
writeFileSync(file, `{\n${lines.join(',\n')}\n}\n`);

/** Of each rope of a pattern: diameters that it is eaten as it is set, to the tenth; then its turns round a host, and how thick that is drawn. */
const eats = Object.fromEntries(
  patterns().flatMap(({ id, knot }) => {
    const form = readForm(forms[id]);
    if (!form.ok) return [];
    const { figure } = howToSet(knot.method);
    const strands = eatsOf(figure, form.value);
    // A rope that runs straight through is eaten nothing.
    const tenth = (d: number): number => Math.round(10 * d) / 10;
    const eaten = figure.ropes.map((_, i) => {
      const own = strands.find((s) => s.strand === i);
      return [tenth(own?.set ?? 0), ...(own?.host ? [own.host.turns, tenth(own.host.drawn)] : [])];
    });
    return [[id, eaten]];
  }),
);
const eatsFile = fileURLToPath(new URL('../src/eats.json', import.meta.url));
writeFileSync(
  eatsFile,
  `{\n${Object.entries(eats)
    .map(([id, n]) => `  ${JSON.stringify(id)}: ${JSON.stringify(n)}`)
    .join(',\n')}\n}\n`,
);
