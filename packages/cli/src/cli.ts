/**
 * The `foxtrail` command: figure files checked, identified, compared and rendered without a browser or a database.
 *
 * Exit code 0: clean; 1: findings; 2: bad input or a bad call.
 */
import * as laurent from '@foxtrail/core/laurent';
import { readFile, writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { claimOf, GLOSSARY, knownKnots, patternKeys, findingsIn, proofOf } from '@foxtrail/pattern-book';
import {
  lessonCheck,
  remarkedKnot,
  TAKEN_AS_KNOWN,
  vocabularyFor,
  pictureBox,
  stepsOf,
  finishedFigure,
  atlasOf,
  checkPd,
  closedStrands,
  compareFigures,
  composeStep,
  crossingList,
  crossingsOf,
  drawStep,
  figureClosure,
  kinshipOf,
  liftedTangles,
  linkingNumber,
  nearestOf,
  pdJones,
  pdOf,
  pdSigns,
  readKnotText,
  readMap,
  refuse,
  repairOf,
  sayJones,
  sayKinship,
  sayOutcome,
  sayRefusal,
  signatureOf,
  skeinVector,
  stepText,
  toSvg,
  vectorData,
  verdictOf,
  VIEWS,
  windingAbout,
  WORKSHOP_PRACTICE,
  type Finding,
  type KnotDocument,
  type Refusal,
  type Result,
  type Verdict,
  type View,
  type WordChoice,
} from '@foxtrail/core';

/** Where the command reads and writes: the terminal, or a test. */
export interface Terminal {
  readonly read: (file: string) => Promise<string>;
  readonly write: (file: string, text: string) => Promise<void>;
  readonly say: (text: string) => void;
  readonly complain: (text: string) => void;
}

const CLEAN = 0;
const FOUND = 1;
const BAD = 2;

const HELP = `foxtrail check FILE…             all findings of figure files, and whether each is what it claims
foxtrail identify FILE…          what the figures are, by the pattern book
foxtrail atlas FILE              what each wrong crossing makes of the knot
foxtrail compare A B             how two figures stand to each other, with the marks that agree
foxtrail invariants FILE | --pd "[[1,4,2,5],…]"
                                  crossings, writhe, linking numbers, skein vectors, PD code, Jones polynomial
foxtrail render FILE [--step K] [--view front|back|left] [-o OUT.svg]
                                  a step, or the finished figure, as SVG

  --json        answer in JSON
  --tail D      the house's tail rule in rope diameters (check; the practice for the knot’s grade when not given)
  --words S     the school whose words the texts are written in: marine, rescue, camp, workshop (check, render)
  -             as FILE: read standard input
Exit code: 0 clean, 1 findings, 2 bad input.`;

async function standardInput(): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of process.stdin) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}

/** The real terminal. */
export const terminal = (): Terminal => ({
  read: (file) => (file === '-' ? standardInput() : readFile(file, 'utf8')),
  write: (file, text) => writeFile(file, text),
  say: (text) => void process.stdout.write(`${text}\n`),
  complain: (text) => void process.stderr.write(`${text}\n`),
});

interface Options {
  readonly json: boolean;
  readonly tail: number | undefined;
  /** The words texts are written in, unless a knot names a school of its own. */
  readonly words: WordChoice;
  readonly pd: string | undefined;
  readonly step: number | undefined;
  readonly view: View;
  readonly out: string | undefined;
}

async function open(file: string, io: Terminal): Promise<Result<KnotDocument>> {
  let text: string;
  try {
    text = await io.read(file);
  } catch (error) {
    return refuse(file, `It cannot be read: ${(error as Error).message}.`, 'Give the path of a figure file.');
  }
  const read = readKnotText(text);
  return read.ok ? read : { ...read, place: `${file}: ${read.place}` };
}

function complain(refusal: Refusal, { json }: Options, io: Terminal): number {
  if (json) io.say(JSON.stringify({ error: { place: refusal.place, reason: refusal.reason, remedy: refusal.remedy } }));
  else io.complain(sayRefusal(refusal));
  return BAD;
}

const where = (f: Finding): string =>
  [
    f.step === undefined ? '' : `step ${f.step + 1}`,
    f.crossings?.length ? `crossing ${f.crossings.join(', ')}` : '',
    f.place ? `${f.place.strand} at ${f.place.at.toFixed(2)}` : '',
  ]
    .filter((t) => t !== '')
    .join('; ');

