// npm run mutate: small changes of the core's code, one at a time, each held against the specs of the core, then against those that
// hold it to the pattern book. A change that no spec notices has survived: a property is missing.
// -- --changes 100 --seed 1 --folder topology --lanes 2 --kind bounds
//
// Two kinds of change: what is said (a comparison turned round, every for some, over for under, a sign, an index), and bounds (a limit
// that counts or not, a constant half as large again). Between computed real numbers a limit is met with probability nought, and most
// constants are choices of the product, so that many changes of bounds change nothing that can be seen: the share wanted is of the first.
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join, relative, sep } from 'node:path';
import { parseArgs } from 'node:util';
import ts from 'typescript';
import { installPackages, root } from './prepare.mjs';
import { say } from './say.mjs';

/** A change that keeps the specs busy for so many times as long as they take without it has been noticed: they never end with it. */
const PATIENCE = 4;
/** Least share of the changes that is to be noticed. */
const WANTED = 0.85;

/** Folders without computation of their own, and texts that are the product's words rather than its logic. */
const LEFT_OUT = /(?:^index\.ts$|shipped\/|^formats\/pdf\.ts$)/;

const BOUNDS = new Map([
  [ts.SyntaxKind.LessThanToken, '<='],
  [ts.SyntaxKind.LessThanEqualsToken, '<'],
  [ts.SyntaxKind.GreaterThanToken, '>='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '>'],
]);
const OPERATORS = new Map([
  [ts.SyntaxKind.LessThanToken, '>='],
  [ts.SyntaxKind.LessThanEqualsToken, '>'],
  [ts.SyntaxKind.GreaterThanToken, '<='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '<'],
  [ts.SyntaxKind.EqualsEqualsEqualsToken, '!=='],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, '==='],
  [ts.SyntaxKind.AmpersandAmpersandToken, '||'],
  [ts.SyntaxKind.BarBarToken, '&&'],
  [ts.SyntaxKind.PlusToken, '-'],
  [ts.SyntaxKind.MinusToken, '+'],
  [ts.SyntaxKind.AsteriskToken, '/'],
]);
const NAMES = new Map([
  ['every', 'some'],
  ['some', 'every'],
  ['min', 'max'],
  ['max', 'min'],
  ['first', 'second'],
  ['over', 'under'],
  ['under', 'over'],
]);
const WORDS = new Map([
  ['clockwise', 'anticlockwise'],
  ['anticlockwise', 'clockwise'],
  ['toward', 'away from'],
  ['over', 'under'],
  ['under', 'over'],
  ['left', 'right'],
  ['right', 'left'],
]);

/** Every place of a file where something can be changed. */
function changesOf(file, text, kind) {
  const found = [];
  const bounds = kind === 'bounds';
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const put = (node, instead) => found.push({ file, from: node.getStart(source), to: node.getEnd(), instead });
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isImportDeclaration(node) || ts.isThrowStatement(node)) return;
    if (ts.isBinaryExpression(node)) {
      const instead = (bounds ? BOUNDS : OPERATORS).get(node.operatorToken.kind);
      const isText = [node.left, node.right].some((n) => ts.isStringLiteralLike(n) || ts.isTemplateExpression(n));
      if (instead && !isText) put(node.operatorToken, instead);
    } else if (bounds) {
      if (ts.isNumericLiteral(node) && Number(node.text) > 1) put(node, `(${node.text} * 1.5)`);
    } else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isNumericLiteral(node) && ['0', '1'].includes(node.text)) put(node, node.text === '0' ? '1' : '2');
    else if (ts.isPropertyAccessExpression(node) && NAMES.has(node.name.text))
      put(node.name, NAMES.get(node.name.text));
    else if (ts.isStringLiteral(node) && WORDS.has(node.text)) put(node, `'${WORDS.get(node.text)}'`);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else if (entry.name.endsWith('.ts')) yield path;
  }
}

