// npm run bench: timings as JSON. Never part of the tests.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { buildWeb, ensureChromium, installPackages, root } from './prepare.mjs';
import { checkNode, run } from './say.mjs';

await run(async () => {
  checkNode();
  installPackages();
  ensureChromium();
  buildWeb();
  const done = spawnSync(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', join(root, 'scripts/bench/bench.ts'), ...process.argv.slice(2)],
    { cwd: root, stdio: 'inherit' },
  );
  return done.status ?? 1;
});