/** The verdict on a knot by the built-in pattern book. */
function verdictOn(knot: KnotDocument): Result<Verdict> {
  const claim = claimOf(knot);
  const known = claim && { id: claim.id, name: claim.knot.name, figure: finishedFigure(claim.knot.method) };
  return verdictOf(finishedFigure(knot.method), known, patternKeys());
}

async function identify(files: readonly string[], options: Options, io: Terminal): Promise<number> {
  if (files.length === 0)
    return complain(refuse('identify', 'No file is named.', 'Name one or more figure files.'), options, io);
  let code = CLEAN;
  const report: object[] = [];
  for (const file of files) {
    const read = await open(file, io);
    const found = read.ok ? verdictOf(finishedFigure(read.value.method), undefined, patternKeys()) : read;
    if (!read.ok || !found.ok) {
      const refusal = read.ok ? (found as Refusal) : read;
      code = complain(refusal, { ...options, json: false }, io);
      report.push({ file, error: { place: refusal.place, reason: refusal.reason, remedy: refusal.remedy } });
      continue;
    }
    const { headline, evidence, matches, leftOut } = found.value;
    const nearest =
      matches.length > 0
        ? []
        : nearestOf(finishedFigure(read.value.method), knownKnots()).map(({ id, name }) => ({ id, name }));
    if (!matches.some((m) => m.relation === 'same' || m.relation === 'mirror')) code = Math.max(code, FOUND);
    const kinship = kinshipOf(finishedFigure(read.value.method), patternKeys()).map(sayKinship);
    report.push({ file, name: read.value.name, headline, evidence, matches, nearest, kinship, leftOut });
    if (options.json) continue;
    io.say(`${file}: ${headline}`);
    for (const m of matches) io.say(`  ${m.name} (${m.id}): ${m.relation}`);
    if (nearest.length > 0) io.say(`  Most like it: ${nearest.map((n) => n.name).join(', ')}`);
    for (const k of kinship) io.say(`  ${k}`);
    for (const l of leftOut) io.say(`  Left out: ${l}`);
  }
  if (options.json) io.say(JSON.stringify(report, null, 2));
  return code;
}

async function atlas(files: readonly string[], options: Options, io: Terminal): Promise<number> {
  const file = files[0];
  if (file === undefined) return complain(refuse('atlas', 'No file is named.', 'Name a figure file.'), options, io);
  const read = await open(file, io);
  if (!read.ok) return complain(read, options, io);
  const figure = finishedFigure(read.value.method);
  const found = atlasOf(figure, patternKeys());
  if (!found.ok) return complain({ ...found, place: `${file}: ${found.place}` }, options, io);
  const verdict = verdictOn(read.value);
  const claim = claimOf(read.value);
  const keys = claim && patternKeys().entries.find((e) => e.id === claim.id);
  const repair = verdict.ok && verdict.value.state === 'fails' && keys ? repairOf(figure, keys) : undefined;
  const repairs = repair?.ok ? repair.value.repairs : [];
  if (options.json) io.say(JSON.stringify({ name: read.value.name, ...found.value, repairs }, null, 2));
  else {
    io.say(`${read.value.name}: ${found.value.mistakes.length} crossings, each swapped in turn`);
    for (const g of found.value.groups) io.say(`  ${sayOutcome(g)}: ${crossingList(g.crossings)}`);
    if (claim && repairs[0]) io.say(`To make it ${claim.knot.name}: swap ${crossingList(repairs[0].crossings)}.`);
  }
  return CLEAN;
}

async function compare(files: readonly string[], options: Options, io: Terminal): Promise<number> {
  const [a, b] = files;
  if (a === undefined || b === undefined)
    return complain(refuse('compare', 'It takes two files.', 'Name two figure files.'), options, io);
  const [first, second] = [await open(a, io), await open(b, io)];
  if (!first.ok) return complain(first, options, io);
  if (!second.ok) return complain(second, options, io);
  const found = compareFigures(
    finishedFigure(first.value.method),
    finishedFigure(second.value.method),
    second.value.name,
  );
  if (!found.ok) return complain(found, options, io);
  const { relation, evidence, marks, leftOut } = found.value;
  if (options.json) io.say(JSON.stringify(found.value, null, 2));
  else {
    io.say(`${relation}. ${evidence}`);
    for (const m of marks) io.say(`  ${m.agrees ? 'agrees ' : 'differs'}  ${m.text}`);
    for (const l of leftOut) io.say(`  Left out: ${l}`);
  }
  return relation === 'same' || relation === 'same from behind' ? CLEAN : FOUND;
}

