/**
 * Damaged files for every reader, one after another, until there are so many: run aside by `npm run fuzz -- --inputs N`, which watches
 * that each is answered within a second. Tells which it has begun before it reads it.
 */
import { damaged, readers } from '../../packages/core/spec/support/bad-files.js';
import { byLot } from '../../packages/core/spec/support/by-lot.js';

const [seed = 1, from = 0, inputs = 0] = process.argv.slice(2).map(Number);
const tell = (told: object): void => void process.send?.(told);

// What a library says of a file is no answer of ours.
console.warn = () => undefined;
const all = await readers();
const slowest: { readonly reader: string; readonly n: number; readonly ms: number; readonly bytes: number }[] = [];
let refused = 0;
for (let n = from; n < inputs; n += 1) {
  const reader = all[n % all.length];
  if (!reader) break;
  const text = damaged(reader.files, byLot(seed + 7 * n));
  const began = process.cpuUsage();
  tell({ kind: 'begun', n });
  try {
    const answer = (await reader.read(text)) as { ok?: boolean; refused?: readonly unknown[] };
    if (answer.ok === false || (answer.refused?.length ?? 0) > 0) refused += 1;
  } catch (error) {
    tell({ kind: 'thrown', reader: reader.name, n, error: (error as Error).stack });
  }
  // What the reader worked, not what it waited for a busy machine.
  const { user, system } = process.cpuUsage(began);
  const ms = (user + system) / 1000;
  if (slowest.length < 8 || ms > (slowest.at(-1)?.ms ?? 0)) {
    slowest.push({ reader: reader.name, n, ms: Math.round(ms), bytes: text.length });
    slowest.sort((a, b) => b.ms - a.ms);
    slowest.length = Math.min(slowest.length, 8);
  }
}
process.send?.({ kind: 'done', refused, slowest }, undefined, {}, () => process.disconnect());
