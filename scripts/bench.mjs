// npm run bench: timings as JSON. Never part of the tests.
import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildWeb, ensureChromium, installPackages, root } from './prepare.mjs';
import { checkNode, run } from './say.mjs';

await run(async () => {
  checkNode();
  installPackages();
  ensureChromium();
  await buildWeb();
  const { startCluster, makeDatabase } = await import('./cluster.mjs');
  const scratch = mkdtempSync(join(tmpdir(), 'foxtrail-bench-'));
  chmodSync(scratch, 0o755);
  const cluster = await startCluster(scratch);
  try {
    const done = spawnSync(
      process.execPath,
      ['--expose-gc', '--import', 'tsx', join(root, 'scripts/bench/bench.ts'), ...process.argv.slice(2)],
      {
        cwd: root,
        stdio: 'inherit',
        env: { ...process.env, BENCH_DATABASE_URL: await makeDatabase(cluster.url, 'bench', { fresh: true }) },
      },
    );
    return done.status ?? 1;
  } finally {
    await cluster.stop();
    rmSync(scratch, { recursive: true, force: true });
  }
});