async function check(files: readonly string[], options: Options, io: Terminal): Promise<number> {
  if (files.length === 0)
    return complain(refuse('check', 'No file is named.', 'Name one or more figure files.'), options, io);
  let code = CLEAN;
  const report: object[] = [];
  for (const file of files) {
    const read = await open(file, io);
    if (!read.ok) {
      code = complain(read, { ...options, json: false }, io);
      report.push({ file, error: { place: read.place, reason: read.reason, remedy: read.remedy } });
      continue;
    }
    const { name, entry } = read.value;
    const findings = findingsIn(
      proofOf(read.value, {
        practice: WORKSHOP_PRACTICE,
        words: vocabularyFor(entry, options.words, GLOSSARY),
        tail: options.tail === undefined ? undefined : { diameters: options.tail, millimetres: 0 },
      }),
    );
    const wordCheck = lessonCheck(entry, options.words, GLOSSARY, TAKEN_AS_KNOWN);
    const texts = remarkedKnot(read.value, wordCheck);
    const remarks = texts.flatMap((t) => t.remarks.map((r) => ({ place: t.place, ...r })));
    if (findings.length > 0) code = Math.max(code, FOUND);
    report.push({ file, name, findings: findings.map(({ fix: _, ...f }) => f), words: remarks });
    if (options.json) continue;
    io.say(findings.length === 0 ? `${file}: ${name}: no findings` : `${file}: ${name}`);
    for (const f of findings)
      io.say(`  ${f.severity}: ${f.title}${where(f) === '' ? '' : ` (${where(f)})`}. ${f.why} ${f.remedy}`);
    for (const r of remarks) io.say(`  word: ${r.place}, “${r.words}”: ${r.says}`);
  }
  if (options.json) io.say(JSON.stringify(report, null, 2));
  return code;
}

/** What a knot or a PD code comes to, as plain data. */
function knotInvariants({ name, method: { figure } }: KnotDocument): object {
  const crossings = crossingsOf(figure);
  const closure = figureClosure(figure);
  const spars = figure.hosts.filter((h) => h.kind === 'spar');
  const signature = signatureOf(figure);
  const lifted = readMap(figure).ok && signature.ok ? liftedTangles(figure) : undefined;
  const first = lifted?.tangles[0];
  const closed = first ? closedStrands(first) : [];
  return {
    name,
    ...(signature.ok ? { key: signature.value.key } : { declined: sayRefusal(signature) }),
    ropes: figure.ropes.length,
    crossings: crossings.length,
    signs: crossings.map((c) => c.sign),
    windings: figure.ropes.flatMap((r) =>
      spars.map((h) => ({ rope: r.id, host: h.id, turns: windingAbout(figure, r.id, h.id) })),
    ),
    linking: closed.flatMap((a, i) => closed.slice(i + 1).map((b) => (first ? linkingNumber(first, a, b) : 0))),
    skein: (lifted?.tangles ?? []).map((t) => ({
      lifts: Object.fromEntries(t.lifts),
      vector: vectorData(skeinVector(t)),
    })),
    closure: closure.ok
      ? {
          components: closure.components,
          writhe: closure.writhe,
          pd: pdOf(closure.tangle, closure.closure),
          bracket: laurent.terms(closure.jones),
          jones: sayJones(closure.jones),
        }
      : { reason: closure.reason },
  };
}

function pdInvariants(text: string): Result<object> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return refuse(
      'PD code',
      `It is not JSON: ${(error as Error).message}.`,
      'Write it as [[1,4,2,5],[3,6,4,1],[5,2,6,3]].',
    );
  }
  if (!Array.isArray(data) || !data.every((c) => Array.isArray(c)))
    return refuse('PD code', 'It is not a list of crossings.', 'Write each as [i,j,k,l].');
  const code = checkPd(data as number[][]);
  if (!code.ok) return code;
  const jones = pdJones(code.value);
  return {
    ok: true,
    value: {
      crossings: code.value.length,
      writhe: pdSigns(code.value).reduce<number>((a, b) => a + b, 0),
      bracket: laurent.terms(jones),
      jones: sayJones(jones),
    },
  };
}

