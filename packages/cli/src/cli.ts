/**
 * The `foxtrail` command: figure files checked, identified, compared and rendered without a browser or a database.
 *
 * Exit code 0: clean; 1: findings; 2: bad input or a bad call.
 */
import { VIEWS } from '@foxtrail/core';
import { GLOSSARY } from '@foxtrail/pattern-book';
import { parseArgs } from 'node:util';
import { BAD, CLEAN, type Call, type Command, type ExitCode } from './command.js';
import { atlas } from './commands/atlas.js';
import { check } from './commands/check.js';
import { compare } from './commands/compare.js';
import { footage } from './commands/footage.js';
import { identify } from './commands/identify.js';
import { invariants } from './commands/invariants.js';
import { render } from './commands/render.js';
import { set } from './commands/set.js';
import { sheet } from './commands/sheet.js';
import { read } from './commands/read.js';
import { tell } from './commands/tell.js';
import type { Terminal } from './terminal.js';

export { terminal, type Terminal } from './terminal.js';

const COMMANDS: readonly Command[] = [
  check,
  identify,
  atlas,
  compare,
  invariants,
  render,
  tell,
  read,
  footage,
  set,
  sheet,
];

/** Column in which the help text says what a command does; a longer call stands on a line of its own. */
const COLUMN = 34;

const help = (): string => `${COMMANDS.flatMap(({ name, usage }) =>
  usage.map(([call, does]) => {
    const line = `foxtrail ${name} ${call}`;
    return line.length < COLUMN ? line.padEnd(COLUMN) + does : `${line}\n${' '.repeat(COLUMN)}${does}`;
  }),
).join('\n')}

  --json        answer in JSON
  --tail D      the house's tail rule in rope diameters (check; the practice for the knot’s grade when not given)
  --words S     the school whose words the texts are written in: ${schools().join(', ')} (check, render, tell, read)
  -             as FILE: read standard input
Exit code: 0 clean, 1 findings, 2 bad input.`;

const schools = (): readonly string[] => GLOSSARY.schools.map((s) => s.id);

/** Reads what follows the command's name. Throws an error that says what is wrong with it. */
function callOf(command: Command, args: readonly string[], io: Terminal): Call {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      json: { type: 'boolean' },
      tail: { type: 'string' },
      words: { type: 'string' },
      pd: { type: 'string' },
      step: { type: 'string' },
      text: { type: 'string' },
      view: { type: 'string' },
      out: { type: 'string', short: 'o' },
      dressing: { type: 'string' },
    },
  });
  const { view = 'front', words: school = 'workshop', json = false, pd, out } = values;
  const known = VIEWS.find((v) => v.view === view);
  if (!known && command !== set) throw new Error(`There is no view “${view}”; there are front, back and left.`);
  const tail = values.tail === undefined ? undefined : Number(values.tail);
  if (tail !== undefined && !(tail >= 0))
    throw new Error(`--tail takes a number of diameters, not “${values.tail ?? ''}”.`);
  if (!schools().includes(school))
    throw new Error(`There is no school “${school}”; there are ${schools().join(', ')}.`);
  const step = values.step === undefined ? undefined : Number(values.step);
  return {
    files: positionals,
    options: {
      json,
      tail,
      words: { school, own: {} },
      pd,
      step,
      text: values.text,
      view: known?.view ?? 'front',
      station: view,
      out,
      dressing: values.dressing,
    },
    io,
  };
}

/** Runs the command; resolves to its exit code. */
export async function run(argv: readonly string[], io: Terminal): Promise<ExitCode> {
  const [name, ...rest] = argv;
  if (name === undefined || name === 'help' || name === '--help') {
    io.say(help());
    return name === undefined ? BAD : CLEAN;
  }
  const command = COMMANDS.find((c) => c.name === name);
  if (!command) {
    io.complain(`There is no command “${name}”.\n\n${help()}`);
    return BAD;
  }
  try {
    return await command.run(callOf(command, rest, io));
  } catch (error) {
    io.complain((error as Error).message);
    return BAD;
  }
}
