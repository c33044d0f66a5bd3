// npm run fuzz: the properties of the core and of the pattern book with fresh seeds, round after round. A seed that finds
// something is printed; FOXTRAIL_SEED=… npm test -- --only core runs it again.
// -- --inputs 100000: damaged files for every reader instead.
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { installPackages, root } from './prepare.mjs';
import { say } from './say.mjs';

const { values } = parseArgs({
  options: { rounds: { type: 'string', default: '10' }, inputs: { type: 'string' }, seed: { type: 'string' } },
});
installPackages();
if (values.inputs !== undefined) {
  const { fuzzReaders } = await import('./fuzz-readers.mjs');
  process.exit((await fuzzReaders(Number(values.inputs), values.seed && Number(values.seed))) === 0 ? 0 : 1);
}
const found = [];
for (let round = 1; round <= Number(values.rounds); round += 1) {
  const seed = String(randomInt(1, 2 ** 31 - 1));
  for (const folder of ['core', 'pattern-book']) {
    const done = spawnSync(
      process.execPath,
      [
        '--enable-source-maps',
        '--import',
        'tsx',
        join(root, 'node_modules/jasmine/bin/jasmine.js'),
        '--config=jasmine.json',
      ],
      { cwd: join(root, 'packages', folder), env: { ...process.env, FOXTRAIL_SEED: seed }, encoding: 'utf8' },
    );
    say(`round ${round}, seed ${seed}, ${folder}: ${done.status === 0 ? 'nothing found' : 'found something'}`);
    if (done.status !== 0) {
      say(done.stdout);
      found.push(`FOXTRAIL_SEED=${seed} (${folder})`);
    }
  }
}
say(found.length === 0 ? '\nNothing was found.' : `\nFound with ${found.join(', ')}`);
process.exitCode = found.length === 0 ? 0 : 1;