async function invariants(files: readonly string[], options: Options, io: Terminal): Promise<number> {
  let found: Result<object>;
  if (options.pd !== undefined) found = pdInvariants(options.pd);
  else if (files[0] === undefined)
    found = refuse('invariants', 'No file is named.', 'Name a figure file, or give --pd.');
  else {
    const read = await open(files[0], io);
    found = read.ok ? { ok: true, value: knotInvariants(read.value) } : read;
  }
  if (!found.ok) return complain(found, options, io);
  if (options.json) io.say(JSON.stringify(found.value, null, 2));
  else {
    const lines = (value: object, indent: string): string[] =>
      Object.entries(value).flatMap(([key, v]: [string, unknown]) =>
        typeof v === 'object' && v !== null && !Array.isArray(v)
          ? [`${indent}${key}:`, ...lines(v, `${indent}  `)]
          : [`${indent}${key}: ${typeof v === 'string' ? v : JSON.stringify(v)}`],
      );
    io.say(lines(found.value, '').join('\n'));
  }
  return CLEAN;
}

async function render(files: readonly string[], options: Options, io: Terminal): Promise<number> {
  const file = files[0];
  if (file === undefined) return complain(refuse('render', 'No file is named.', 'Name a figure file.'), options, io);
  const read = await open(file, io);
  if (!read.ok) return complain(read, options, io);
  const { name, method, entry } = read.value;
  const words = vocabularyFor(entry, options.words, GLOSSARY);
  const count = stepsOf(method).length;
  const { step, view } = options;
  if (step !== undefined && !(Number.isInteger(step) && step >= 1 && step <= count)) {
    return complain(
      refuse(`${file}: --step`, `It has ${count} steps.`, `Give a number from 1 to ${count}.`),
      options,
      io,
    );
  }
  const texts =
    step === undefined
      ? stepsOf(method)
          .map((_, i) => `${i + 1}. ${stepText(method, i, words)}`)
          .join(' ')
      : composeStep(method, step - 1, words).text;
  const svg = toSvg(drawStep(method, step === undefined ? Infinity : step - 1, { view }), {
    title: step === undefined ? name : `${name}, step ${step} of ${count}`,
    description: texts,
    width: 800,
    box: pictureBox(method, step === undefined ? Infinity : step - 1, view),
  });
  if (options.out === undefined) io.say(svg);
  else await io.write(options.out, `${svg}\n`);
  return CLEAN;
}

/** Runs the command; resolves to its exit code. */
export async function run(argv: readonly string[], io: Terminal): Promise<number> {
  const [command, ...rest] = argv;
  if (command === undefined || command === 'help' || command === '--help') {
    io.say(HELP);
    return command === undefined ? BAD : CLEAN;
  }
  const commands: Record<string, typeof check> = { check, identify, atlas, compare, invariants, render };
  const work = commands[command];
  if (!work) {
    io.complain(`There is no command “${command}”.\n\n${HELP}`);
    return BAD;
  }
  try {
    const { values, positionals } = parseArgs({
      args: rest,
      allowPositionals: true,
      options: {
        json: { type: 'boolean' },
        tail: { type: 'string' },
        words: { type: 'string' },
        pd: { type: 'string' },
        step: { type: 'string' },
        view: { type: 'string' },
        out: { type: 'string', short: 'o' },
      },
    });
    const view = values.view ?? 'front';
    const known = VIEWS.find((v) => v.view === view);
    const tail = values.tail === undefined ? undefined : Number(values.tail);
    if (!known) throw new Error(`There is no view “${view}”; there are front, back and left.`);
    if (tail !== undefined && !(tail >= 0))
      throw new Error(`--tail takes a number of diameters, not “${values.tail ?? ''}”.`);
    const school = values.words ?? 'workshop';
    const schools = GLOSSARY.schools.map((s) => s.id);
    if (!schools.includes(school)) throw new Error(`There is no school “${school}”; there are ${schools.join(', ')}.`);
    return await work(
      positionals,
      {
        json: values.json === true,
        tail,
        words: { school, own: {} },
        pd: values.pd,
        step: values.step === undefined ? undefined : Number(values.step),
        view: known.view,
        out: values.out,
      },
      io,
    );
  } catch (error) {
    io.complain((error as Error).message);
    return BAD;
  }
}
