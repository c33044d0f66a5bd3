// npm run backup, restore, account and archive: for whoever keeps a server.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { installPackages, root } from './prepare.mjs';
import { Plain, run } from './say.mjs';

/** The data folder that is named, and what else is asked. */
function asked([command, ...args]) {
  const at = args.indexOf('--data');
  const data = resolve(at < 0 ? join(root, '.data') : (args[at + 1] ?? ''));
  return { command, data, args: at < 0 ? args : [...args.slice(0, at), ...args.slice(at + 2)] };
}

/** Whether a start holds the data folder. */
async function isRunning(data) {
  const { isAlive } = await import('./start-run.mjs');
  const file = join(data, 'running.json');
  if (!existsSync(file)) return false;
  try {
    return isAlive(JSON.parse(readFileSync(file, 'utf8')).pid);
  } catch {
    return false;
  }
}

await run(async () => {
  const { command, data, args } = asked(process.argv.slice(2));
  installPackages();
  const { binaries, startCluster } = await import('./cluster.mjs');
  const isOurs = !process.env.DATABASE_URL;
  if (isOurs && !existsSync(join(data, 'postgresql')))
    throw new Plain(
      `There is no library in ${data}. Name its folder with --data DIR, or its database with DATABASE_URL.`,
    );
  if (isOurs && command === 'restore' && (await isRunning(data)))
    throw new Plain(
      'Fox Trail runs on this data folder. Stop it first (Ctrl-C where it runs), then put the backup back.',
    );
  const cluster = isOurs ? await startCluster(data) : undefined;
  try {
    const to = command === 'backup' && !args.includes('--to') ? ['--to', join(data, 'backups')] : [];
    const child = spawn(
      process.execPath,
      [
        '--import',
        import.meta.resolve('tsx'),
        join(root, 'packages/server/src/keep-command.ts'),
        command,
        ...args,
        ...to,
      ],
      {
        cwd: process.env.INIT_CWD ?? process.cwd(),
        stdio: 'inherit',
        env: {
          ...process.env,
          DATABASE_URL: cluster ? `${cluster.url}/foxtrail` : process.env.DATABASE_URL,
          ...(binaries() === undefined ? {} : { PG_BIN: binaries() }),
        },
      },
    );
    return await new Promise((done) => child.once('exit', (code) => done(code ?? 1)));
  } finally {
    if (cluster && !cluster.joined) cluster.stop();
  }
});
process.exit(process.exitCode);
