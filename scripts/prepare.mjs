// Makes a checkout ready: npm packages from the lockfile, Debian's packages where they are missing, the web build when it is stale.
// Node built-ins only: this runs before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { Plain, say } from './say.mjs';

export const root = fileURLToPath(new URL('..', import.meta.url));
export const webFolder = join(root, 'packages/web/dist/browser');

const readOr = (file, otherwise) => (existsSync(file) ? readFileSync(file, 'utf8') : otherwise);

/** Installs the packages of the lockfile, unless exactly these are there already. */
export function installPackages() {
  const stampFile = join(root, 'node_modules/.foxtrail-stamp');
  const stamp = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (readOr(stampFile, '') === stamp) return;
  say('Installing packages from the lockfile (a minute or two the first time) …');
  const done = spawnSync('npm', ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (done.error) throw new Plain('npm was not found. It comes with Node; install it and start again.');
  if (done.status !== 0)
    throw new Plain(
      'npm could not install the packages. Its own message is above; check the network or the npm registry setting and start again.',
    );
  writeFileSync(stampFile, stamp);
}

/** Installs a package of Debian's when `present` does not find it; without the right to, says the exact command. */
export function ensureDebian(name, present, what) {
  if (present()) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${name}`;
  const isRoot = process.getuid?.() === 0;
  const canSudo = !isRoot && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;
  if (!existsSync('/usr/bin/apt-get') || !(isRoot || canSudo))
    throw new Plain(
      `${what} is missing and this user may not install it. Run as root:\n\n  ${command}\n\nand start again.`,
    );
  say(`Installing ${what} from Debian's packages …`);
  const done = spawnSync(isRoot ? 'sh' : 'sudo', isRoot ? ['-c', command] : ['sh', '-c', command], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  if (done.status !== 0 || !present())
    throw new Plain(`${what} could not be installed. Try it by hand as root:\n\n  ${command}`);
}

/**
 * Debian's Chromium for tests: the one without windows does the same with a quarter less of the machine; the whole one serves too. The
 * program itself is named, for what starts it also ends it, and its script in /usr/bin would outlive that.
 */
const SHELL = '/usr/lib/chromium/chromium-headless-shell';
const CHROMIUM = '/usr/bin/chromium';

/** Makes sure of a Chromium, and names it in CHROME_BIN for whatever is started from here; one that is named there already is used. */
export function ensureChromium() {
  if (process.env.CHROME_BIN !== undefined) return;
  try {
    ensureDebian('chromium-headless-shell', () => existsSync(SHELL), 'Chromium');
    process.env.CHROME_BIN = SHELL;
  } catch (error) {
    if (!existsSync(CHROMIUM)) throw error;
    process.env.CHROME_BIN = CHROMIUM;
  }
}

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (!['node_modules', 'dist', '.angular', 'spec'].includes(entry.name)) yield* files(path);
    } else yield path;
  }
}

/** What is being built, if anything is. */
let working;

/** Ends what is being built: whoever waits for it is told that it failed. */
export const stopWork = () => working?.kill('SIGKILL');

/** Runs Node on a script, quietly; resolves to what it printed and how it ended. */
function quietly(args, cwd) {
  return new Promise((done) => {
    const child = spawn(process.execPath, args, {
      cwd,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
    });
    working = child;
    let text = '';
    child.stdout.on('data', (chunk) => (text += chunk));
    child.stderr.on('data', (chunk) => (text += chunk));
    child.on('exit', (code) => done({ code, text }));
  });
}

/** What is worth compressing, and from which size on. */
const COMPRESSED = /\.(?:js|css|html|svg|json|map|txt)$/;
const LEAST_COMPRESSED = 700;

/** Files up to so many bytes are compressed as hard as can be: what a first page waits for. For all, the workers too, it would take three times as long. */
const HARDEST_UP_TO = 250_000;

/** Puts a brotli and a gzip form beside every text file of the build, for the server to send as a browser accepts them. */
async function compressWeb() {
  const pack = { br: promisify(brotliCompress), gz: promisify(gzip) };
  const waiting = [...files(webFolder)].filter((file) => COMPRESSED.test(file) && !file.endsWith('.map'));
  const lane = async () => {
    for (let file = waiting.pop(); file !== undefined; file = waiting.pop()) {
      const plain = readFileSync(file);
      if (plain.length < LEAST_COMPRESSED) continue;
      const quality = plain.length <= HARDEST_UP_TO ? 11 : 10;
      const options = {
        br: { params: { [constants.BROTLI_PARAM_QUALITY]: quality, [constants.BROTLI_PARAM_SIZE_HINT]: plain.length } },
        gz: { level: 9 },
      };
      for (const kind of ['br', 'gz']) writeFileSync(`${file}.${kind}`, await pack[kind](plain, options[kind]));
    }
  };
  await Promise.all([lane(), lane()]);
}

/** Bundles the script and the style of the public pages into the folder that is served. */
async function buildLearn() {
  const { build } = await import('esbuild');
  const { metafile } = await build({
    metafile: true,
    entryPoints: {
      learn: join(root, 'packages/lesson/browser/page.ts'),
      'learn-style': join(root, 'packages/lesson/styles/page.css'),
      'learn-desk': join(root, 'packages/lesson/styles/desk.css'),
    },
    outdir: webFolder,
    bundle: true,
    // What a learner asks for is fetched when it is asked for.
    splitting: true,
    chunkNames: 'learn-[hash]',
    minify: true,
    format: 'esm',
    target: 'es2022',
    loader: { '.woff2': 'file' },
    assetNames: 'media/[name]-[hash]',
    logLevel: 'error',
  });
  renameSync(join(webFolder, 'learn-style.css'), join(webFolder, 'learn.css'));
  // What is kept on a device to read without a network: all of it but fonts of other scripts than the pages'.
  const kept = Object.keys(metafile.outputs)
    .map((file) => `/${relative(webFolder, file)}`.replaceAll('\\', '/').replace('/learn-style.css', '/learn.css'))
    .filter((file) => !file.startsWith('/media/') || /-latin-/.test(file));
  await build({
    entryPoints: { 'learn-offline': join(root, 'packages/lesson/offline/worker.ts') },
    outdir: webFolder,
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    define: { KEPT_FILES: JSON.stringify(JSON.stringify(kept)) },
    logLevel: 'error',
  });
}

/** Builds the web application when its sources have changed since the last build. */
export async function buildWeb() {
  const hash = createHash('sha256');
  for (const folder of ['core', 'pattern-book', 'contract', 'lesson', 'web'].map((p) => `packages/${p}`)) {
    for (const file of files(join(root, folder)))
      if (!file.endsWith('.spec.ts')) hash.update(file.slice(root.length)).update(readFileSync(file));
  }
  hash.update(readFileSync(join(root, 'package-lock.json')));
  const stamp = hash.digest('hex');
  const stampFile = join(root, 'packages/web/dist/.foxtrail-stamp');
  if (readOr(stampFile, '') === stamp && existsSync(join(webFolder, 'index.html'))) return;
  say('Building the web application (about a minute) …');
  const built = await quietly([join(root, 'node_modules/@angular/cli/bin/ng.js'), 'build'], join(root, 'packages/web'));
  if (built.code !== 0) throw new Plain(`The web application could not be built:\n${built.text}`);
  await buildLearn();
  await compressWeb();
  mkdirSync(join(root, 'packages/web/dist'), { recursive: true });
  writeFileSync(stampFile, stamp);
}