/** Numbers from a seed: the same every time (a linear congruential generator, as in Numerical Recipes). */
function numbers(seed) {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

/** Packages whose specs hold the core, in the order they are asked. */
const HELD_BY = ['core', 'pattern-book'];

/** A copy of the core and of the specs that hold it, to be changed. Its packages are the copy's own; what they use is the checkout's. */
function copyOfCore() {
  const copy = mkdtempSync(join(tmpdir(), 'foxtrail-mutate-'));
  for (const part of [...HELD_BY.map((name) => `packages/${name}`), 'demo', 'docs', 'scripts', 'package.json'])
    cpSync(join(root, part), join(copy, part), { recursive: true });
  mkdirSync(join(copy, 'node_modules/@foxtrail'), { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@foxtrail') symlinkSync(join(root, 'node_modules', name), join(copy, 'node_modules', name));
  for (const name of HELD_BY) symlinkSync(join(copy, 'packages', name), join(copy, 'node_modules/@foxtrail', name));
  return copy;
}

/** True when the specs of a package, or the files of them named, notice what was changed, or take more than `most` milliseconds. */
function noticed(copy, held, most, specs = []) {
  return new Promise((done) => {
    const child = spawn(
      process.execPath,
      [
        '--import',
        'tsx',
        join(root, 'node_modules/jasmine/bin/jasmine.js'),
        '--config=jasmine.json',
        '--fail-fast',
        ...specs,
      ],
      { cwd: join(copy, 'packages', held), stdio: 'ignore' },
    );
    const late = Number.isFinite(most) && setTimeout(() => child.kill('SIGKILL'), most);
    child.on('exit', (code) => {
      if (late) clearTimeout(late);
      done(code !== 0);
    });
  });
}

const { values } = parseArgs({
  options: {
    changes: { type: 'string', default: '100' },
    seed: { type: 'string', default: '1' },
    folder: { type: 'string', default: '' },
    kind: { type: 'string', default: 'logic' },
    lanes: { type: 'string', default: String(Math.min(2, availableParallelism())) },
  },
});
installPackages();
const folder = join(root, 'packages/core/src');
const all = [...sources(folder)]
  .map((path) => relative(folder, path))
  .filter((file) => !LEFT_OUT.test(file) && file.startsWith(values.folder))
  .flatMap((file) => changesOf(file, readFileSync(join(folder, file), 'utf8'), values.kind));
const random = numbers(Number(values.seed));
const chosen = Array.from({ length: Number(values.changes) }, () => all[Math.floor(random() * all.length)]);
say(`${chosen.length} of ${all.length} possible changes, seed ${values.seed}`);

const survived = [];
let tried = 0;
// Specs that fail without any change would notice everything.
const unchanged = copyOfCore();
let sound = true;
/** How long the specs of each package may take, in milliseconds. */
const most = new Map();
for (const held of HELD_BY) {
  const began = Date.now();
  sound &&= !(await noticed(unchanged, held, Infinity));
  most.set(held, PATIENCE * (Date.now() - began));
}
rmSync(unchanged, { recursive: true, force: true });
if (!sound) throw new Error('The specs do not pass as they are.');
const waiting = [...chosen];
const lane = async () => {
  const copy = copyOfCore();
  try {
    for (let change = waiting.shift(); change; change = waiting.shift()) {
      const path = join(copy, 'packages/core/src', change.file);
      const text = readFileSync(path, 'utf8');
      writeFileSync(path, text.slice(0, change.from) + change.instead + text.slice(change.to));
      // Its own folder's specs are the most likely to notice; only when they do not, all are asked.
      const own = [...sources(join(copy, 'packages/core/spec'))]
        .map((p) => relative(join(copy, 'packages/core'), p))
        .filter((p) => p.endsWith('.spec.ts') && p.split(sep)[1] === change.file.split(sep)[0]);
      let killed = own.length > 0 && (await noticed(copy, 'core', most.get('core'), own));
      for (const held of HELD_BY) killed ||= await noticed(copy, held, most.get(held));
      writeFileSync(path, text);
      tried += 1;
      if (killed) continue;
      survived.push(change);
      const line = text.slice(0, change.from).split('\n').length;
      say(
        `survived: ${change.file}:${line}  ${text.slice(change.from, change.to)} → ${change.instead}   (${tried} tried)`,
      );
    }
  } finally {
    rmSync(copy, { recursive: true, force: true });
  }
};
await Promise.all(Array.from({ length: Number(values.lanes) }, lane));
const share = (tried - survived.length) / Math.max(1, tried);
say(`\n${tried - survived.length} of ${tried} were noticed (${(100 * share).toFixed(0)} %); wanted: ${100 * WANTED} %`);
process.exitCode = share >= WANTED ? 0 : 1;
