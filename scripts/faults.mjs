// npm run faults: authors who draw while servers and the database are killed, tables locked, answers lost, the network cut, the disk filled
// clocks moved, and an author’s browser killed; prints what was made and what was lost.
// -- --faults 200 --authors 4 --servers 3 --seed 1
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { chmodSync, closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { buildWeb, installPackages, webFolder } from './prepare.mjs';
import { checkNode, run, say } from './say.mjs';

/** A disk of its own for the database, so that it can be filled; only root can make one. */
const DISK = '700m';

/** Fills the folder's disk, leaves it full for a while, and frees it. */
async function fill(folder) {
  const ballast = join(folder, 'ballast');
  const file = openSync(ballast, 'w');
  try {
    for (const size of [1 << 20, 1 << 12]) {
      const piece = Buffer.alloc(size);
      try {
        for (;;) writeSync(file, piece);
      } catch (error) {
        if (error.code !== 'ENOSPC') throw error;
      }
    }
    await wait(1500);
  } finally {
    closeSync(file);
    rmSync(ballast);
  }
}

await run(async () => {
  checkNode();
  const { values } = parseArgs({
    options: {
      faults: { type: 'string', default: '200' },
      authors: { type: 'string', default: '4' },
      servers: { type: 'string', default: '3' },
      only: { type: 'string' },
      seed: { type: 'string', default: String(randomInt(1, 2 ** 31 - 1)) },
    },
  });
  installPackages();
  const { register } = await import('tsx/esm/api');
  register();
  await buildWeb();
  const [{ startCluster, makeDatabase }, { BrowserAuthor }, { runFaults }, server, { pino }] = await Promise.all([
    import('./cluster.mjs'),
    import('./faults-browser.mjs'),
    import('../packages/server/spec/faults/faults.ts'),
    import('../packages/server/src/index.ts'),
    import('pino'),
  ]);
  const scratch = mkdtempSync(join(tmpdir(), 'foxtrail-faults-'));
  chmodSync(scratch, 0o755);
  const mounted =
    process.getuid?.() === 0 &&
    spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}`, 'tmpfs', scratch]).status === 0;
  if (!mounted) say('A disk of its own cannot be made here: that the disk is full is left out.');
  let cluster;
  let browser;
  try {
    cluster = await startCluster(scratch);
    const databaseUrl = await makeDatabase(cluster.url, 'faults', { fresh: true });
    const authors = Array.from({ length: Number(values.authors) }, (_, n) => ({
      name: `Author ${n + 1}`,
      password: `a long password ${n}`,
    }));
    const pool = server.openPool(databaseUrl, pino({ level: 'silent' }));
    await server.migrate(pool);
    const inBrowser = { name: 'Author in a browser', password: 'a long password of a browser' };
    for (const { name, password } of [...authors, inBrowser])
      await server.ensureAccount(pool, name, 'author', password);
    await pool.end();
    say(`Seed ${values.seed} (--seed ${values.seed} does the same faults again).`);
    browser = new BrowserAuthor(inBrowser);
    const began = Date.now();
    const again = async () => {
      cluster = await startCluster(scratch);
    };
    const report = await runFaults({
      databaseUrl,
      authors,
      servers: Number(values.servers),
      faults: Number(values.faults),
      seed: Number(values.seed),
      killDatabase: async () => {
        cluster.kill();
        await wait(500);
        await again();
      },
      ...(mounted
        ? {
            fillDisk: async () => {
              await fill(scratch);
              // A database that could not write its log has stopped itself.
              await again();
            },
          }
        : {}),
      browser,
      webFolder,
      only: values.only,
      say,
    });
    say(JSON.stringify({ minutes: Math.round((Date.now() - began) / 6000) / 10, ...report }, null, 2));
    const { lost, twice, falseConflicts, signedOut, restartsFailed, endedByThemselves, unhandled } = report;
    const bad =
      lost + twice + falseConflicts + signedOut + restartsFailed.length + endedByThemselves + unhandled.length;
    return bad === 0 ? 0 : 1;
  } finally {
    await browser?.stop();
    await cluster?.stop();
    if (mounted) spawnSync('umount', ['-l', scratch]);
    rmSync(scratch, { recursive: true, force: true });
  }
});
