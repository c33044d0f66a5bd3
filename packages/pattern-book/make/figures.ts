/**
 * npm run figures: settles the figure of every pattern that is not drawn by hand, and writes src/figures.json. A spec settles some of them
 * again and compares.
 */
import { settle } from '@foxtrail/core';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { writeSettled, type SettledFile } from '../src/settled.js';
import { SOURCES } from '../src/sources.js';

const file = fileURLToPath(new URL('../src/figures.json', import.meta.url));
const figures: Record<string, SettledFile> = {};
for (const { id, figure, drawn } of SOURCES) {
  if (drawn) continue;
  const done = settle(figure());
  if (!done.ok) throw new Error(`${id}: ${done.reason}`);
  figures[id] = writeSettled(done.value);
  console.log(id);
}
// One pattern a line: a change of one is seen as a change of one.
const lines = Object.entries(figures).map(([id, figure]) => `${JSON.stringify(id)}:${JSON.stringify(figure)}`);
writeFileSync(file, `{\n${lines.join(',\n')}\n}\n`);
