// Type check of every package; the web's templates too, but for `--built`: the build checks them as well.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const tsc = join(root, 'node_modules/typescript-native/bin/tsc');
const ngc = join(root, 'node_modules/@angular/compiler-cli/bundles/src/bin/ngc.js');
// What runs anywhere, what runs in Node, what drives a browser, workers, the application with its specs.
const checks = [
  [tsc, 'scripts/types/pure.json'],
  [tsc, 'scripts/types/node.json'],
  [tsc, 'scripts/types/driver.json'],
  [tsc, 'packages/lesson/offline/tsconfig.json'],
  [tsc, 'packages/web/tsconfig.worker.json'],
  [tsc, 'packages/web/tsconfig.spec.json'],
  ...(process.argv.includes('--built') ? [] : [[ngc, 'packages/web/tsconfig.app.json']]),
];
let failed = 0;
for (const [compiler, project] of checks) {
  const done = spawnSync(process.execPath, [compiler, '-p', project, '--noEmit'], { cwd: root, stdio: 'inherit' });
  if (done.status !== 0) failed += 1;
}
process.exit(failed === 0 ? 0 : 1);
