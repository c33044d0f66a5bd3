// npm run fuzz -- --inputs 100000: damaged files for every reader of the core. Each is answered, and within a second; one that is not is
// named by its number and seed.
import { fork } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { say } from './say.mjs';

/** Most milliseconds that a reader works on a file, and most megabytes that it keeps. */
const MOST = 1000;
const MEGABYTES = 1024;

/** Reads damaged files from one on, until all are read or one takes too long. */
function readOn(seed, from, inputs) {
  return new Promise((done) => {
    const found = [];
    let [n, since] = [from, Infinity];
    const child = fork(
      fileURLToPath(new URL('./bench/bad-files.ts', import.meta.url)),
      [seed, from, inputs].map(String),
      {
        execArgv: [`--max-old-space-size=${MEGABYTES}`, '--import', 'tsx'],
      },
    );
    const end = (answer) => {
      clearInterval(look);
      child.removeAllListeners();
      child.kill('SIGKILL');
      done({ found, ...answer });
    };
    const look = setInterval(() => {
      // What never ends is stopped; a machine that others keep busy is given ten times the time.
      if (Date.now() - since < 10 * MOST) return;
      found.push({ kind: 'slow', n });
      end({ next: n + 1 });
    }, 200);
    child.on('message', (m) => {
      if (m.kind === 'begun') [n, since] = [m.n, Date.now()];
      else if (m.kind === 'thrown') found.push(m);
      else end({ next: inputs, ...m });
    });
    child.on('exit', (code, signal) => {
      // One that never came up will not for the next file either.
      if (since === Infinity) throw new Error(`The readers could not be started (${code ?? signal}).`);
      found.push({ kind: 'ended', n, error: `${code ?? signal}` });
      end({ next: n + 1 });
    });
  });
}

export async function fuzzReaders(inputs, given) {
  const seed = given ?? randomInt(1, 2 ** 31 - 1);
  say(`Seed ${seed}.`);
  const began = Date.now();
  const found = [];
  let [refused, slowest] = [0, []];
  for (let next = 0; next < inputs;) {
    const part = await readOn(seed, next, inputs);
    found.push(...part.found);
    next = part.next;
    for (const f of part.found) say(`File ${f.n}: ${f.kind}${f.error ? `, ${f.error}` : ''}`);
    refused += part.refused ?? 0;
    slowest = [...slowest, ...(part.slowest ?? [])].sort((a, b) => b.ms - a.ms).slice(0, 8);
  }
  const slow = slowest.filter((s) => s.ms > MOST);
  say(JSON.stringify({ inputs, seconds: Math.round((Date.now() - began) / 1000), refused, found, slowest }, null, 2));
  return found.length + slow.length;
}
